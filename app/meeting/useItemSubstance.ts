import { carriedInto } from '#core/meeting/next'
import { topicOf, type TopicId } from '#core/tree'
import { canView, openFile, openLink } from '~/files/opening'
import type { Meeting } from './useMeeting'

/** What hangs on the item that is looked at: files and links to open beside it, and what is still open from before. */
export function useItemSubstance(meeting: Meeting, shown: Readonly<Ref<TopicId | null>>) {
  const { desk } = meeting
  const documents = computed(() => {
    void desk.lateTick.value
    const id = shown.value
    if (id === null || !desk.tree.topics.has(id)) return []
    const found: { key: string; name: string; icon: string; open: () => void }[] = []
    const walk = (at: TopicId): void => {
      const topic = topicOf(desk.tree, at)
      for (const file of topic.files)
        found.push({
          key: `${at} ${file.id}`,
          name: file.name,
          icon: canView(file) ? 'lucide:file-text' : 'lucide:download',
          open: () => openFile(desk, at, file),
        })
      for (const link of topic.links)
        found.push({
          key: `${at} ${link.id}`,
          name: link.title || link.url,
          icon: 'lucide:external-link',
          open: () => openLink(desk, link),
        })
      for (const child of desk.tree.children.get(at) ?? []) walk(child)
    }
    walk(id)
    return found.slice(0, 9)
  })
  const carried = computed(() => {
    void desk.lateTick.value
    return meeting.id.value === null
      ? []
      : carriedInto(desk.tree, meeting.id.value, today()).filter(
          ({ reference }) => topicOf(desk.tree, reference).parent === shown.value,
        )
  })
  function settle(original: TopicId): void {
    desk.set('done', topicOf(desk.tree, original).done === 100 ? 0 : 100, [original])
  }

  return { documents, carried, settle }
}
