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
  looking('Substance', 'note', 'Note', 'Long text behind a small sign.', (_, house) => house.into('note'), 'first'),
  looking(
    'Substance',
    'preview',
    'Look at what hangs here',
    'Note, links, files, place and sketch of the topic, to read; Esc leads back.',
    desk => {
      // A card that came by itself stays now.
      desk.previewed.value = desk.previewed.value?.pinned ? null : { topic: desk.focus.value, pinned: true }
    },
    'more',
  ),
  looking(
    'Substance',
    'back-again',
    'Back to where you were',
    'After a link, a reference or a cross-link led somewhere else; and out of an annex by its doorway.',
    desk => {
      if (!desk.journey.back() && desk.only.value !== null) desk.showOnly(desk.annexOf(desk.only.value))
    },
  ),
  command(
    'Substance',
    'link',
    'Link …',
    'To the web, by mail, to a topic, a file or another tree. An address pasted on a topic becomes one.',
    (_, house) => house.into('link'),
    'more',
  ),
  command(
    'Substance',
    'file',
    'Files …',
    'Up to 25 MB each; or drop them on a topic.',
    (_, house) => house.into('file'),
    'more',
  ),
  command(
    'Substance',
    'check',
    'Checklist',
    'Small things to tick off inside a topic.',
    (_, house) => house.into('check'),
    'more',
  ),
  command(
    'Substance',
    'place',
    'Place …',
    'A town or coordinates, on a small map.',
    (_, house) => house.into('place'),
    'more',
  ),
  command(
    'Substance',
    'sketch',
    'Sketch …',
    'A small pad to draw on by hand.',
    (_, house) => house.into('sketch'),
    'more',
  ),
  command(
    'Substance',
    'tie',
    'Tie to another topic …',
    'A cross-link with a label and arrows, across branches.',
    (_, house) => house.choose('tie'),
    'more',
  ),
  command(
    'Substance',
    'reference',
    'Show another topic here …',
    'A reference: live, with the way to the original.',
    (_, house) => house.choose('reference'),
    'more',
  ),
  command(
    'Substance',
    'annex',
    'An annex for the branch, or back in the tree',
    'A branch that has grown large gets room of its own, with a doorway both ways.',
    desk => toggleAnnex(desk),
    'more',
  ),
  looking(
    'Substance',
    'annexes',
    'Annexes, numbers and cross-links',
    'The list of annexes, the numbering of topics, and every cross-link.',
    (_, house) => house.panel('annexes'),
  ),
]
