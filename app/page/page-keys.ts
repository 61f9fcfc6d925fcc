import { useEventListener } from '@vueuse/core'
import type { Desk } from '~/desk/desk'
import { closeTop, isDialogOpen } from '~/focus/opened'
import { isTextField } from '~/focus/typeahead'
import { commandOf } from '~/keys/commands'
import { HELD } from '~/keys/keymap'
import { endSteps, firstStep, pressed } from '~/keys/keys'
import { IN_MEETING, type Page, WHILE_PRESENTING } from './page'

export const inField = (target: EventTarget | null): boolean =>
  isTextField(target) || target instanceof HTMLSelectElement
const inTree = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target === document.body || target.hasAttribute('data-home') || target.closest('[role="tree"]') !== null)

/** Keys of the tree page: Esc, the cross-link that is selected, and commands; those of `only` alone, where it's given. */
export function usePageKeys(desk: Desk, page: Page, only?: ReadonlySet<string>): void {
  function escape(): void {
    const { canvas, outline, schedule, board } = page
    if ([canvas, outline, schedule, board].some(view => view.value?.escape()) || closeTop()) return
    if (desk.selection.value.size > 1) desk.select(desk.focus.value)
    else if (desk.finding.open.value || desk.finding.active) desk.finding.close()
    else if (desk.journey.back()) return
    else if (desk.only.value) desk.showOnly(desk.annexOf(desk.only.value))
  }

  /**
   * Whether keys are commands where they go. Outside the tree a button keeps its own Enter, Tab and arrows; chords with Mod
   * work everywhere.
   */
  const isHeard = (event: KeyboardEvent): boolean =>
    inTree(event.target) || event.ctrlKey || event.metaKey || ['?', '/'].includes(event.key)
  /** Whether a command is one for the view that is shown. */
  const isForNow = (event: KeyboardEvent, id: string): boolean =>
    page.presenting.value
      ? WHILE_PRESENTING.has(id)
      : desk.view.value !== 'meeting' ||
        IN_MEETING.has(id) ||
        (event.target instanceof HTMLElement && event.target.closest('[role="tree"]') !== null)

  useEventListener(window, 'keydown', event => {
    if (!desk.status.ready || event.defaultPrevented || inField(event.target)) return
    if (event.key === 'Escape') {
      // A first step that waits is all that is left by this press.
      if (!endSteps()) escape()
      return
    }
    if ((event.key === 'Delete' || event.key === 'Backspace') && desk.tie.value && inTree(event.target)) {
      event.preventDefault()
      const { topic, id: tie } = desk.tie.value
      desk.tie.value = null
      desk.put(topic, { op: 'take', topic, set: 'ties', member: tie })
      desk.say('Untied.', true)
      return
    }
    // Nor is a first step that is held down its own second.
    if (event.repeat && firstStep.value !== null) {
      event.preventDefault()
      return
    }
    const meant = isDialogOpen() || !isHeard(event) ? null : pressed('tree', event)
    if (!meant) return
    const command = 'action' in meant ? commandOf(meant.action) : null
    if (command && (!isForNow(event, command.id) || only?.has(command.id) === false)) return
    event.preventDefault()
    if (command && (!event.repeat || HELD.has(command.id))) page.run(command)
  })
}
