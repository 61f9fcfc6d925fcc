import { groupById, idsOf } from '#core/access/groups'
import type { OwnGroup } from '#core/contract'
import type { GroupShared } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import { forgottenWith } from '~/session/forgetting'

/** One's own groups as they were fetched last, for all trees open in this browser. */
export const ownGroups = shallowRef<readonly OwnGroup[]>([])

export async function loadOwnGroups(): Promise<void> {
  ownGroups.value = await callApi<OwnGroup[]>('/api/groups')
}

let known: Promise<void> | null = null
/** Fetches one's own groups unless they were fetched since the page was opened. */
export function knowOwnGroups(): Promise<void> {
  known ??= loadOwnGroups().catch(() => {
    known = null
  })
  return known
}
forgottenWith(() => {
  ownGroups.value = []
  known = null
})

/** A group that is at hand in a tree: the tree's own, or one of whoever looks. */
export interface ShownGroup {
  readonly id: string
  readonly name: string
  /** Accounts and mail addresses. */
  readonly who: readonly string[]
  readonly shared: GroupShared | null
  readonly own: boolean
}

/** The tree's groups, then one's own, each by name. */
export function groupsOf(desk: Desk): ShownGroup[] {
  const byName = (a: ShownGroup, b: ShownGroup): number => a.name.localeCompare(b.name)
  const tree = desk.tree.fields.groups.map((group): ShownGroup => ({ ...group, own: false })).sort(byName)
  const own = ownGroups.value.map((group): ShownGroup => ({
    ...group,
    shared: group.shared[desk.session.treeId] ?? null,
    own: true,
  }))
  return [...tree, ...own]
}

/** Accounts in the tree that a group means. */
export const inGroup = (desk: Desk, id: string): string[] =>
  idsOf(groupById(id, desk.tree.fields.groups, ownGroups.value)?.who ?? [], desk.status.people)

export const groupName = (desk: Desk, id: string): string =>
  groupById(id, desk.tree.fields.groups, ownGroups.value)?.name ?? 'a group that isn’t yours or is gone'

/** Keeps what a group says, where it is kept. Throws without a line where it's one's own. */
export async function keepGroup(desk: Desk, { own, ...group }: ShownGroup): Promise<void> {
  if (!own) {
    if (desk.guard())
      desk.run({ changes: [{ op: 'tree-put', set: 'groups', member: { ...group, who: [...group.who] } }] })
    return
  }
  const there = ownGroups.value.find(({ id }) => id === group.id)
  const { [desk.session.treeId]: _, ...elsewhere } = there?.shared ?? {}
  await callApi(`/api/groups/${group.id}`, {
    method: 'PUT',
    body: {
      name: group.name,
      who: addressesOf(desk, group.who),
      shared: group.shared ? { ...elsewhere, [desk.session.treeId]: group.shared } : elsewhere,
    },
  })
  await loadOwnGroups()
}

/** One's own groups hold addresses, since they're meant in every tree. */
const addressesOf = (desk: Desk, who: readonly string[]): string[] => [
  ...new Set(
    who.flatMap(entry => {
      if (entry.includes('@')) return [entry]
      return desk.status.people.find(({ id }) => id === entry)?.email?.toLowerCase() ?? []
    }),
  ),
]

export async function dropGroup(desk: Desk, group: ShownGroup): Promise<void> {
  if (group.own) {
    await callApi(`/api/groups/${group.id}`, { method: 'DELETE' })
    await loadOwnGroups()
  } else if (desk.guard()) desk.run({ changes: [{ op: 'tree-take', set: 'groups', member: group.id }] })
}

export const freshGroup = (own: boolean): ShownGroup => ({ id: newId(), name: '', who: [], shared: null, own })
