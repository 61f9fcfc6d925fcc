import { copyStyle, pasteStyle, undress } from '~/dress/wardrobe'
import { type Command, command, looking } from '../command'

/** Markers, colours and style. */
export const DRESS: readonly Command[] = [
  looking(
    'Mark and dress',
    'mark',
    'Markers',
    'The sheet of markers; it stays open from topic to topic.',
    (_, house) => house.panel('markers'),
    'first',
  ),
  looking(
    'Mark and dress',
    'key',
    'The key of this tree',
    'Which markers are used, how often; click one to filter.',
    (_, house) => house.panel('key'),
  ),
  looking(
    'Mark and dress',
    'dress',
    'Colour and style',
    'Colours, text, shape and border, of topics, branches, levels or the whole tree.',
    (_, house) => house.panel('dress'),
    'first',
  ),
  looking(
    'Mark and dress',
    'copy-style',
    'Copy the style',
    'Of the topic that has the focus.',
    desk => copyStyle(desk),
    'more',
  ),
  command(
    'Mark and dress',
    'paste-style',
    'Paste the style',
    'Onto everything selected.',
    desk => pasteStyle(desk),
    'more',
  ),
  command(
    'Mark and dress',
    'undress',
    'Take the style off',
    'Back to how the level and the look have it.',
    desk => undress(desk),
    'more',
  ),
  command(
    'Mark and dress',
    'picture',
    'Picture …',
    'Puts a picture in the topic, from a file; or drop or paste one.',
    (_, house) => house.picture(),
    'more',
  ),
  command(
    'Mark and dress',
    'done',
    'Done or not done',
    'Complete turns the edge green and adds a tick.',
    desk => desk.toggleDone(),
    'more',
  ),
  looking(
    'Mark and dress',
    'task',
    'Task details',
    'People, dates, length and progress on the side sheet.',
    (_, house) => house.into('task'),
    'first',
  ),
]
