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
    maySay: may(() => session.canComment),
    mayMake: may(() => session.canEdit),
    /** Somebody's name; of those too who have left the tree. */
    nameOf: (id: string): string =>
      status.people.find(one => one.id === id)?.name ?? talk.value?.names[id] ?? 'Somebody',
  }
}
