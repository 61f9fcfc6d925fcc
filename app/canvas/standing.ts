import type { TopicId } from '#core/tree'
import type { Post } from './signposts'
import type { Viewport } from './viewport'

/** A post as the document shows it, in the world and at its own size whatever the zoom. */
export interface StandingPost {
  readonly id: TopicId
  readonly lines: readonly string[]
  readonly centre: boolean
  readonly left: boolean
  readonly focused: boolean
  readonly style: Readonly<Record<string, string>>
}

/** Posts for the document; the very same list while nothing about them changed, since they are asked for at each painting. */
export function standing(
  posts: readonly Post[],
  view: Viewport,
  before: readonly StandingPost[],
): readonly StandingPost[] {
  const now = posts.map(({ id, lines, centre, direction, focused, hue, x, y, width, height }) => {
    const at = view.toWorld({ x, y })
    return {
      id,
      lines,
      centre,
      left: direction === 'left',
      focused,
      style: {
        transform: `translate(${at.x.toFixed(2)}px, ${at.y.toFixed(2)}px) scale(${1 / view.zoom})`,
        width: `${Math.ceil(width)}px`,
        height: `${height}px`,
        '--rim': hue,
      },
    }
  })
  return JSON.stringify(now) === JSON.stringify(before) ? before : now
}
