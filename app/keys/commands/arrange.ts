import { alignSelection, arrange, ARRANGEMENT_NAMES, distributeSelection, evenOut, layer } from '~/canvas/arranging'
import { isTwoSided, ARRANGEMENTS } from '#core/tree'
import { type Command, command, looking } from '../command'

/** Arrangements and places. */
export const ARRANGE: readonly Command[] = [
  looking('Arrange', 'arrange', 'Arrangement and spacing …', (_, house) => house.panel('arrange'), 'first'),
  ...ARRANGEMENTS.map(name =>
    command('Arrange', `arrange-${name}`, `Arrange the tree: ${ARRANGEMENT_NAMES[name].toLowerCase()}`, desk =>
      arrange(desk, name),
    ),
  ),
  ...ARRANGEMENTS.map(name =>
    command('Arrange', `branch-${name}`, `Arrange this branch: ${ARRANGEMENT_NAMES[name].toLowerCase()}`, desk =>
      arrange(desk, name, desk.focus.value),
    ),
  ),
  command('Arrange', 'branch-follow', 'Arrange this branch like the tree', desk =>
    arrange(desk, null, desk.focus.value),
  ),
  command('Arrange', 'even', 'Even out the sides', desk =>
    evenOut(desk, isTwoSided(desk.tree, desk.focus.value) ? desk.focus.value : desk.tree.centre),
  ),
  ...(['left', 'middle', 'right', 'top', 'centre', 'bottom'] as const).map(line =>
    command(
      'Arrange',
      `align-${line}`,
      `Align by hand: ${line === 'centre' ? 'in one row' : line === 'middle' ? 'in one column' : `${line} edges`}`,
      desk => alignSelection(desk, line),
    ),
  ),
  command('Arrange', 'spread-across', 'Spread by hand: equal gaps across', desk => distributeSelection(desk, 'across')),
  command('Arrange', 'spread-down', 'Spread by hand: equal gaps down', desk => distributeSelection(desk, 'down')),
  command('Arrange', 'front', 'Bring to the front', desk => layer(desk, 'front')),
  command('Arrange', 'forward', 'One layer to the front', desk => layer(desk, 'forward')),
  command('Arrange', 'backward', 'One layer to the back', desk => layer(desk, 'backward')),
  command('Arrange', 'back', 'Send to the back', desk => layer(desk, 'back')),
]
