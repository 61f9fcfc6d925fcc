import { maySay } from '#core/access/may-say'
import type { Saying } from '#core/talk/saying'
import type { Comment } from '#core/talk/thread'
import { useDesk } from '~/desk/desk'

/** What somebody may do in the talk of the open tree, and who is who in it. */
export function useTalking() {
  const desk = useDesk()
  const { talking, status, session } = desk
  const talk = computed(() => talking.talk.value)
  /** Asked again whenever role or line change. */
  const may = (allowed: () => boolean) =>
    computed(() => {
      void status.role
      void status.state
      return status.ready && allowed()
    })
  return {
    desk,
    talk,
    /** Whether somebody may do this with a comment that is there. */
    mayWith: (saying: Saying, comment: Comment): boolean => {
      void status.role
      const who = { kind: 'account', id: desk.userId } as const
      return status.ready && session.canComment && maySay(who, session.role, saying, { thread: null, comment }) === null
    },
    maySay: may(() => session.canComment),
    mayMake: may(() => session.canEdit),
    /** Somebody's name; of those too who have left the tree. */
    nameOf: (id: string): string =>
      status.people.find(one => one.id === id)?.name ?? talk.value?.names[id] ?? 'Somebody',
  }
}
