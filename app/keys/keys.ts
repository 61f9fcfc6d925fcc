/*
 * Every key of Sun Porch. A chord is written as "Mod+Shift+Z"; Mod is Ctrl, on a Mac Cmd. People change them on the key
 * list.
 */
export const KEYS: Readonly<Record<string, readonly string[]>> = {
  edit: ['F2', 'E'],
  'sibling-after': ['Enter'],
  'sibling-before': ['Shift+Enter'],
  child: ['Tab', 'Insert'],
  wrap: ['Shift+P'],
  insert: ['Shift+Insert', 'Shift+I'],
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
  duplicate: ['Shift+B'],
  join: ['Shift+J'],
  split: ['Shift+K'],
  apart: ['Shift+U'],
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
  page: ['Shift+O'],
  pages: ['P'],
  filter: ['Shift+Q'],
  cells: [';'],
  'select-found': ['Shift+A'],
  sheet: ['S'],
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
  theme: ['Shift+D'],
}

/**
 * Keys while a meeting is shown as it runs. They stand for themselves: the same chord may do something else in the
 * tree.
 */
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
/** What each of them does, for the list of keys. */
export const ROOM_NAMES: Readonly<Record<string, string>> = {
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
}
const FIRST: Readonly<Record<string, readonly string[]>> = { ...KEYS, ...ROOM_KEYS }
const inRoom = (command: string): boolean => command in ROOM_KEYS

const KEPT = 'sun-porch-keys'
const isMac = /Mac|iP(hone|ad)/.test(navigator.platform)

export function loadKeys(): Record<string, readonly string[]> {
  try {
    return { ...FIRST, ...(JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Record<string, string[]>) }
  } catch {
    return { ...FIRST }
  }
}

/** One's own keys, kept in this browser. */
export const keys = ref(loadKeys())

/**
 * Gives a command a chord, which is taken from whatever else had it in the same place: the tree, or a running meeting.
 */
export function changeKey(command: string, chord: string): void {
  const own = Object.fromEntries(
    Object.entries(keys.value).map(([id, chords]) => [
      id,
      inRoom(id) === inRoom(command) ? chords.filter(other => other !== chord) : chords,
    ]),
  )
  keys.value = { ...own, [command]: [chord] }
  const changed = Object.fromEntries(
    Object.entries(keys.value).filter(([id, chords]) => chords.join() !== FIRST[id]?.join()),
  )
  localStorage.setItem(KEPT, JSON.stringify(changed))
}

export function resetKeys(): void {
  localStorage.removeItem(KEPT)
  keys.value = { ...FIRST }
}

/** The chord of a key press as it's written above; '' for a modifier alone. */
export function chordOf(event: KeyboardEvent): string {
  if (['Shift', 'Control', 'Alt', 'Meta', 'Dead', 'Process', 'Unidentified'].includes(event.key)) return ''
  const single = event.key.length === 1
  const letter = single && event.key.toLowerCase() !== event.key.toUpperCase()
  const key = letter ? event.key.toUpperCase() : event.key === ' ' ? 'Space' : event.key
  const mod = isMac ? event.metaKey : event.ctrlKey
  return [mod ? 'Mod' : '', event.altKey ? 'Alt' : '', event.shiftKey && (!single || letter) ? 'Shift' : '', key]
    .filter(Boolean)
    .join('+')
}

/** A chord as it's shown. */
export function chordInWords(chord: string): string {
  return chord
    .replace('Mod', isMac ? '⌘' : 'Ctrl')
    .replace('Alt', isMac ? '⌥' : 'Alt')
    .replace('ArrowUp', '↑')
    .replace('ArrowDown', '↓')
    .replace('ArrowLeft', '←')
    .replace('ArrowRight', '→')
    .replaceAll('+', ' + ')
    .replace(' +  + ', ' + +')
    .replace(/^ \+ $/, '+')
}

export function commandFor(event: KeyboardEvent): string | null {
  const chord = chordOf(event)
  if (!chord) return null
  return find(chord, false)
}

/** The same while a meeting is shown as it runs. */
export function roomCommandFor(event: KeyboardEvent): string | null {
  const chord = chordOf(event)
  return chord ? find(chord, true) : null
}

function find(chord: string, room: boolean): string | null {
  for (const [command, chords] of Object.entries(keys.value))
    if (inRoom(command) === room && chords.includes(chord)) return command
  return null
}

/** The first key of a command as it's shown beside it; '' when it has none. */
export function keyOf(command: string): string {
  return chordInWords(keys.value[command]?.[0] ?? '')
    .replace('PageDown', 'PgDn')
    .replace('PageUp', 'PgUp')
}
