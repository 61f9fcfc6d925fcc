import { type Difference, differencesOf } from '#core/compare/differences'
import { mergeOf, takeOver, type ToldPiece } from '#core/compare/merge'
import { sidesFrom, type SidesSent } from '#core/compare/sent'
import { filesShown } from '#core/formats/files-shown'
import { applyChanges, type Change } from '#core/tree'

/* Two states of a tree side by side. */

export function compare(sides: SidesSent): { pieces: ToldPiece[]; differences: Difference[] } {
  const { here, there, common } = sidesFrom(sides)
  return {
    pieces: Array.from(mergeOf({ here, there, common }).pieces.values(), ({ key, topic, part, by, snag }) => ({
      key,
      topic,
      part,
      by,
      snag,
    })),
    // As it's read from here: what came is here alone.
    differences: differencesOf(there, here, { order: true }),
  }
}

/** What is taken over, and the files that the tree shows with it. */
export function merge({ sides, take, join }: { sides: SidesSent; take: readonly string[]; join: readonly string[] }): {
  changes: Change[]
  files: string[]
} {
  const given = sidesFrom(sides)
  const changes = takeOver(mergeOf(given), { take, join })
  applyChanges(given.here, changes)
  return { changes, files: filesShown(given.here) }
}
