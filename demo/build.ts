import { readDetails } from '#core/capture/quick-details'
import { readNested } from '#core/capture/nested'
import { noteFromMarkdown } from '#core/formats/note-text'
import {
  addAt,
  allTopics,
  applyChanges,
  branch,
  BLANK,
  type Change,
  emptyTree,
  lastChild,
  MARKERS,
  type OutlineItem,
  plantAt,
  type Topic,
  type Tree,
} from '#core/tree'
import { demoMeetings, demoStillOpen } from './meetings'
import { giveDemoFigures } from './figures'
import { demoPlan } from './plan'
import type { DemoTree } from './tree'

/**
 * A demo tree as it stands on `today` (ISO 8601), with the people's real ids. `other`: the tree that it shows topics
 * of.
 */
export function buildDemo(
  demo: DemoTree,
  people: readonly { id: string; name: string }[],
  today: string,
  newId: () => string,
  other?: { id: string; tree: Tree },
): Tree {
  const dress = (item: OutlineItem): OutlineItem => {
    const { title, details } = readDetails(item.title, { people, markers: MARKERS, today })
    const note = demo.notes[title] ? noteFromMarkdown(demo.notes[title]) : null
    const links = demo.links?.[title]?.map((link, i) => ({ id: `l${i}`, ...link }))
    const checks = demo.checks?.[title]?.map((line, i) => ({
      id: `k${i}`,
      order: `a${i}`,
      text: line.replace(/^x /, ''),
      done: line.startsWith('x '),
      due: null,
      priority: null,
    }))
    return {
      title,
      details: {
        ...details,
        ...demo.more?.[title],
        ...(checks ? { checks } : {}),
        ...(note ? { note } : {}),
        ...(links ? { links } : {}),
        ...(demo.folded.includes(title) ? { folded: true } : {}),
      },
      children: item.children.map(dress),
    }
  }
  const tree = emptyTree({ ...BLANK, id: newId(), parent: null, order: 'a0', title: demo.title })
  tree.fields = {
    ...tree.fields,
    description: demo.description,
    tags: [...(demo.tags ?? [])],
    ...(demo.arrangement ? { arrangement: demo.arrangement } : {}),
  }
  applyChanges(tree, plantAt(tree, readNested(demo.text).map(dress), { parent: tree.centre, index: 0 }, newId).changes)
  const ties: Change[] = (demo.ties ?? []).map(({ from, to, label, ends }, i) => ({
    op: 'put',
    topic: titled(tree, from).id,
    set: 'ties',
    member: { id: `t${i}`, to: titled(tree, to).id, label, ends, bend: null, hue: null },
  }))
  applyChanges(tree, ties)
  if (demo.plan) applyChanges(tree, demoPlan(tree, demo.plan, people, today))
  if (demo.figures) giveDemoFigures(tree, demo.figures)
  if (other) {
    for (const { under, title } of demo.shows ?? [])
      applyChanges(
        tree,
        addAt(tree, lastChild(tree, titled(tree, under).id), newId, {
          title,
          reference: { tree: other.id, topic: titled(other.tree, title).id },
        }).changes,
      )
  }
  if (demo.series) {
    const find = (title: string, under: string | null): string => titledUnder(tree, title, under)
    applyChanges(tree, demoMeetings(tree, demo.series, people, today, find))
    applyChanges(tree, demoStillOpen(tree, demo.series, people, today, find, newId))
  }
  return tree
}

function titled(tree: Tree, title: string): Topic {
  for (const topic of allTopics(tree)) if (topic.title === title) return topic
  throw new Error(`the demo has no topic “${title}”`)
}

function titledUnder(tree: Tree, title: string, under: string | null): string {
  for (const topic of under === null ? allTopics(tree) : branch(tree, under)) if (topic.title === title) return topic.id
  throw new Error(`the demo has no topic “${title}” there`)
}
