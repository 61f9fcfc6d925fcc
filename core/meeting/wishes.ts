import type { Change, ItemPart } from '../tree'
import { topicOf, type Tree } from '../tree/tree'
import { handTo, sayItem, takeItem } from './agenda'
import { briefOf, isMeeting, takePart } from './brief'

/*
 * In a brief people may come in any order: a name that nobody in the tree has yet stays as a wish, and an address
 * belongs to whoever joins with it. Here it's decided who is meant, once they are known.
 */

export interface KnownPerson {
  readonly id: string
  readonly name: string
  readonly email?: string
}

/** The one person a name means; null when it's nobody, or more than one. */
function meant(name: string, people: readonly KnownPerson[]): KnownPerson | null {
  const said = name.trim().toLocaleLowerCase()
  if (said === '') return null
  const whole = people.filter(
    person => person.name.toLocaleLowerCase() === said || person.email?.toLowerCase() === said,
  )
  const found =
    whole.length > 0 ? whole : people.filter(person => person.name.toLocaleLowerCase().split(/\s+/)[0] === said)
  return found.length === 1 ? found[0]! : null
}

/** A line's or an item's wish, with the person it turned out to mean. */
const wishOf = (parts: readonly ItemPart[]): string | null =>
  parts.find((part): part is Extract<ItemPart, { kind: 'wish' }> => part.kind === 'wish')?.name ?? null

/**
 * The changes that put people where their names or addresses stand, in every meeting that isn't over; nothing when
 * nobody is meant for certain.
 */
export function settleWishes(tree: Tree, people: readonly KnownPerson[]): Change[] {
  const changes: Change[] = []
  for (const topic of tree.topics.values()) {
    if (topic.removed) continue
    const wish = wishOf(topic.item)
    const owner = wish === null ? null : meant(wish, people)
    if (owner) changes.push(...(topic.people.length === 0 ? handTo(topic, owner.id) : []), takeItem(topic.id, 'wish'))
    if (!isMeeting(topic)) continue
    const brief = briefOf(topic)
    if (brief.stage === 'ended' || brief.stage === 'cancelled') continue
    const asked = new Set(brief.people.flatMap(({ user }) => user ?? []))
    for (const { id, user, mail, name, needed, role } of brief.people) {
      if (user !== null) continue
      const person =
        mail !== null
          ? (people.find(one => one.email?.toLowerCase() === mail.toLowerCase()) ?? null)
          : meant(name, people)
      if (!person) continue
      changes.push(
        asked.has(person.id)
          ? takePart(topic.id, id)
          : {
              op: 'put',
              topic: topic.id,
              set: 'meeting',
              member: { id, kind: 'person', user: person.id, mail: null, name: '', needed, role },
            },
      )
      asked.add(person.id)
    }
    for (const line of brief.lines) {
      const person = line.wish === undefined || line.owner !== null ? null : meant(line.wish, people)
      if (!person) continue
      const { wish: _, ...rest } = line
      changes.push({ op: 'put', topic: topic.id, set: 'meeting', member: { ...rest, owner: person.id } })
    }
  }
  return changes
}

/** The wish of an item, for showing beside its owner. */
export function itemWish(tree: Tree, item: string): string | null {
  return wishOf(topicOf(tree, item).item)
}

export const sayWish = (item: string, name: string): Change => sayItem(item, { id: 'wish', kind: 'wish', name })
