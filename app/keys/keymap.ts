/*
 * Every key of Sun Porch, by where it's heard. A chord is written as "Mod+Shift+Z"; Mod is Ctrl, on a Mac Cmd. A key of two
 * steps is written with a space between: "G T". People change them on the key list; a chord belongs to one action in each
 * place, and may do something else in another.
 */
type Chords = Readonly<Record<string, readonly string[]>>

/** Keys of the tree: canvas, outline and the page around them. Each is a command's. */
export const KEYS: Readonly<Record<string, readonly string[]>> = {
  edit: ['F2', 'E'],
  'sibling-after': ['Enter'],
  'sibling-before': ['Shift+Enter'],
  child: ['Tab'],
  wrap: ['Shift+P'],
  insert: ['Shift+I'],
  'move-up': ['Alt+ArrowUp'],
  'move-down': ['Alt+ArrowDown'],
  'move-out': ['Alt+ArrowLeft', 'Shift+Tab'],
  'move-in': ['Alt+ArrowRight'],
  remove: ['Delete', 'Backspace'],
  undo: ['Mod+Z'],
  redo: ['Mod+Shift+Z', 'Mod+Y'],
  fold: ['.'],
  'depth-1': ['1'],
  'depth-2': ['2'],
  'depth-3': ['3'],
  'depth-4': ['4'],
  'depth-5': ['5'],
  'depth-6': ['6'],
  'depth-all': ['0'],
  up: ['ArrowUp'],
  down: ['ArrowDown'],
  left: ['ArrowLeft'],
  right: ['ArrowRight'],
  'extend-up': ['Shift+ArrowUp'],
  'extend-down': ['Shift+ArrowDown'],
  'extend-left': ['Shift+ArrowLeft'],
  'extend-right': ['Shift+ArrowRight'],
  first: ['Home'],
  last: ['End'],
  centre: ['Mod+Home'],
  siblings: ['Mod+A'],
  mark: ['M'],
  key: ['K'],
  dress: ['C'],
  'copy-style': ['Shift+C'],
  'paste-style': ['Shift+V'],
  picture: ['I'],
  arrange: ['R'],
  even: ['Y'],
  duplicate: ['Shift+B'],
  join: ['Shift+J'],
  split: ['Shift+K'],
  apart: ['Shift+U', 'Shift+Delete', 'Shift+Backspace'],
  detach: ['Shift+X'],
  tray: ['L'],
  'to-tray': ['Shift+L'],
  'move-under': ['G'],
  only: ['O'],
  overview: ['W'],
  'fit-selection': ['Z'],
  'find-next': [']'],
  'find-previous': ['['],
  front: [')'],
  back: ['('],
  help: ['H'],
  done: ['D'],
  task: ['T'],
  note: ['N'],
  preview: ['Space'],
  'back-again': ['Q'],
  link: ['Shift+N'],
  file: ['Shift+F'],
  check: ['Shift+T'],
  place: ['Shift+W'],
  sketch: ['Shift+S'],
  tie: ['X'],
  reference: ['Shift+R'],
  annex: ['Shift+O'],
  annexes: ['P'],
  filter: ['Shift+Q'],
  cells: [';'],
  'select-found': ['Shift+A'],
  sheet: ['S'],
  since: ['U N'],
  comment: ['U C'],
  comments: ['U L'],
  bench: ['U T'],
  'look-here': ['U A'],
  watch: ['U W'],
  vote: ['U V'],
  history: ['U H'],
  'topic-history': ['U B'],
  compare: ['U S'],
  'hand-out': ['U O'],
  present: ['U F'],
  steps: ['U G'],
  step: ['U J'],
  address: ['U E'],
  schedule: ['U P'],
  board: ['U K'],
  figures: ['U I'],
  'wait-for': ['A'],
  'wait-abroad': ['U X'],
  'look-abroad': ['U D'],
  reading: ['U R'],
  later: ['>'],
  sooner: ['<'],
  longer: ['Shift+E'],
  shorter: ['Shift+H'],
  'next-critical': ['B'],
  fit: ['F'],
  'zoom-in': ['+', '='],
  'zoom-out': ['-'],
  'zoom-whole': ['Mod+0'],
  'switch-view': ['V'],
  meeting: ['J'],
  'make-meeting': ['Shift+M'],
  'make-item': ['Shift+G'],
  ready: ['Shift+Y'],
  'next-meeting': ['Shift+Z'],
  find: ['/'],
  everything: ['Mod+K'],
  keys: ['?'],
  'ten-keys': [','],
  theme: ['Shift+D'],
}

/**
 * What a key that is held down does again and again: ways about, and steps that the next one takes further. Everything else happens
 * once a press: nobody takes half a tree away by leaning on Backspace.
 */
export const HELD: ReadonlySet<string> = new Set([
  ...['up', 'down', 'left', 'right', 'extend-up', 'extend-down', 'extend-left', 'extend-right'],
  ...['move-up', 'move-down', 'move-out', 'move-in', 'find-next', 'find-previous', 'next-critical'],
  ...['later', 'sooner', 'longer', 'shorter', 'zoom-in', 'zoom-out', 'undo', 'redo'],
])

/** Keys while a meeting is shown as it runs. */
export const ROOM_KEYS: Readonly<Record<string, readonly string[]>> = {
  'room-next': ['PageDown', '>'],
  'room-back': ['PageUp', '<'],
  'room-decision': ['D'],
  'room-action': ['A'],
  'room-question': ['Q'],
  'room-idea': ['I'],
  'room-parked': ['P'],
  'room-cut': ['C'],
  'room-pause': ['Z'],
  'room-present': ['F'],
}

/** Keys while the tree is presented; a clicker has Page Up and Page Down. */
const PRESENT_KEYS: Chords = {
  'present-next': ['ArrowRight', 'PageDown', 'Space'],
  'present-back': ['ArrowLeft', 'PageUp'],
  'present-first': ['Home'],
  'present-last': ['End'],
  'present-again': ['Z'],
  'present-open': ['O'],
  'present-speaker': ['N'],
  'present-screen': ['F'],
}

/** Keys while a title is being typed. */
const TITLE_KEYS: Chords = {
  'title-keep': ['Enter'],
  'title-before': ['Shift+Enter'],
  'title-break': ['Mod+Enter'],
  'title-in': ['Tab'],
  'title-out': ['Shift+Tab'],
  'title-turn': ['Alt+Enter'],
  'title-drop': ['Escape'],
}

/** Keys in a cell of the outline. */
const CELL_KEYS: Chords = {
  'cell-keep': ['Enter'],
  'cell-drop': ['Escape'],
  'cell-after': ['Tab'],
  'cell-before': ['Shift+Tab'],
  'cell-up': ['ArrowUp'],
  'cell-down': ['ArrowDown'],
}

/** Keys on the lines of the tray. */
const TRAY_KEYS: Chords = {
  'tray-up': ['ArrowUp'],
  'tray-down': ['ArrowDown'],
  'tray-extend-up': ['Shift+ArrowUp'],
  'tray-extend-down': ['Shift+ArrowDown'],
  'tray-file': ['Enter'],
  'tray-remove': ['Delete', 'Backspace'],
  'tray-all': ['Mod+A'],
}

/** Keys while something is dragged. */
const DRAG_KEYS: Chords = { 'drag-colour': ['C'] }

/** Where keys are heard, and which there are. */
export const KEYMAP = {
  tree: KEYS,
  room: ROOM_KEYS,
  present: PRESENT_KEYS,
  title: TITLE_KEYS,
  cells: CELL_KEYS,
  tray: TRAY_KEYS,
  drag: DRAG_KEYS,
} as const
export type Scope = keyof typeof KEYMAP

const SCOPES: ReadonlyMap<string, Scope> = new Map(
  Object.entries(KEYMAP).flatMap(([scope, chords]) => Object.keys(chords).map(action => [action, scope as Scope])),
)
/** Where an action is heard. */
export const scopeOf = (action: string): Scope => SCOPES.get(action) ?? 'tree'

/** The keys that are no commands' keys, by where they are heard: what each does, for the list of keys. */
export const SECTIONS: readonly { readonly title: string; readonly names: Readonly<Record<string, string>> }[] = [
  {
    title: 'While a meeting runs',
    names: {
      'room-next': 'Next item, for everybody',
      'room-back': 'Back to the item before',
      'room-decision': 'Decision',
      'room-action': 'Action',
      'room-question': 'Question',
      'room-idea': 'Idea',
      'room-parked': 'Parked',
      'room-cut': 'Cut what is left evenly',
      'room-pause': 'Let the clock stand still, or go on',
      'room-present': 'Fill the screen',
    },
  },
  {
    title: 'While presenting',
    names: {
      'present-next': 'Next step',
      'present-back': 'Back to the step before',
      'present-first': 'First step',
      'present-last': 'Last step',
      'present-again': 'The step as it was shown, after looking around',
      'present-open': 'What the selected topic carries, over the tree',
      'present-speaker': 'A window of your own: notes, what comes next, the clock',
      'present-screen': 'Fill the screen, or no more',
    },
  },
  {
    title: 'While typing a title',
    names: {
      'title-keep': 'Keep it; in a new topic, on to the next',
      'title-before': 'Keep it, and a new topic before',
      'title-break': 'Break the line',
      'title-in': 'Keep it, and on one level in',
      'title-out': 'One level out, typing on',
      'title-turn': 'A new topic becomes a child instead of a sibling, or the other way round, typing on',
      'title-drop': 'End typing: a new topic keeps its text, a changed title goes back, redo brings what was typed',
    },
  },
  {
    title: 'In the cells of the outline',
    names: {
      'cell-keep': 'Keep what is typed, and down',
      'cell-drop': 'Back to the row',
      'cell-after': 'On to the next cell',
      'cell-before': 'Back to the cell before',
      'cell-up': 'The cell above',
      'cell-down': 'The cell below',
    },
  },
  {
    title: 'On the lines of the tray',
    names: {
      'tray-up': 'The line above',
      'tray-down': 'The line below',
      'tray-extend-up': 'Choose the line above as well',
      'tray-extend-down': 'Choose the line below as well',
      'tray-file': 'File under what the letters name',
      'tray-remove': 'Take the lines away',
      'tray-all': 'Choose all lines',
    },
  },
  { title: 'While dragging', names: { 'drag-colour': 'Takes the colour there, or keeps its own' } },
]

export const ACTION_NAMES: Readonly<Record<string, string>> = Object.assign({}, ...SECTIONS.map(({ names }) => names))
