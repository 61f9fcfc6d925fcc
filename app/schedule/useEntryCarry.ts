import { type CalendarEntry, isMovable } from '#core/calendar/calendar'
import { entryMoved } from '#core/calendar/move'
import { addDays, daysBetween } from '#core/schedule/days'
import type { Plan } from '#core/schedule/plan'
import { shorten, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { startAt } from './acting'

/** Entries of the calendar under the pointer: carried to another day, as one edit when they're let go; Esc lets them be. */
export function useEntryCarry(
  desk: Desk,
  plan: () => Plan | null,
  on: { readonly box: Readonly<Ref<HTMLElement | undefined>>; focus(): void; title(id: TopicId): string },
) {
  const carried = shallowRef<{ readonly entry: CalendarEntry; readonly hold: string } | null>(null)
  const aim = ref<string | null>(null)
  let press: { entry: CalendarEntry; hold: string; x: number; y: number } | null = null
  const dayUnder = (event: PointerEvent): string | null =>
    document
      .elementsFromPoint(event.clientX, event.clientY)
      .find((element): element is HTMLElement => element instanceof HTMLElement && Boolean(element.dataset.day))
      ?.dataset.day ?? null
  function down(event: PointerEvent, entry: CalendarEntry): void {
    if (event.button !== 0 || (event.target as HTMLElement).closest('textarea, button')) return
    const add = event.ctrlKey || event.metaKey
    desk.select(entry.id, { range: event.shiftKey, add, quiet: true })
    on.focus()
    const hold = dayUnder(event)
    if (event.pointerType === 'touch' || !desk.session.canEdit || !isMovable(desk.tree, entry) || hold === null) return
    press = { entry, hold, x: event.clientX, y: event.clientY }
  }
  function moved(event: PointerEvent): void {
    if (!press) return
    // It was let go of outside.
    if (event.buttons === 0) return void stop()
    if (!carried.value && !beginsCarrying(event, on.box.value!, press)) return
    carried.value = { entry: press.entry, hold: press.hold }
    aim.value = dayUnder(event) ?? aim.value
  }
  function stop(): boolean {
    const held = carried.value !== null
    press = carried.value = aim.value = null
    return held
  }
  function up(): void {
    const [held, to] = [carried.value, aim.value]
    stop()
    if (held && to) put(held.entry, daysBetween(held.hold, to))
  }
  function put(entry: CalendarEntry, days: number): void {
    if (days === 0 || !desk.guard()) return
    const planned = plan()?.tasks.get(entry.id)
    const changes =
      planned && entry.kind !== 'meeting'
        ? startAt(desk, entry.id, plan()!.calendar.onOrAfter(addDays(planned.start, days)))
        : entryMoved(desk.tree, entry, days)
    if (changes.length === 0) {
      desk.say('What is done or under way has begun already.')
      return
    }
    if (desk.run({ changes }))
      desk.say(`“${shorten(on.title(entry.id), 40)}”: ${dayInWords(addDays(entry.from, days))}.`, true)
  }
  return { carried, aim, down, moved, up, stop }
}
