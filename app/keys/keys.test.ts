import { lineOf } from './command-lines'
import { ref, shallowRef } from 'vue'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { LOOKS, MARKERS } from '#core/tree'
import * as keymap from './keymap'

/* The keys, the commands and the help are written in three places; here they are held together. */

let keys: typeof import('./keys')
let commands: typeof import('./commands')
let help: typeof import('./help-pages')
const kept = new Map<string, string>()
beforeAll(async () => {
  vi.stubGlobal('navigator', { platform: 'Linux x86_64' })
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
    removeItem: (key: string) => kept.delete(key),
  })
  vi.stubGlobal('ref', ref)
  vi.stubGlobal('shallowRef', shallowRef)
  vi.stubGlobal('document', {
    createElement: () => ({ getContext: () => ({ measureText: () => ({ width: 0 }) }) }),
    fonts: { ready: Promise.resolve(), addEventListener: () => {} },
    addEventListener: () => {},
  })
  vi.stubGlobal('window', {
    matchMedia: () => ({ matches: false, addEventListener: () => {} }),
    addEventListener: () => {},
  })
  keys = await import('./keys')
  commands = await import('./commands')
  help = await import('./help-pages')
})
afterAll(() => vi.unstubAllGlobals())

const press = (key: string, more: Partial<KeyboardEvent> = {}): KeyboardEvent =>
  ({ key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...more }) as KeyboardEvent

describe('keys', () => {
  it('belong each to one command that there is, and no chord to two', () => {
    const known = new Set(commands.COMMANDS.map(({ id }) => id))
    const chords = Object.values(keymap.KEYMAP.tree).flat()
    expect(Object.keys(keymap.KEYMAP.tree).filter(id => !known.has(id))).toEqual([])
    expect(chords.filter((chord, i) => chords.indexOf(chord) !== i)).toEqual([])
    expect(known.size).toBe(commands.COMMANDS.length)
    // While a meeting runs, chords stand for themselves, again each for one thing.
    const room = Object.values(keymap.KEYMAP.room).flat()
    expect(room.filter((chord, i) => room.indexOf(chord) !== i)).toEqual([])
    // Whatever is no command's has its line in the list of keys.
    const { tree: _, ...others } = keymap.KEYMAP
    expect(Object.keys(keymap.ACTION_NAMES).sort()).toEqual(
      Object.values(others)
        .flatMap(scope => Object.keys(scope))
        .sort(),
    )
    expect([
      keys.actionFor('tree', press('d')),
      keys.actionFor('room', press('d')),
      keys.actionFor('room', press('PageDown')),
      keys.actionFor('room', press('D', { shiftKey: true })),
      keys.actionFor('room', press('Shift')),
    ]).toEqual(['done', 'room-decision', 'room-next', null, null])
  })
  it('every command says in a line what it does, and those that change the tree say so', () => {
    for (const { id, name } of commands.COMMANDS)
      expect([id, name.length > 2, lineOf(id).length > 10]).toEqual([id, true, true])
    for (const id of ['edit', 'child', 'remove', 'make-meeting', 'next-meeting', 'lay-out'])
      expect(commands.commandOf(id)?.changes).toBe(true)
    for (const id of ['find', 'fold', 'meeting', 'keys']) expect(commands.commandOf(id)?.changes).toBe(false)
  })
  it('no two rows of one name, in the lists of commands and keys, of markers and of looks', () => {
    const twice = (names: readonly string[]): string[] => names.filter((name, i) => names.indexOf(name) !== i)
    expect(twice(commands.COMMANDS.map(({ name }) => name.toLowerCase()))).toEqual([])
    expect(twice(MARKERS.map(({ name }) => name.toLowerCase()))).toEqual([])
    expect(twice(LOOKS.map(({ name }) => name.toLowerCase()))).toEqual([])
  })
  it('that the help names are there, each with a key', () => {
    const named = help.HELP.flatMap(({ body }) =>
      body.flatMap(text => [...text.matchAll(/\{([\w-]+)\}/g)].map(match => match[1]!)),
    )
    expect(named.length).toBeGreaterThan(30)
    // What has no key of its own is found in the everything box.
    const without = named.filter(id => !Object.values(keymap.KEYMAP).some(scope => id in scope))
    expect([...new Set(without)]).toEqual(['starter', 'for-others'])
    expect(named.filter(id => commands.commandOf(id) === undefined && !(id in keymap.ACTION_NAMES))).toEqual([])
    expect(new Set(help.HELP.map(({ id }) => id)).size).toBe(help.HELP.length)
  })
  it.each<[string, Partial<KeyboardEvent>, string, string | null]>([
    ['e', {}, 'E', 'edit'],
    ['E', { shiftKey: true }, 'Shift+E', 'longer'],
    ['M', { shiftKey: true }, 'Shift+M', 'make-meeting'],
    ['Enter', { shiftKey: true }, 'Shift+Enter', 'sibling-before'],
    ['?', { shiftKey: true }, '?', 'keys'],
    ['z', { ctrlKey: true }, 'Mod+Z', 'undo'],
    ['Z', { ctrlKey: true, shiftKey: true }, 'Mod+Shift+Z', 'redo'],
    [' ', {}, 'Space', 'preview'],
    ['ArrowUp', { altKey: true }, 'Alt+ArrowUp', 'move-up'],
    ['Shift', { shiftKey: true }, '', null],
    ['Dead', {}, '', null],
    ['é', {}, 'É', null],
  ])('%s %j is %s', (key, more, chord, command) => {
    expect([keys.chordOf(press(key, more)), keys.actionFor('tree', press(key, more))]).toEqual([chord, command])
  })
  it('can be changed, which takes the chord from whoever had it, and put back', () => {
    keys.changeKey('fold', 'E')
    expect([keys.actionFor('tree', press('e')), keys.keys.value.edit]).toEqual(['fold', ['F2']])
    expect(keys.loadKeys().fold).toEqual(['E'])
    // A key of the running meeting takes nothing from the tree.
    keys.changeKey('room-decision', 'B')
    keys.changeKey('room-idea', 'F2')
    expect([
      keys.actionFor('room', press('b')),
      keys.actionFor('room', press('d')),
      keys.actionFor('tree', press('F2')),
      keys.keyOf('room-idea'),
      keys.keyOf('room-next'),
    ]).toEqual(['room-decision', null, 'edit', 'F2', 'PgDn'])
    // Those of a title, too.
    keys.changeKey('title-break', 'Alt+Enter')
    expect([
      keys.actionFor('title', press('Enter', { altKey: true })),
      keys.actionFor('title', press('Enter')),
    ]).toEqual(['title-break', 'title-keep'])
    keys.resetKeys()
    expect(keys.actionFor('tree', press('e'))).toBe('edit')
    // Keys somebody gave to what has another name now are still theirs.
    kept.set('sun-porch-keys', JSON.stringify({ page: ['B'] }))
    expect(keys.loadKeys().annex).toEqual(['B'])
    kept.set('sun-porch-keys', '{broken')
    expect(keys.loadKeys()).toEqual(Object.assign({}, ...Object.values(keymap.KEYMAP)))
  })
  it('of two steps wait for the second, which does nothing else, and give up after a while', () => {
    vi.useFakeTimers()
    keys.changeKey('theme', 'Y D')
    keys.changeKey('task', 'Y T')
    expect(keys.pressed('tree', press('y'))).toEqual({ waits: true })
    expect(keys.firstStep.value?.follow.map(({ chord, action }) => `${chord} ${action}`).sort()).toEqual([
      'D theme',
      'T task',
    ])
    expect(keys.pressed('tree', press('t'))).toEqual({ action: 'task' })
    expect(keys.firstStep.value).toBeNull()
    // A second step that means nothing is taken: “Delete” by itself would remove the topic.
    keys.pressed('tree', press('y'))
    expect(keys.pressed('tree', press('Delete'))).toEqual({ waits: true })
    expect(keys.pressed('tree', press('Delete'))).toEqual({ action: 'remove' })
    // The first step of one place is none in another.
    keys.pressed('tree', press('y'))
    expect(keys.pressed('room', press('d'))).toEqual({ action: 'room-decision' })
    keys.pressed('tree', press('y'))
    vi.advanceTimersByTime(5000)
    expect(keys.pressed('tree', press('d'))).toEqual({ action: 'done' })
    keys.pressed('tree', press('y'))
    expect([keys.endSteps(), keys.endSteps()]).toEqual([true, false])
    // A key of one step and one that begins as it does can't both be heard.
    keys.changeKey('fold', 'Y')
    expect([keys.keys.value.theme, keys.keys.value.task]).toEqual([[], []])
    expect(keys.chordInWords('Y D')).toBe('Y then D')
    keys.resetKeys()
    vi.useRealTimers()
  })
  it('are shown as people read them', () => {
    expect([keys.chordInWords('Mod+Shift+Z'), keys.chordInWords('Alt+ArrowLeft'), keys.chordInWords('+')]).toEqual([
      'Ctrl + Shift + Z',
      'Alt + ←',
      '+',
    ])
  })
})
