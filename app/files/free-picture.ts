import { freeGround } from '#core/arrange/free'
import { addAt, type Change, isLive, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import { type BroughtPicture, sendPicture } from './pictures'

/** Room on the canvas between a branch and the picture that hangs beside it, and round the picture, in canvas units. */
const AWAY = 56
const ROUND = { width: 26, height: 34 } as const

/**
 * A picture on its own beside a topic, tied to it by a thread: a loose topic without words and a cross-link without ends, so
 * that it is moved, sized and taken away as those are. One edit.
 */
export async function hangPicture(desk: Desk, what: BroughtPicture, topic: TopicId): Promise<void> {
  const { id: file, width: wide, height } = await sendPicture(desk, what)
  // Somebody may have taken it away while the picture was on its way.
  if (!isLive(desk.tree, topic)) {
    desk.say('The topic is gone. The picture was hung nowhere.')
    return
  }
  const ratio = height / wide
  const width = Math.max(48, Math.min(180, wide))
  const { layout, tree } = desk
  const placed = layout?.find(topic)
  const room = { width: width + ROUND.width, height: width * ratio + ROUND.height }
  const wish = placed
    ? {
        x: placed.direction === 'left' ? placed.x - AWAY - room.width : placed.x + placed.width + AWAY,
        y: placed.y + placed.height + 12,
      }
    : { x: 0, y: 0 }
  const at = layout ? freeGround(layout, wish, room) : wish
  const step = addAt(tree, { parent: null, index: Infinity }, newId, { x: Math.round(at.x), y: Math.round(at.y) })
  const [made] = step.made
  if (made === undefined) return
  const tied: Change[] = [
    { op: 'set', topic: made, field: 'picture', value: { file, width, ratio, place: 'above' } },
    {
      op: 'put',
      topic: made,
      set: 'ties',
      member: { id: newId(), to: topic, label: '', ends: 'none', bend: null, hue: null },
    },
  ]
  if (!desk.run({ changes: [...step.changes, ...tied] })) return
  // Where it hangs may be out of sight; it's chosen too, to be sized or moved.
  desk.journey.to(made)
  desk.say('The picture hangs beside it, on a thread.', true)
}
