/*
 * Keys pressed between the wish to type and the field being there. A fast hand presses the next key before the next
 * frame is painted, and a part of the app that is loaded when it's first needed takes longer still. What is pressed
 * meanwhile waits here, and is typed into the field when it comes.
 */

/**
 * How long what is pressed waits for a field, ms. Later keys act as they always do; but what was typed for a field never becomes
 * commands: it's typed when the field comes after all, and dropped by the next key or press.
 */
const PATIENCE_MS = 5000

/** A key, or a button that was clicked behind keys that waited. */
type Waiting = KeyboardEvent | HTMLElement
const waiting: Waiting[] = []
/** Keys that have waited and are on their way to where they were meant to go. */
const typedAgain = new WeakSet<KeyboardEvent>()
let expectedUntil = 0
let delivering = false
/** Counts the wishes to type. */
let wish = 0

export const isTextField = (at: EventTarget | null): at is HTMLElement =>
  at instanceof HTMLElement &&
  (at.isContentEditable ||
    at instanceof HTMLTextAreaElement ||
    (at instanceof HTMLInputElement && !/^(?:checkbox|radio|range|color|button|submit|reset|file)$/.test(at.type)))

/** Somebody wants to type in something that is about to open. */
export function expectField(): void {
  wish++
  expectedUntil = performance.now() + PATIENCE_MS
}

/** The wish that stands. What opens later than that, or never does, is no answer to a newer one. */
export const wishNow = (): number => wish

/** Nothing opens after all; what waited goes to whatever has the focus. */
export function expectNothing(): void {
  expectedUntil = 0
  void deliver()
}

export function isFieldExpected(): boolean {
  return expectedUntil > performance.now()
}

/** The field is here: it gets the focus and what was typed for it. */
export function arrive(field: HTMLElement): void {
  expectedUntil = 0
  field.focus({ preventScroll: true })
  if (waiting.length > 0) void deliver()
}

/**
 * Types what waits, key by key, into whatever has the focus when its turn comes: one key may open the next field, or
 * lead back to the tree.
 */
async function deliver(): Promise<void> {
  if (delivering) return
  delivering = true
  try {
    while (waiting.length > 0 && !isFieldExpected()) {
      const next = waiting.shift()!
      const typed = next instanceof HTMLElement ? press(next) : type(next)
      // A key that isn't text may close something, whose focus goes back when all that is drawn by it has been. And an editor
      // knows of text a moment after it stands there: the Enter behind it would say nothing.
      if (!typed || isCommand(waiting[0])) await new Promise(done => setTimeout(done))
    }
  } finally {
    delivering = false
  }
}

const isCommand = (next: Waiting | undefined): boolean =>
  next !== undefined && (next instanceof HTMLElement || [...next.key].length !== 1 || next.ctrlKey || next.metaKey)

/** Clicks a button, unless what was typed before has taken it away. Never text. */
function press(button: HTMLElement): false {
  if (button.isConnected) button.click()
  return false
}

/** True when the key was text and stands in the field now. */
function type(event: KeyboardEvent): boolean {
  const at = document.activeElement ?? document.body
  const plain = !event.ctrlKey && !event.metaKey && !event.altKey
  if (isTextField(at) && plain) {
    if ([...event.key].length === 1) return document.execCommand('insertText', false, event.key)
    if (event.key === 'Backspace') return document.execCommand('delete')
    if (
      (event.key === 'Home' || event.key === 'End') &&
      (at instanceof HTMLInputElement || at instanceof HTMLTextAreaElement)
    ) {
      const to = event.key === 'Home' ? 0 : at.value.length
      at.setSelectionRange(to, to)
      return true
    }
  }
  const again = new KeyboardEvent('keydown', event)
  typedAgain.add(again)
  const goesOn = at.dispatchEvent(again)
  // What a browser does by itself at a key that a hand presses, it doesn't do for one that waited.
  if (goesOn && event.key === 'Enter' && at instanceof HTMLInputElement) at.form?.requestSubmit()
  return false
}

function hold(event: KeyboardEvent): void {
  if (typedAgain.has(event) || event.isComposing) return
  if (['Shift', 'Control', 'Alt', 'Meta', 'Dead', 'Process', 'Unidentified', 'CapsLock'].includes(event.key)) return
  if (giveUp()) return
  event.preventDefault()
  event.stopImmediatePropagation()
  waiting.push(event)
}

/** True when what waits has waited too long: the hand does something else now. */
function giveUp(): boolean {
  if (isFieldExpected() || delivering) return false
  waiting.length = 0
  return true
}

/** A press somewhere else is another wish; but what was typed before it is still for the field that comes. */
function elsewhere(): void {
  if (!giveUp() && waiting.length === 0 && !delivering) expectedUntil = 0
}

/**
 * A button that is clicked while keys wait comes after them: nothing is lost from under what was typed, and what it does it
 * does to what the keys have made.
 */
function pressedBehindKeys(event: MouseEvent): void {
  if (!event.isTrusted || giveUp() || (waiting.length === 0 && !delivering)) return
  const button = event.target instanceof Element ? event.target.closest<HTMLElement>('button, a[href]') : null
  if (!button) return
  event.preventDefault()
  event.stopImmediatePropagation()
  if (event.type === 'click') waiting.push(button)
}

export function listenForEarlyKeys(): void {
  window.addEventListener('mousedown', pressedBehindKeys, true)
  window.addEventListener('click', pressedBehindKeys, true)
  window.addEventListener('keydown', hold, true)
  window.addEventListener('pointerdown', elsewhere, true)
}
