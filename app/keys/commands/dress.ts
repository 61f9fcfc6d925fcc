import { copyStyle, pasteStyle, undress } from '~/dress/wardrobe'
import { type Command, command, looking } from '../command'

/** Markers, colours and style. */
export const DRESS: readonly Command[] = [
  looking('Mark and dress', 'mark', 'Markers', (_, house) => house.panel('markers'), 'first'),
  looking('Mark and dress', 'key', 'The key of this tree', (_, house) => house.panel('key')),
  looking('Mark and dress', 'dress', 'Colour and style', (_, house) => house.panel('dress'), 'first'),
  looking('Mark and dress', 'copy-style', 'Copy the style', desk => copyStyle(desk), 'more'),
  command('Mark and dress', 'paste-style', 'Paste the style', desk => pasteStyle(desk), 'more'),
  command('Mark and dress', 'undress', 'Take the style off', desk => undress(desk), 'more'),
  command('Mark and dress', 'picture', 'Picture …', (_, house) => house.picture(), 'more'),
  command('Mark and dress', 'done', 'Done or not done', desk => desk.toggleDone(), 'more'),
  looking('Mark and dress', 'task', 'Task details', (_, house) => house.into('task'), 'first'),
]
