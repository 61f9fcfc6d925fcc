import { alignSelection, arrange, ARRANGEMENT_NAMES, distributeSelection, evenOut, layer } from '~/canvas/arranging'
import { toggleItem, toggleReady } from '~/meeting/doing'
import type { MeetingAct } from '~/meeting/useMeeting'
import { addChild, addSibling, insertBetween, moveSelection, removeSelection, wrapSelection } from '~/capture/building'
import type { Desk } from '~/desk/desk'
import { apart, detach, join, reverse, sort, split, toggleCentre } from '~/capture/reshaping'
import { toTray } from '~/capture/tray'
import { copyStyle, pasteStyle, undress } from '~/dress/wardrobe'
import { ARRANGEMENTS, topicOf } from '#core/tree'

export type Panel = 'markers' | 'dress' | 'arrange' | 'key' | 'filter' | 'pages'
/** What of the side sheet a command goes to. */
export type SheetPart = 'note' | 'task' | 'link' | 'file' | 'check' | 'place' | 'sketch' | 'tie'
export type Box = 'everything' | 'keys' | 'share' | 'help' | 'duplicate' | 'starter' | 'about'

export interface Command {
  readonly id: string
  readonly name: string
  readonly group:
    | 'Type and build'
    | 'Move and order'
    | 'Arrange'
    | 'Go and find'
    | 'See'
    | 'Mark and dress'
    | 'Substance'
    | 'Meet'
    | 'General'
  /** One line for the help and the key list. */
  readonly help: string
  /** Whether it stands on the context menu of a topic: on it at once, or under the heading of its group. */
  readonly menu?: 'first' | 'more'
  readonly changes?: boolean
  run(desk: Desk, house: House): void
}

/** What the page around the tree can do. */
export interface House {
  fit(): void
  fitSelection(): void
  zoom(by: number | 'whole'): void
  open(what: Box): void
  panel(what: Panel): void
  tray(): void
  find(): void
  moveUnder(): void
  overview(): void
  picture(): void
  toggleTheme(): void
  into(part: SheetPart): void
  /** Asks for a topic and ties the selection to it, or makes a reference to it. */
  choose(what: 'tie' | 'reference'): void
  /** Into the first cell of the row, in the outline. */
  cells(): void
  /** Does something to the meeting that the selection belongs to, showing it. */
  meetingDo(what: MeetingAct): void
  /** Shows the meeting, or the tree again. */
  meeting(): void
  makeMeeting(): void
}

/** Gives the focused branch a page of its own, or puts it back. */
function togglePage(desk: Desk): void {
  const id = desk.focus.value
  if (id === desk.tree.centre) {
    desk.say('The centre is the page that everything starts from.')
    return
  }
  const { page } = topicOf(desk.tree, id)
  if (page && desk.only.value === id) desk.showOnly(null)
  desk.set('page', !page, [id])
}

type Group = Command['group']
const command = (
  group: Group,
  id: string,
  name: string,
  help: string,
  run: Command['run'],
  menu?: Command['menu'],
  changes = true,
): Command => ({ id, name, group, help, run, changes, ...(menu ? { menu } : {}) })
const looking = (
  group: Group,
  id: string,
  name: string,
  help: string,
  run: Command['run'],
  menu?: Command['menu'],
): Command => command(group, id, name, help, run, menu, false)

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

/** Every command once: its name, its place, its help line, what it does. Keys stand in keys.ts. */
export const COMMANDS: readonly Command[] = [
  command(
    'Type and build',
    'edit',
    'Edit the title',
    'Opens the title; Enter keeps it, Esc leaves it as it was, and redo brings what you typed.',
    desk => desk.edit(),
    'first',
  ),
  command(
    'Type and build',
    'sibling-after',
    'New topic after',
    'Begins a topic right after this one.',
    desk => addSibling(desk, 'after'),
    'first',
  ),
  command(
    'Type and build',
    'sibling-before',
    'New topic before',
    'Begins a topic right before this one.',
    desk => addSibling(desk, 'before'),
    'more',
  ),
  command(
    'Type and build',
    'child',
    'New topic under',
    'Begins a topic as the last one under this.',
    addChild,
    'first',
  ),
  command(
    'Type and build',
    'wrap',
    'New parent around the selection',
    'Puts one new topic around everything selected.',
    wrapSelection,
    'more',
  ),
  command(
    'Type and build',
    'insert',
    'New topic between this and its children',
    'The children hang on the new topic from then on.',
    insertBetween,
    'more',
  ),
  command(
    'Type and build',
    'remove',
    'Remove the branch',
    'Takes it off the tree; an offer names it and brings it back.',
    removeSelection,
    'first',
  ),
  command(
    'Type and build',
    'duplicate',
    'Duplicate the branch …',
    'A copy beside it, with or without notes, people, dates and progress.',
    (_, house) => house.open('duplicate'),
    'more',
  ),
  command(
    'Type and build',
    'join',
    'Join the selected topics',
    'The first one takes the titles and everything under the others.',
    desk => join(desk),
    'more',
  ),
  command(
    'Type and build',
    'split',
    'Split the topic',
    'One topic for each line or sentence of the title.',
    desk => split(desk),
    'more',
  ),
  command(
    'Type and build',
    'apart',
    'Take the branch apart',
    'Its children come up a level, and it goes.',
    desk => apart(desk),
    'more',
  ),
  command('Type and build', 'undo', 'Undo', 'Takes back your own last edit, never somebody else’s.', desk =>
    desk.undo(),
  ),
  command('Type and build', 'redo', 'Redo', 'Does again what you took back.', desk => desk.redo()),

  command(
    'Move and order',
    'move-up',
    'Move up',
    'One place up among its siblings.',
    desk => moveSelection(desk, 'up'),
    'more',
  ),
  command(
    'Move and order',
    'move-down',
    'Move down',
    'One place down among its siblings.',
    desk => moveSelection(desk, 'down'),
    'more',
  ),
  command(
    'Move and order',
    'move-out',
    'Move one level out',
    'Right after its parent; the branch comes along.',
    desk => moveSelection(desk, 'out'),
    'more',
  ),
  command(
    'Move and order',
    'move-in',
    'Move one level in',
    'Under the sibling before it.',
    desk => moveSelection(desk, 'in'),
    'more',
  ),
  command(
    'Move and order',
    'move-under',
    'Move under …',
    'A few letters of the new parent, and the selection hangs there; attaches what is loose.',
    (_, house) => house.moveUnder(),
    'more',
  ),
  command(
    'Move and order',
    'detach',
    'Make it loose',
    'Takes the branch off its parent and leaves it on the canvas.',
    desk => detach(desk),
    'more',
  ),
  command(
    'Move and order',
    'another-centre',
    'Another centre, or a loose topic again',
    'Draws a loose topic as a second centre with its own arrangement.',
    desk => toggleCentre(desk),
    'more',
  ),
  command(
    'Move and order',
    'to-tray',
    'Put in the tray',
    'Takes the selection off the tree until it’s filed again.',
    desk => toTray(desk),
    'more',
  ),
  looking(
    'Move and order',
    'tray',
    'The tray',
    'A list of loose lines beside the tree: write now, file later.',
    (_, house) => house.tray(),
    'more',
  ),
  command(
    'Move and order',
    'sort-title',
    'Sort children by title',
    'A to Z, numbers by their value.',
    desk => sort(desk, 'title'),
    'more',
  ),
  command(
    'Move and order',
    'sort-due',
    'Sort children by due date',
    'The earliest first; what has no date comes last.',
    desk => sort(desk, 'due'),
    'more',
  ),
  command(
    'Move and order',
    'sort-priority',
    'Sort children by priority',
    'The most urgent first.',
    desk => sort(desk, 'priority'),
    'more',
  ),
  command(
    'Move and order',
    'sort-figure',
    'Sort children by figure',
    'By the number in the title, the largest first.',
    desk => sort(desk, 'figure'),
    'more',
  ),
  command('Move and order', 'sort-done', 'Sort children by progress', 'The least done first.', desk =>
    sort(desk, 'done'),
  ),
  command('Move and order', 'reverse', 'Reverse the children', 'Last becomes first.', desk => reverse(desk), 'more'),

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
    'Shares the main branches out so that both sides are about as tall.',
    desk => evenOut(desk),
  ),
  ...(['left', 'middle', 'right', 'top', 'centre', 'bottom'] as const).map(line =>
    command(
      'Arrange',
      `align-${line}`,
      `Align by hand: ${line === 'centre' ? 'in one row' : line === 'middle' ? 'in one column' : `${line} edges`}`,
      'The last one selected stays where it is.',
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
  command('Arrange', 'back', 'Send to the back', 'Behind other topics that stand by hand.', desk =>
    layer(desk, 'back'),
  ),

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

  looking('Substance', 'note', 'Note', 'Long text behind a small sign.', (_, house) => house.into('note'), 'first'),
  looking(
    'Substance',
    'preview',
    'Look at what hangs here',
    'Note, links, files, place and sketch of the topic, to read; Esc leads back.',
    desk => {
      desk.previewed.value = desk.previewed.value ? null : { topic: desk.focus.value, pinned: true }
    },
    'more',
  ),
  looking(
    'Substance',
    'back-again',
    'Back to where you were',
    'After a link, a reference or a cross-link led somewhere else.',
    desk => {
      desk.journey.back()
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
    'page',
    'A page of its own, or back in the tree',
    'A branch that has grown large gets a sheet for itself.',
    desk => togglePage(desk),
    'more',
  ),
  looking(
    'Substance',
    'pages',
    'Pages, numbers and cross-links',
    'The list of pages, the numbering of topics, and every cross-link.',
    (_, house) => house.panel('pages'),
  ),

  command(
    'Meet',
    'make-meeting',
    'Make it a meeting',
    'Gives the topic a brief: why, what must be settled, the way there, when and who.',
    (_, house) => house.makeMeeting(),
    'more',
  ),
  command(
    'Meet',
    'make-item',
    'Make it an agenda item, or a topic again',
    'An item of the meeting it stands in, with minutes and an owner.',
    desk => toggleItem(desk),
    'more',
  ),
  command(
    'Meet',
    'ready',
    'My section is ready',
    'Tells the lead that what was asked for is filled in; again takes it back.',
    desk => toggleReady(desk),
    'more',
  ),
  command(
    'Meet',
    'lay-out',
    'Lay out the agenda',
    'Makes the lines of the brief topics, with owners, minutes and inner pattern. Again, it adds what is missing.',
    (_, house) => house.meetingDo('layOut'),
  ),
  command(
    'Meet',
    'ask-owners',
    'Ask the owners to fill in their sections',
    'A letter to each, with the way straight to the section.',
    (_, house) => house.meetingDo('request'),
  ),
  command('Meet', 'invite', 'Invite everybody, or send the change', 'Letters with a calendar file.', (_, house) =>
    house.meetingDo('invite'),
  ),
  command('Meet', 'begin-meeting', 'Begin the meeting', 'The clock runs for everybody.', (_, house) =>
    house.meetingDo('begin'),
  ),
  command('Meet', 'end-meeting', 'End the meeting', 'The minutes are there at once.', (_, house) =>
    house.meetingDo('end'),
  ),
  command('Meet', 'mail-minutes', 'Mail the minutes to everybody', 'Each with their own actions first.', (_, house) =>
    house.meetingDo('mail'),
  ),
  command(
    'Meet',
    'next-meeting',
    'Next meeting of the series',
    'The same people and shape, the next day by the rule, with what is still open.',
    (_, house) => house.meetingDo('next'),
    'more',
  ),

  looking('General', 'everything', 'Everything box', 'Topics, trees and commands by name.', (_, house) =>
    house.open('everything'),
  ),
  looking('General', 'help', 'Help', 'Short pages on everything, with a search.', (_, house) => house.open('help')),
  looking('General', 'keys', 'List of keys', 'Every key; each can be changed.', (_, house) => house.open('keys')),
  looking('General', 'about', 'Describe and tag the tree …', 'What it is for, and words to find it by.', (_, house) =>
    house.open('about'),
  ),
  looking('General', 'starter', 'Save the tree as a starter …', 'For new trees that begin like this one.', (_, house) =>
    house.open('starter'),
  ),
  looking('General', 'share', 'Share', 'Who may see and change this tree.', (_, house) => house.open('share')),
]

const byId = new Map(COMMANDS.map(one => [one.id, one]))

export function commandOf(id: string): Command | undefined {
  return byId.get(id)
}
