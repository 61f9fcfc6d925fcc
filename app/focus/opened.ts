/*
 * One rule for the focus. Whatever opens takes it in its first useful field; Esc closes it; then the focus is in the
 * tree again. A click on a button leaves it in the tree. A panel that stays from topic to topic stays at the first Esc,
 * which leads to the tree, and closes at the second. What only shows takes no focus.
 */
import type { ObjectDirective } from 'vue'
import { arrive, expectNothing, isFieldExpected, isTextField, wishNow } from './typeahead'

/**
 * How something that opens behaves. `layer`: takes the focus, Esc closes it. `dialog`: the same, and nothing behind it
 * is reached meanwhile.
 * `panel`: takes the focus, stays at the first Esc. `pane`: only shows.
 */
export type Manner = 'layer' | 'dialog' | 'panel' | 'pane'
export interface Opened {
  readonly manner: Manner
  readonly close: () => void
}

interface Standing extends Opened {
  readonly root: HTMLElement
  readonly before: Element | null
}
/** What is open, the last one opened at the end. */
const stack: Standing[] = []
const standingAt = new WeakMap<HTMLElement, Standing>()

const TEXT =
  ':is(input:not([type="checkbox"], [type="radio"], [type="range"], [type="color"], [type="file"], [type="button"], [type="submit"]), textarea, [contenteditable="true"]):not(:disabled, [readonly], [tabindex="-1"])'
const CONTROL =
  ':is(select, input:not([type="file"]), button, a[href], [tabindex="0"]):not(:disabled, [tabindex="-1"], [data-close], .p-dialog-close-button, [data-p-hidden-focusable])'

const inSight = (one: HTMLElement): boolean => one.checkVisibility?.() ?? true
const among = (root: HTMLElement, selector: string): HTMLElement | undefined =>
  [...root.querySelectorAll<HTMLElement>(selector)].find(inSight)

const NAMED = '[data-first]'
/** The field of what is named first: itself, or the one in it, which an editor puts there a little later. */
const within = (named: HTMLElement): HTMLElement | undefined =>
  named.matches(`${TEXT}, ${CONTROL}`) ? named : among(named, TEXT)

/**
 * Where the focus goes in something that opens: what is named first, else the first field for text, else the first
 * control, never the close cross.
 */
export function firstField(root: HTMLElement): HTMLElement | undefined {
  const named = among(root, NAMED)
  return (named && within(named)) ?? named ?? among(root, TEXT) ?? among(root, CONTROL)
}

/** The tree that is shown, or what stands in its place. */
const home = (): HTMLElement | null =>
  document.querySelector<HTMLElement>('[role="tree"]') ?? document.querySelector<HTMLElement>('[data-home]')

/** Gives the keyboard back to the tree that is shown. */
export function focusTree(): void {
  home()?.focus({ preventScroll: true })
}

/**
 * The focus goes into a part of the page that has been asked for; one without a field is shown, and the keys stay with
 * the tree.
 */
export function enter(root: HTMLElement): void {
  root.scrollIntoView({ block: 'nearest' })
  const field = root.matches(TEXT) ? root : among(root, TEXT)
  if (field) arrive(field)
  else expectNothing()
}

/**
 * The focus goes into a part whose field may come a moment later: what is pressed meanwhile waits for it. `before`: what is
 * done once it stands, before it's typed in.
 */
export function enterSoon(root: HTMLElement, before: () => void = () => {}): void {
  whenThere(root, field => {
    before()
    if (field) arrive(field)
    else expectNothing()
  })
}

function open(el: HTMLElement, { manner, close }: Opened): void {
  const root = manner === 'dialog' ? (el.closest<HTMLElement>('[role="dialog"]') ?? el) : el
  const standing: Standing = { manner, close, root, before: document.activeElement }
  stack.push(standing)
  standingAt.set(el, standing)
  root.addEventListener('keydown', escapeInside)
  if (manner === 'pane') return
  if (isFieldExpected())
    whenThere(root, field => {
      if (standingAt.get(el) === standing) arriveIn(root, field)
    })
  else arriveIn(root, firstField(root))
}

function arriveIn(root: HTMLElement, field: HTMLElement | undefined): void {
  if (!field && !root.hasAttribute('tabindex')) root.tabIndex = -1
  arrive(field ?? root)
}

/**
 * The first that matches, as soon as it stands: what opens may be loaded only now. After a while without one, the
 * first control has to do. When something else has been asked for meanwhile, that has the keys.
 */
function whenThere(root: HTMLElement, use: (found: HTMLElement | undefined) => void): void {
  const look = (): HTMLElement | undefined => {
    const named = among(root, NAMED)
    return named ? within(named) : among(root, TEXT)
  }
  const found = look()
  if (found) {
    use(found)
    return
  }
  const asked = wishNow()
  const end = (field: HTMLElement | undefined): void => {
    clearTimeout(timer)
    watcher.disconnect()
    if (asked === wishNow()) use(field)
  }
  const watcher = new MutationObserver(() => {
    const late = look()
    if (late) end(late)
  })
  watcher.observe(root, { childList: true, subtree: true })
  const timer = setTimeout(() => end(firstField(root)), root.querySelector(CONTROL) ? 120 : 3000)
}

function escapeInside(event: KeyboardEvent): void {
  if (event.key !== 'Escape' || event.defaultPrevented || event.isComposing) return
  const standing = stack.find(one => one.root === event.currentTarget)
  if (!standing) return
  event.preventDefault()
  event.stopPropagation()
  if (standing.manner === 'panel') focusTree()
  else standing.close()
}

/** It's closing: the focus goes back where it belongs, at once, though the thing may still fade. */
export function closing(el: HTMLElement): void {
  const standing = standingAt.get(el)
  if (!standing) return
  standingAt.delete(el)
  stack.splice(stack.indexOf(standing), 1)
  standing.root.removeEventListener('keydown', escapeInside)
  const had = standing.root.contains(document.activeElement)
  if (had || standing.manner !== 'pane') void nextTick(() => giveBack(standing))
}

function giveBack(left: Standing): void {
  const at = document.activeElement
  if (isFieldExpected() || (at && at !== document.body && !left.root.contains(at) && at.isConnected)) return
  const above = stack.findLast(one => one.manner === 'dialog')
  if (above) (firstField(above.root) ?? above.root).focus({ preventScroll: true })
  else if (home()) focusTree()
  else if (left.before instanceof HTMLElement && left.before.isConnected) left.before.focus()
}

/** Closes what was opened last. False when nothing is open. */
export function closeTop(): boolean {
  const top = stack.at(-1)
  top?.close()
  return top !== undefined
}

export const isDialogOpen = (): boolean => stack.some(one => one.manner === 'dialog')

/**
 * After a click in the page: unless it led into a field, the keys are the tree's. A button that is pressed by keyboard
 * keeps the focus. Elements that choose by a list of their own keep it until something is chosen.
 */
export function afterClick(event: MouseEvent): void {
  const at =
    event.target instanceof Element
      ? event.target.closest(
          'button, a[href], summary, input:is([type="checkbox"], [type="radio"], [type="range"]), [role="checkbox"]',
        )
      : null
  if (event.detail === 0 || !at) return
  void nextTick(backFromClick)
}

export function backFromClick(): void {
  const now = document.activeElement
  if (
    isFieldExpected() ||
    isTextField(now) ||
    isDialogOpen() ||
    now instanceof HTMLSelectElement ||
    now?.closest('[role="dialog"], .p-popover, .p-contextmenu, .p-tieredmenu')
  )
    return
  if (now !== home()) focusTree()
}

/** `v-opened="{ manner, close }"` on the root of whatever opens. */
export const opened: ObjectDirective<HTMLElement, Opened> = {
  mounted: (el, { value }) => open(el, value),
  beforeUnmount: el => closing(el),
}
