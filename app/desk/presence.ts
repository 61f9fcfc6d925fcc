import type { TopicId } from '#core/tree'
import type { Desk } from './desk'

/** Tells the others where one is. A topic that is being made isn't there for them yet: they see its maker at its parent. */
export function showPresence(desk: Desk): void {
  const open = desk.editing.value
  const known = (id: TopicId): TopicId | null =>
    open?.fresh && open.id === id ? (desk.tree.topics.get(id)?.parent ?? null) : id
  desk.session.showPresence(
    [...desk.selection.value].flatMap(id => known(id) ?? []),
    open ? known(open.id) : null,
    desk.presents.value,
  )
}
