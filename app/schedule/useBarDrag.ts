import { addDays } from '#core/schedule/days'
import { daysInWords } from '#core/schedule/plan-words'
import { type Change, shorten, topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { startAt, waitFor } from './acting'
import { planNow } from './planning'

/** What of a bar is held: all of it, its end, or the knob that is pulled onto what waits for it. */
type Grip = 'move' | 'end' | 'tie'

/** Bars under the pointer: moved, made longer, tied. What is dragged is one edit when it's let go; Esc lets it be. */
export function useBarDrag(
  desk: Desk,
  face: {
    readonly box: Readonly<Ref<HTMLElement | undefined>>
    rowAt(y: number): TopicId | null
    dayWide(): number
    focus(): void
  },
) {
  const what = shallowRef<{ readonly id: TopicId; readonly grip: Grip } | null>(null)
  const days = ref(0)
  const aim = ref<TopicId | null>(null)
  let press: { id: TopicId; grip: Grip; x: number; y: number } | null = null

  function down(event: PointerEvent, id: TopicId, grip: Grip): void {
    if (event.button !== 0 || !desk.session.canEdit) return
    const task = planNow(desk)?.tasks.get(id)
    if (!task || (grip === 'move' && (task.state === 'done' || task.state === 'begun'))) return
    press = { id, grip, x: event.clientX, y: event.clientY }
    if (grip !== 'move') {
      desk.select(id, { quiet: true })
      face.focus()
    }
  }
  function moved(event: PointerEvent): void {
    if (!press) return
    // It was let go of outside.
    if (event.buttons === 0) return void stop()
    if (!what.value && !beginsCarrying(event, face.box.value!, press)) return
    const by = event.clientX - press.x
    what.value = { id: press.id, grip: press.grip }
    if (press.grip === 'tie') {
      const over = face.rowAt(event.clientY)
      aim.value = over !== null && over !== press.id ? over : null
    } else days.value = Math.round(by / face.dayWide())
  }
  function up(): void {
    const held = what.value
    const [by, over] = [days.value, aim.value]
    stop()
    if (!held) return
    if (held.grip === 'tie') {
      if (over) waitFor(desk, [over], held.id)
    } else if (by !== 0) desk.run({ changes: held.grip === 'move' ? movedBy(held.id, by) : grownBy(held.id, by) })
  }
  /** Where it would begin: the working day at or after the one it's dropped on. */
  function beginsAt(id: TopicId, by: number): string {
    const plan = planNow(desk)!
    return plan.calendar.onOrAfter(addDays(plan.tasks.get(id)!.start, by))
  }
  const movedBy = (id: TopicId, by: number): Change[] => startAt(desk, id, beginsAt(id, by))
  /** How long it would be, in whole working days, with its end on another day. */
  function lengthBy(id: TopicId, by: number): number {
    const plan = planNow(desk)!
    const { start, finish } = plan.tasks.get(id)!
    return Math.max(1, plan.calendar.workingDaysBetween(start, addDays(finish, by + 1)))
  }
  const grownBy = (id: TopicId, by: number): Change[] => [
    { op: 'set', topic: id, field: 'duration', value: lengthBy(id, by) },
  ]

  const words = computed(() => {
    const held = what.value
    if (!held || !planNow(desk)?.tasks.has(held.id)) return ''
    const named = (id: TopicId): string => `“${shorten(topicOf(desk.tree, id).title || 'untitled', 34)}”`
    switch (held.grip) {
      case 'move':
        return `begins ${dayInWords(beginsAt(held.id, days.value))}`
      case 'end':
        return daysInWords(lengthBy(held.id, days.value))
      case 'tie':
        return aim.value ? `${named(aim.value)} after ${named(held.id)}` : 'onto what waits for it'
    }
  })
  /** Lets it be. False when nothing was held. */
  function stop(): boolean {
    const held = what.value !== null
    press = what.value = aim.value = null
    days.value = 0
    return held
  }
  const shiftOf = (id: TopicId): number =>
    what.value?.id === id && what.value.grip === 'move' ? days.value * face.dayWide() : 0
  const growOf = (id: TopicId): number =>
    what.value?.id === id && what.value.grip === 'end' ? days.value * face.dayWide() : 0
  return { what, aim, words, down, moved, up, stop, shiftOf, growOf }
}
