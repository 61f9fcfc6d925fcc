import { addChild, addSibling, insertBetween, moveSelection, removeSelection, wrapSelection } from '~/capture/building'
import { apart, detach, join, reverse, sort, sortByWords, split, toggleCentre } from '~/capture/reshaping'
import { toTray } from '~/capture/tray'
import { type Command, command, looking } from '../command'

/** Typing, building, moving and ordering. */
export const BUILD: readonly Command[] = [
  command('Type and build', 'edit', 'Edit the title', desk => desk.edit(), 'first'),
  command('Type and build', 'sibling-after', 'New topic after', desk => addSibling(desk, 'after'), 'first'),
  command('Type and build', 'sibling-before', 'New topic before', desk => addSibling(desk, 'before'), 'more'),
  command('Type and build', 'child', 'New topic under', addChild, 'first'),
  command('Type and build', 'wrap', 'New parent around the selection', wrapSelection, 'more'),
  command('Type and build', 'insert', 'New topic between this and its children', insertBetween, 'more'),
  command('Type and build', 'remove', 'Remove the branch', removeSelection, 'first'),
  command('Type and build', 'duplicate', 'Duplicate the branch …', (_, house) => house.open('duplicate'), 'more'),
  command('Type and build', 'join', 'Join the selected topics', desk => join(desk), 'more'),
  command('Type and build', 'split', 'Split the topic', desk => split(desk), 'more'),
  command('Type and build', 'apart', 'Take the branch apart', desk => apart(desk), 'more'),
  command('Type and build', 'undo', 'Undo', desk => desk.undo()),
  command('Type and build', 'redo', 'Redo', desk => desk.redo()),
  command('Move and order', 'move-up', 'Move up', desk => moveSelection(desk, 'up'), 'more'),
  command('Move and order', 'move-down', 'Move down', desk => moveSelection(desk, 'down'), 'more'),
  command(
    'Move and order',
    'move-out',
    'Move one level out',
    desk => void (desk.carry('left') || moveSelection(desk, 'out')),
    'more',
  ),
  command(
    'Move and order',
    'move-in',
    'Move one level in',
    desk => void (desk.carry('right') || moveSelection(desk, 'in')),
    'more',
  ),
  command('Move and order', 'move-under', 'Move under …', (_, house) => house.moveUnder(), 'more'),
  command('Move and order', 'detach', 'Make it loose', desk => detach(desk), 'more'),
  command(
    'Move and order',
    'another-centre',
    'Another centre, or a loose topic again',
    desk => toggleCentre(desk),
    'more',
  ),
  command('Move and order', 'to-tray', 'Put in the tray', desk => toTray(desk), 'more'),
  looking('Move and order', 'tray', 'The tray', (_, house) => house.tray(), 'more'),
  command('Move and order', 'sort-title', 'Sort children by title', desk => sort(desk, 'title'), 'more'),
  command('Move and order', 'sort-words', 'Sort children by weekday, month or “first, second”', sortByWords, 'more'),
  command('Move and order', 'sort-due', 'Sort children by due date', desk => sort(desk, 'due'), 'more'),
  command('Move and order', 'sort-priority', 'Sort children by priority', desk => sort(desk, 'priority'), 'more'),
  command('Move and order', 'sort-figure', 'Sort children by figure', desk => sort(desk, 'figure'), 'more'),
  command('Move and order', 'sort-done', 'Sort children by progress', desk => sort(desk, 'done')),
  command('Move and order', 'reverse', 'Reverse the children', desk => reverse(desk), 'more'),
]
