import type { GroupShared } from '../tree/group'

/*
 * Who a group means in a tree, and what is offered where it was let in and has changed since.
 */

/** Somebody who has a role in the tree. */
export interface GroupPerson {
  readonly id: string
  readonly email?: string | null | undefined
  readonly role?: string
}

/** The account's id that an entry means in this tree; null when it's an address of nobody in it. */
export function personOf(entry: string, people: readonly GroupPerson[]): string | null {
  if (!entry.includes('@')) return people.some(({ id }) => id === entry) ? entry : null
  return people.find(({ email }) => email?.toLowerCase() === entry)?.id ?? null
}

/** Those of a group who are in the tree. */
export function idsOf(who: readonly string[], people: readonly GroupPerson[]): string[] {
  return [...new Set(who.flatMap(entry => personOf(entry, people) ?? []))]
}

/** Addresses of a group that neither have a role nor have been asked. `asked`: addresses of invitations that wait. */
export function missingOf(who: readonly string[], people: readonly GroupPerson[], asked: readonly string[]): string[] {
  return [...new Set(who)].filter(
    entry => entry.includes('@') && personOf(entry, people) === null && !asked.includes(entry),
  )
}

/** Those of a group who can be asked and aren't yet, by account or address. `asked`: accounts and addresses that are. */
export function unaskedOf(
  who: readonly string[],
  people: readonly GroupPerson[],
  asked: ReadonlySet<string>,
): string[] {
  return settled(who, people).filter(
    entry => !asked.has(entry) && (entry.includes('@') || personOf(entry, people) !== null),
  )
}

/** A group as a tree keeps it: whoever is in the tree by account, others by address, nobody twice. */
export function settled(who: readonly string[], people: readonly GroupPerson[]): string[] {
  return [...new Set(who.map(entry => personOf(entry, people) ?? entry))]
}

/** What is offered since a group was let in. */
export interface GroupOffer {
  /** Addresses to invite. */
  readonly come: readonly string[]
  /** Accounts that are in the tree and not in the group any more. Owners are never offered to be sent away. */
  readonly gone: readonly string[]
}

export function offerOf(
  who: readonly string[],
  shared: GroupShared | null,
  people: readonly GroupPerson[],
  asked: readonly string[],
): GroupOffer {
  if (!shared) return { come: [], gone: [] }
  const before = new Set(settled(shared.who, people))
  const now = new Set(settled(who, people))
  const came = [...now].filter(entry => !before.has(entry))
  return {
    come: missingOf(came, people, asked),
    gone: [...before].filter(
      entry => !now.has(entry) && people.some(({ id, role }) => id === entry && role !== 'owner'),
    ),
  }
}

/** The group with this id among those of the tree and one's own; the tree's comes first. */
export function groupById<A extends { readonly id: string }, B extends { readonly id: string }>(
  id: string,
  tree: readonly A[],
  own: readonly B[],
): A | B | undefined {
  return tree.find(one => one.id === id) ?? own.find(one => one.id === id)
}
