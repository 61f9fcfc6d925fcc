import type { Topic, TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { itemsOf } from './agenda'
import { briefOf, startOf } from './brief'
import { type NameOf, personName } from './minutes'
import type { HasRead } from './reading'
import type { Planned } from './readiness'

/** What the tree itself can't say about a meeting. */
export interface World {
  readonly nameOf: NameOf
  /** Who answers for what nobody owns when the meeting has no chair. */
  readonly lead: string
  /** Titles of other meetings that people (by their ids in the brief) are in at the same time. */
  readonly elsewhere: ReadonlyMap<string, string>
  /** Files of the tree, by address, that can't be opened. */
  readonly closed: ReadonlySet<string>
  /** How far each reader of an item is, by item and person. */
  readonly reading: Readonly<Record<TopicId, Readonly<Record<string, HasRead>>>>
}

function documentsOf(tree: Tree, item: TopicId, closed: ReadonlySet<string>): { name: string; opens: boolean }[] {
  const found: { name: string; opens: boolean }[] = []
  const walk = (topic: Topic): void => {
    for (const { name, file } of topic.files) found.push({ name, opens: !closed.has(file) })
    for (const child of childrenOf(tree, topic.id)) walk(topicOf(tree, child))
  }
  walk(topicOf(tree, item))
  return found
}

function countOf(reading: Readonly<Record<string, HasRead>> | undefined): { of: number; read: number } | null {
  const all = Object.values(reading ?? {})
  return all.length === 0 ? null : { of: all.length, read: all.filter(one => one === 'read').length }
}

/** A meeting as `readiness.ts` looks at it. Lines that aren't laid out yet count as items. */
export function plannedOf(tree: Tree, meeting: TopicId, world: World): Planned {
  const brief = briefOf(topicOf(tree, meeting))
  const start = startOf(brief)
  return {
    lead: brief.people.find(({ role }) => role === 'chair')?.user ?? world.lead,
    why: brief.why,
    mostMusts: tree.fields.mostMusts,
    musts: brief.musts,
    slot: brief.slot,
    start: start === null ? 'none' : start.kind === 'gap' ? 'gap' : 'set',
    laidOut: brief.lines.length === 0,
    items: [
      ...itemsOf(tree, meeting).map(item => ({
        id: item.id,
        title: item.title,
        intent: item.intent,
        minutes: item.minutes,
        owner: item.owners[0] ?? null,
        serves: item.serves,
        section: item.asked ? { by: item.asked.by, ready: item.ready } : null,
        documents: documentsOf(tree, item.id, world.closed),
        reading: countOf(world.reading[item.id]),
      })),
      ...brief.lines.map(({ id, title, intent, minutes, owner, serves }) => ({
        id,
        title,
        intent,
        minutes,
        owner,
        serves,
        section: null,
        documents: [],
        reading: null,
      })),
    ],
    people: brief.people.map(person => ({
      id: person.id,
      name: personName(person, world.nameOf),
      needed: person.needed,
      invited: brief.invitation?.to.some(({ id }) => id === person.id) ?? false,
      elsewhere: world.elsewhere.get(person.id) ?? null,
    })),
  }
}
