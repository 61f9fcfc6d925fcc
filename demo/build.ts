import { readDetails } from '#core/capture/quick-details'
import { readNested } from '#core/capture/nested'
import { noteFromMarkdown } from '#core/formats/note-text'
import { applyChanges, BLANK, emptyTree, MARKERS, type OutlineItem, plantAt, type Tree } from '#core/tree'
import type { DemoTree } from './trees'

/** A demo tree as it stands on `today` (ISO 8601), with the people's real ids. */
export function buildDemo(demo: DemoTree, people: readonly { id: string, name: string }[], today: string, newId: () => string): Tree {
  const dress = (item: OutlineItem): OutlineItem => {
    const { title, details } = readDetails(item.title, { people, markers: MARKERS, today })
    const note = demo.notes[title] ? noteFromMarkdown(demo.notes[title]) : null
    const links = demo.links?.[title]?.map((link, i) => ({ id: `l${i}`, ...link }))
    return {
      title,
      details: { ...details, ...(note ? { note } : {}), ...(links ? { links } : {}), ...(demo.folded.includes(title) ? { folded: true } : {}) },
      children: item.children.map(dress),
    }
  }
  const tree = emptyTree({ ...BLANK, id: newId(), parent: null, order: 'a0', title: demo.title })
  tree.fields = { ...tree.fields, description: demo.description, tags: [...demo.tags ?? []], ...(demo.arrangement ? { arrangement: demo.arrangement } : {}) }
  applyChanges(tree, plantAt(tree, readNested(demo.text).map(dress), { parent: tree.centre, index: 0 }, newId).changes)
  return tree
}
