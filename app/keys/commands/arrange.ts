import { alignSelection, arrange, ARRANGEMENT_NAMES, distributeSelection, evenOut, layer } from '~/canvas/arranging'
import { isTwoSided, ARRANGEMENTS } from '#core/tree'
import { type Command, command, looking } from '../command'

/** Arrangements and places. */
export const ARRANGE: readonly Command[] = [
  looking(
    'Arrange',
    'arrange',
    'Arrangement and spacing …',
    'How the tree, or this branch, is laid out.',
    (_, house) => house.panel('arrange'),
    'first',
  ),
  ...ARRANGEMENTS.map(name =>
    command(
      'Arrange',
      `arrange-${name}`,
      `Arrange the tree: ${ARRANGEMENT_NAMES[name].toLowerCase()}`,
      'The whole tree; nothing is lost, places by hand are kept.',
      desk => arrange(desk, name),
    ),
  ),
  ...ARRANGEMENTS.map(name =>
    command(
      'Arrange',
      `branch-${name}`,
      `Arrange this branch: ${ARRANGEMENT_NAMES[name].toLowerCase()}`,
      'This branch alone.',
      desk => arrange(desk, name, desk.focus.value),
    ),
  ),
  command(
    'Arrange',
    'branch-follow',
    'Arrange this branch like the tree',
    'Gives up the branch’s own arrangement.',
    desk => arrange(desk, null, desk.focus.value),
  ),
  command(
    'Arrange',
    'even',
    'Even out the sides',
    'Splits the branches of the centre, or of the topic that has the focus, where both sides are about as tall.',
    desk => evenOut(desk, isTwoSided(desk.tree, desk.focus.value) ? desk.focus.value : desk.tree.centre),
  ),
  ...(['left', 'middle', 'right', 'top', 'centre', 'bottom'] as const).map(line =>
    command(
      'Arrange',
      `align-${line}`,
      `Align by hand: ${line === 'centre' ? 'in one row' : line === 'middle' ? 'in one column' : `${line} edges`}`,
      'The one that has the focus stays where it is.',
      desk => alignSelection(desk, line),
    ),
  ),
  command('Arrange', 'spread-across', 'Spread by hand: equal gaps across', 'Three or more; the outermost stay.', desk =>
    distributeSelection(desk, 'across'),
  ),
  command('Arrange', 'spread-down', 'Spread by hand: equal gaps down', 'Three or more; the outermost stay.', desk =>
    distributeSelection(desk, 'down'),
  ),
  command('Arrange', 'front', 'Bring to the front', 'Over other topics that stand by hand.', desk =>
    layer(desk, 'front'),
  ),
  command('Arrange', 'forward', 'One layer to the front', 'Past the next topic that lies over it.', desk =>
    layer(desk, 'forward'),
  ),
  command('Arrange', 'backward', 'One layer to the back', 'Past the next topic that lies under it.', desk =>
    layer(desk, 'backward'),
  ),
  command('Arrange', 'back', 'Send to the back', 'Behind other topics that stand by hand.', desk =>
    layer(desk, 'back'),
  ),
]
