import { type Command, looking } from '../command'

const depth = (n: number | null): Command =>
  looking(
    'See',
    n === null ? 'depth-all' : `depth-${n}`,
    n === null ? 'Open all levels' : `Open to depth ${n}`,
    n === null
      ? 'Unfolds everything, for you alone.'
      : `Shows ${n === 1 ? 'one level' : `${n} levels`} below the centre, for you alone.`,
    desk => desk.openTo(n),
  )
const go = (direction: 'up' | 'down' | 'left' | 'right'): Command[] => [
  looking('Go and find', direction, `Go ${direction}`, 'To the topic that lies that way on the screen.', desk =>
    desk.go(direction),
  ),
  looking(
    'Go and find',
    `extend-${direction}`,
    `Extend the selection ${direction}`,
    'Adds what lies between to the selection.',
    desk => desk.go(direction, true),
  ),
]

/** Going about, finding, and what is seen. */
export const GO: readonly Command[] = [
  ...go('up'),
  ...go('down'),
  ...go('left'),
  ...go('right'),
  looking('Go and find', 'first', 'Go to the first sibling', 'The first topic with the same parent.', desk =>
    desk.goEnd('first'),
  ),
  looking('Go and find', 'last', 'Go to the last sibling', 'The last topic with the same parent.', desk =>
    desk.goEnd('last'),
  ),
  looking('Go and find', 'centre', 'Go to the centre', 'From wherever you are.', desk => desk.visit(desk.tree.centre)),
  looking('Go and find', 'siblings', 'Select all siblings', 'Everything with the same parent.', desk =>
    desk.selectSiblings(),
  ),
  looking(
    'Go and find',
    'find',
    'Find',
    'Titles, notes, links and files with these words; the rest steps back.',
    (_, house) => house.find(),
  ),
  looking(
    'Go and find',
    'filter',
    'Filter and views',
    'Conditions that topics must meet, and views kept under a name.',
    (_, house) => house.panel('filter'),
  ),
  looking(
    'Go and find',
    'select-found',
    'Select everything found',
    'All matches at once, for one change to all of them.',
    desk => desk.selectAll(desk.finding.matches.value),
  ),
  looking('Go and find', 'find-next', 'Next found', 'On to the next topic that matches.', desk => desk.goFound(1)),
  looking('Go and find', 'find-previous', 'Previous found', 'Back to the one before.', desk => desk.goFound(-1)),
  looking('See', 'fold', 'Fold or unfold', 'For you alone; others keep their own.', desk => desk.toggleFold(), 'first'),
  looking(
    'See',
    'only',
    'Only this branch, or the whole tree',
    'Shows one branch and hides the rest; again for the way back.',
    desk =>
      desk.showOnly(
        desk.only.value === desk.focus.value || (desk.only.value !== null && desk.focus.value === desk.only.value)
          ? null
          : desk.focus.value,
      ),
    'more',
  ),
  looking('See', 'whole', 'Back to the whole tree', 'Leaves the one branch that is shown.', desk =>
    desk.showOnly(null),
  ),
  depth(1),
  depth(2),
  depth(3),
  depth(4),
  depth(5),
  depth(6),
  depth(null),
  looking(
    'See',
    'since',
    'What is new',
    'Since you last looked, or since the last meeting: what came, changed, moved, went or was done.',
    (_, house) => house.panel('since'),
  ),
  looking(
    'See',
    'history',
    'History of the tree',
    'Who did what, the tree as it was at any moment, and ways to bring it back.',
    (desk, house) => house.history(desk.tree.centre === desk.focus.value ? null : desk.focus.value, false),
  ),
  looking(
    'See',
    'topic-history',
    'History of this branch',
    'The sittings in which this topic, or something below it, was worked on.',
    (desk, house) => house.history(desk.focus.value, true),
    'more',
  ),
  looking('See', 'fit', 'Fit the whole tree in view', 'As large as it goes, at 100 % at most.', (_, house) =>
    house.fit(),
  ),
  looking('See', 'fit-selection', 'Zoom to the selection', 'Fills the view with what is selected.', (_, house) =>
    house.fitSelection(),
  ),
  looking('See', 'zoom-in', 'Zoom in', 'A quarter larger.', (_, house) => house.zoom(1.25)),
  looking('See', 'zoom-out', 'Zoom out', 'A fifth smaller.', (_, house) => house.zoom(0.8)),
  looking('See', 'zoom-whole', 'Zoom to 100 %', 'Text as large as everywhere else.', (_, house) => house.zoom('whole')),
  looking('See', 'overview', 'Overview window', 'The whole tree in small; push the frame to go there.', (_, house) =>
    house.overview(),
  ),
  looking('See', 'switch-view', 'Switch between canvas and outline', 'The same tree as a drawing or as rows.', desk => {
    desk.view.value = desk.view.value === 'canvas' ? 'outline' : 'canvas'
  }),
  looking(
    'See',
    'meeting',
    'Meeting: brief, running and minutes',
    'Of the meeting that the selection belongs to, or the nearest one; again for the way back.',
    (_, house) => house.meeting(),
  ),
  looking(
    'See',
    'cells',
    'Into the cells of the row',
    'In the outline: Tab goes on, Enter keeps, Esc leads back.',
    (_, house) => house.cells(),
  ),
  looking('See', 'sheet', 'Show or hide the side sheet', 'Everything about the selected topic.', desk => {
    desk.sheetOpen.value = !desk.sheetOpen.value
  }),
  looking('See', 'theme', 'Light or dusk', 'The bright or the dark theme.', (_, house) => house.toggleTheme()),
]
