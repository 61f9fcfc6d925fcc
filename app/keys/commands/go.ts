import { type Command, command, looking } from '../command'

const depth = (n: number | null): Command =>
  looking('See', n === null ? 'depth-all' : `depth-${n}`, n === null ? 'Open all levels' : `Open to depth ${n}`, desk =>
    desk.openTo(n),
  )
const go = (direction: 'up' | 'down' | 'left' | 'right'): Command[] => [
  looking('Go and find', direction, `Go ${direction}`, desk => desk.go(direction)),
  looking('Go and find', `extend-${direction}`, `Extend the selection ${direction}`, desk => desk.go(direction, true)),
]

/** Going about, finding, and what is seen. */
export const GO: readonly Command[] = [
  ...go('up'),
  ...go('down'),
  ...go('left'),
  ...go('right'),
  looking('Go and find', 'first', 'Go to the first sibling', desk => desk.goEnd('first')),
  looking('Go and find', 'last', 'Go to the last sibling', desk => desk.goEnd('last')),
  looking('Go and find', 'centre', 'Go to the centre', desk => desk.visit(desk.tree.centre)),
  looking('Go and find', 'siblings', 'Select all siblings', desk => desk.selectSiblings()),
  looking('Go and find', 'find', 'Find', (_, house) => house.find()),
  looking('Go and find', 'filter', 'Filter and views', (_, house) => house.panel('filter')),
  looking('Go and find', 'select-found', 'Select everything found', desk => desk.selectAll(desk.finding.matches.value)),
  looking('Go and find', 'find-next', 'Next found', desk => desk.goFound(1)),
  looking('Go and find', 'find-previous', 'Previous found', desk => desk.goFound(-1)),
  looking('See', 'fold', 'Fold or unfold', desk => desk.toggleFold(), 'first'),
  looking(
    'See',
    'only',
    'Only this branch, or the whole tree',
    desk =>
      desk.showOnly(
        desk.only.value === desk.focus.value || (desk.only.value !== null && desk.focus.value === desk.only.value)
          ? null
          : desk.focus.value,
      ),
    'more',
  ),
  looking('See', 'whole', 'Back to the whole tree', desk => desk.showOnly(null)),
  depth(1),
  depth(2),
  depth(3),
  depth(4),
  depth(5),
  depth(6),
  depth(null),
  looking('See', 'since', 'What is new', (_, house) => house.panel('since')),
  looking('See', 'comments', 'All comments', (_, house) => house.panel('comments')),
  looking('See', 'bench', 'Talk of the tree', (_, house) => house.panel('bench')),
  looking('See', 'watch', 'Watch this branch, or no more', desk => void desk.watching.toggle(desk.focus.value), 'more'),
  looking('See', 'look-here', 'Ask all to look here', desk => desk.following.ask()),
  looking('See', 'history', 'History of the tree', (desk, house) =>
    house.history(desk.tree.centre === desk.focus.value ? null : desk.focus.value, false),
  ),
  looking(
    'See',
    'topic-history',
    'History of this branch',
    (desk, house) => house.history(desk.focus.value, true),
    'more',
  ),
  looking('See', 'compare', 'Side by side with …', (_, house) => house.compare()),
  looking('See', 'present', 'Present the tree', (_, house) => house.present()),
  looking('See', 'steps', 'Steps of presenting', (_, house) => house.panel('steps')),
  command(
    'See',
    'step',
    'Make it a step of presenting, or no more',
    desk => void import('~/presenting/picking').then(({ pickSteps }) => pickSteps(desk, desk.selected())),
    'more',
  ),
  looking('See', 'fit', 'Fit the whole tree in view', (_, house) => house.fit()),
  looking('See', 'fit-selection', 'Zoom to the selection', (_, house) => house.fitSelection()),
  looking('See', 'zoom-in', 'Zoom in', (_, house) => house.zoom(1.25)),
  looking('See', 'zoom-out', 'Zoom out', (_, house) => house.zoom(0.8)),
  looking('See', 'zoom-whole', 'Zoom to 100 %', (_, house) => house.zoom('whole')),
  looking('See', 'overview', 'Overview window', (_, house) => house.overview()),
  looking('See', 'switch-view', 'Switch between canvas and outline', desk => {
    desk.view.value = desk.view.value === 'canvas' ? 'outline' : 'canvas'
  }),
  looking('See', 'meeting', 'Meeting: brief, running and minutes', (_, house) => house.meeting()),
  looking('See', 'cells', 'Into the cells of the row', (_, house) => house.cells()),
  looking('See', 'sheet', 'Show or hide the side sheet', desk => {
    desk.sheetOpen.value = !desk.sheetOpen.value
  }),
  looking('See', 'theme', 'Light or dusk', (_, house) => house.toggleTheme()),
]
