import { KEYMAP, scopeOf, type Scope } from './keymap'

const FIRST: Readonly<Record<string, readonly string[]>> = Object.assign({}, ...Object.values(KEYMAP))

const KEPT = 'sun-porch-keys'
const isMac = /Mac|iP(hone|ad)/.test(navigator.platform)

/** Actions that had another name when somebody gave them a key of their own. */
const RENAMED: Readonly<Record<string, string>> = { page: 'annex', pages: 'annexes' }

export function loadKeys(): Record<string, readonly string[]> {
  try {
    const own = JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Record<string, string[]>
    return { ...FIRST, ...Object.fromEntries(Object.entries(own).map(([id, chords]) => [RENAMED[id] ?? id, chords])) }
  } catch {
    return { ...FIRST }
  }
}

/** One's own keys, kept in this browser. */
export const keys = ref(loadKeys())

/** Whether one chord is another, or its first step: then both can't be heard in one place. */
const clashes = (a: string, b: string): boolean => a === b || a.startsWith(`${b} `) || b.startsWith(`${a} `)

/**
 * Gives an action a chord, which is taken from whatever else is heard in the same place under it, or under a chord that
 * begins or goes on as it does.
 */
export function changeKey(action: string, chord: string): void {
  const own = Object.fromEntries(
    Object.entries(keys.value).map(([id, chords]) => [
      id,
      scopeOf(id) === scopeOf(action) ? chords.filter(other => !clashes(other, chord)) : chords,
    ]),
  )
  keys.value = { ...own, [action]: [chord] }
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

/** A chord as it's shown; two steps one after the other. */
export function chordInWords(chord: string): string {
  if (/^\S+ \S+$/.test(chord)) return chord.split(' ').map(chordInWords).join(' then ')
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

/** The first step of a key of two, and what may follow it; null when none waits. */
export const firstStep = shallowRef<{
  readonly scope: Scope
  readonly chord: string
  readonly follow: readonly { readonly chord: string; readonly action: string }[]
} | null>(null)
/** How long the second step is waited for, ms. */
const SECOND_STEP_MS = 4000
let secondStep: ReturnType<typeof setTimeout> | undefined

/** Forgets a first step that waits. False when none did. */
export function endSteps(): boolean {
  clearTimeout(secondStep)
  const waited = firstStep.value !== null
  firstStep.value = null
  return waited
}

/** What a key means: an action; or nothing yet, since a second step is to follow or what followed is none. */
export type Pressed = { readonly action: string } | { readonly waits: true }

/**
 * What a key press means where it's heard; null when nothing, and the key is free for whatever else hears it. A first step
 * waits a while for the second; a second that means nothing is taken too, so that it doesn't do something by itself.
 */
export function pressed(scope: Scope, event: KeyboardEvent): Pressed | null {
  const chord = chordOf(event)
  if (!chord) return null
  const before = firstStep.value?.scope === scope ? firstStep.value.chord : null
  endSteps()
  const whole = before === null ? chord : `${before} ${chord}`
  const follow: { chord: string; action: string }[] = []
  for (const [action, chords] of Object.entries(keys.value)) {
    if (scopeOf(action) !== scope) continue
    if (chords.includes(whole)) return { action }
    for (const other of chords)
      if (other.startsWith(`${whole} `)) follow.push({ chord: other.slice(whole.length + 1), action })
  }
  if (follow.length > 0) {
    firstStep.value = { scope, chord: whole, follow }
    secondStep = setTimeout(endSteps, SECOND_STEP_MS)
    return { waits: true }
  }
  return before === null ? null : { waits: true }
}

/** The action of a key press where it's heard; null when it has none, or a second step is to follow. */
export function actionFor(scope: Scope, event: KeyboardEvent): string | null {
  const meant = pressed(scope, event)
  return meant && 'action' in meant ? meant.action : null
}

/** Whether a key press is one of an action's, wherever that is heard. */
export const isKeyOf = (action: string, event: KeyboardEvent): boolean =>
  keys.value[action]?.includes(chordOf(event)) ?? false

/** The first key of a command as it's shown beside it; '' when it has none. */
export function keyOf(command: string): string {
  return chordInWords(keys.value[command]?.[0] ?? '')
    .replace('PageDown', 'PgDn')
    .replace('PageUp', 'PgUp')
}
