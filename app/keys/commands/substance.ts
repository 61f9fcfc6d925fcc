import type { Desk } from '~/desk/desk'
import { topicOf } from '#core/tree'
import { type Command, command, looking } from '../command'

/** Gives the focused branch an annex, or puts it back. */
function toggleAnnex(desk: Desk): void {
  const id = desk.focus.value
  if (id === desk.tree.centre) {
    desk.say('The centre is where everything starts from; it needs no annex.')
    return
  }
  const { annex } = topicOf(desk.tree, id)
  if (annex && desk.only.value === id) desk.showOnly(null)
  desk.set('annex', !annex, [id])
}

/** What hangs on a topic. */
export const SUBSTANCE: readonly Command[] = [
  looking('Substance', 'note', 'Note', (_, house) => house.into('note'), 'first'),
  looking('Substance', 'comment', 'Comment …', (_, house) => house.into('comment'), 'first'),
  looking(
    'Substance',
    'preview',
    'Look at what hangs here',
    desk => {
      // A card that came by itself stays now.
      desk.previewed.value = desk.previewed.value?.pinned ? null : { topic: desk.focus.value, pinned: true }
    },
    'more',
  ),
  looking('Substance', 'back-again', 'Back to where you were', desk => {
    if (!desk.journey.back() && desk.only.value !== null) desk.showOnly(desk.annexOf(desk.only.value))
  }),
  command('Substance', 'link', 'Link …', (_, house) => house.into('link'), 'more'),
  looking(
    'Substance',
    'address',
    'Copy the address of the topic',
    desk => void import('~/capture/topic-address').then(({ copyAddresses }) => copyAddresses(desk, desk.selected())),
    'more',
  ),
  command('Substance', 'file', 'Files …', (_, house) => house.into('file'), 'more'),
  looking('Substance', 'reading', 'Document beside the tree', (_, house) => house.panel('reading'), 'more'),
  command('Substance', 'check', 'Checklist', (_, house) => house.into('check'), 'more'),
  command('Substance', 'place', 'Place …', (_, house) => house.into('place'), 'more'),
  command('Substance', 'sketch', 'Sketch …', (_, house) => house.into('sketch'), 'more'),
  command('Substance', 'tie', 'Tie to another topic …', (_, house) => house.choose('tie'), 'more'),
  command('Substance', 'reference', 'Show another topic here …', (_, house) => house.choose('reference'), 'more'),
  command('Substance', 'annex', 'An annex for the branch, or back in the tree', desk => toggleAnnex(desk), 'more'),
  looking('Substance', 'annexes', 'Annexes, numbers and cross-links', (_, house) => house.panel('annexes')),
]
