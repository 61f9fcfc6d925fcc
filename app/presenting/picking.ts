import { picked, unpicked } from '#core/presenting/pick'
import type { TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** Puts topics behind the steps of presenting; takes them out when all of them are steps already. */
export function pickSteps(desk: Desk, topics: readonly TopicId[]): void {
  if (!desk.guard() || topics.length === 0) return
  const changes = picked(desk.tree, topics)
  if (changes.length > 0) {
    if (desk.run({ changes }))
      desk.say(changes.length === 1 ? 'It is a step of presenting now.' : `${changes.length} more steps.`, true)
    return
  }
  if (desk.run({ changes: unpicked(desk.tree, topics) }))
    desk.say(topics.length === 1 ? 'It is no step of presenting any more.' : `${topics.length} steps fewer.`, true)
}
