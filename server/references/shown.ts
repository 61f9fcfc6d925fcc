import { inArray } from 'drizzle-orm'
import type { ShownTopic } from '#core/contract'
import { isLive, markersOf, type Reference, type Topic, topicOf, type Tree } from '#core/tree'
import { roleOn } from '../access/roles'
import { database } from '../database/connect'
import { users } from '../database/schema'
import { readTree } from '../trees/held'

/** How many references one after the other are followed; more is taken for a circle. */
const MOST_STEPS = 8
/** References of a tree to others that are looked up at most. */
const MOST = 500

const NOTHING = { title: '', treeTitle: '', markers: [], people: [], due: null, done: null } as const

interface Opened {
  readonly state: 'open' | 'closed' | 'trashed'
  readonly tree: Tree | null
}

/**
 * What the references of a tree to other trees show to a person. Each tree on the way is opened as that person, or not
 * at all.
 */
export async function shownOf(tree: Tree, userId: string): Promise<ShownTopic[]> {
  const opened = new Map<string, Promise<Opened>>()
  const open = (id: string): Promise<Opened> => {
    let found = opened.get(id)
    if (!found) opened.set(id, (found = openAs(id, userId)))
    return found
  }
  const wanted = new Map<string, { tree: string; topic: string }>()
  for (const { reference, removed } of tree.topics.values()) {
    if (!removed && reference !== null && reference.tree !== null && wanted.size < MOST)
      wanted.set(`${reference.tree}/${reference.topic}`, { tree: reference.tree, topic: reference.topic })
  }
  const shown = await Promise.all([...wanted.values()].map(one => follow(one, open)))
  const names = await namesOf(shown.flatMap(one => one.people))
  return shown.map(one => ({ ...one, people: one.people.map(id => names.get(id) ?? 'Somebody') }))
}

async function openAs(id: string, userId: string): Promise<Opened> {
  const role = await roleOn(id, userId)
  if (!role) return { state: 'closed', tree: null }
  if (role.trashed) return { state: 'trashed', tree: null }
  const item = await readTree(id, role.version)
  return item ? { state: 'open', tree: item.tree } : { state: 'closed', tree: null }
}

async function follow(
  wanted: { tree: string; topic: string },
  open: (id: string) => Promise<Opened>,
): Promise<ShownTopic> {
  const answer = (state: ShownTopic['state'], tree: Tree | null, topic?: Topic): ShownTopic => ({
    ...wanted,
    ...NOTHING,
    state,
    ...(tree ? { treeTitle: topicOf(tree, tree.centre).title } : {}),
    ...(tree && topic
      ? {
          title: topic.title,
          due: topic.due,
          done: topic.done,
          people: topic.people,
          markers: markersOf(tree.fields).filter(marker => topic.markers.includes(marker.id)),
        }
      : {}),
  })
  let at: { tree: string; topic: string } = wanted
  for (let step = 0; step < MOST_STEPS; step++) {
    const { state, tree } = await open(at.tree)
    if (!tree) return answer(state === 'trashed' ? 'trashed' : 'closed', null)
    const topic = tree.topics.get(at.topic)
    if (!topic) return answer('gone', tree)
    if (!isLive(tree, topic.id)) return answer('trashed', tree)
    const next: Reference | null = topic.reference
    if (!next) return answer('shown', tree, topic)
    at = { tree: next.tree ?? at.tree, topic: next.topic }
  }
  return answer('loop', null)
}

async function namesOf(ids: readonly string[]): Promise<Map<string, string>> {
  if (ids.length === 0) return new Map()
  const rows = await database()
    .select({ id: users.id, name: users.name })
    .from(users)
    .where(inArray(users.id, [...new Set(ids)]))
  return new Map(rows.map(row => [row.id, row.name]))
}
