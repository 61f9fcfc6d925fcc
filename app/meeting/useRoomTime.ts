import { sayItem, timed } from '#core/meeting/agenda'
import { openItems } from '#core/meeting/clock'
import type { TopicId } from '#core/tree'
import type { Meeting } from './useMeeting'
import type { useRoomPlace } from './useRoomPlace'

/** What is said of the time while a meeting runs, and the even cut. */
export function useRoomTime(meeting: Meeting, place: ReturnType<typeof useRoomPlace>) {
  const { desk, brief, items, clock, may } = meeting
  const { current, shown, item } = place
  const running = computed(() => brief.value.stage === 'running')
  const paused = computed(() => running.value && brief.value.run?.since === null)
  const ends = computed(() => (clock.value ? meeting.timeAt(clock.value.forecast) : ''))
  const plannedEnd = computed(() => (meeting.end.value === null ? '' : meeting.timeAt(meeting.end.value)))
  const lateMinutes = computed(() => (clock.value ? Math.ceil(clock.value.late / 60_000) : 0))
  const overrun = computed(() => {
    const at = clock.value
    if (!at || lateMinutes.value === 0 || !at.cut) return ''
    const rest = openItems(at.list, at.run, meeting.now.value)
    if (rest.length === 0) return `It ends ${lateMinutes.value} min late.`
    const cut = at.list
      .map(({ id, minutes }) => minutes - (at.cut!.minutes.get(id) ?? minutes))
      .filter(less => less > 0)
    const most = Math.max(0, ...cut)
    if (at.cut.late > 0) return `Even at their least the rest ends ${at.cut.late} min late.`
    return rest.length === 1
      ? `To end on time the last item gives up ${most} min.`
      : `To end on time the other ${rest.length} give up to ${most} min each.`
  })
  const canCut = computed(
    () =>
      may.value &&
      running.value &&
      lateMinutes.value > 0 &&
      clock.value !== null &&
      clock.value.cut !== null &&
      openItems(clock.value.list, clock.value.run, meeting.now.value).length > 0,
  )
  function cutEvenly(): void {
    const at = clock.value
    if (!at?.cut || !canCut.value) return
    const changes = [...at.cut.minutes]
      .filter(([id, minutes]) => at.list.find(one => one.id === id)?.minutes !== minutes)
      .map(([id, minutes]) => sayItem(id, { id: 'cut', kind: 'cut', minutes }))
    if (meeting.run(changes))
      desk.say(
        at.cut.late > 0
          ? `Cut as far as it goes; it still ends ${at.cut.late} min late.`
          : 'Cut evenly: it ends on time again.',
        true,
      )
  }
  const share = computed(() => {
    const at = clock.value
    const minutes = item.value ? timed(item.value).minutes : 0
    if (!at || minutes === 0 || shown.value !== current.value) return 0
    return Math.min(1, at.spent / (minutes * 60_000))
  })
  const spentWords = (id: TopicId): string => {
    const one = items.value.find(other => other.id === id)
    if (!one) return ''
    const at = clock.value
    const ms = at && at.list[at.run.current]?.id === id ? at.spent : one.spent
    return ms > 0 ? clockInWords(ms) : ''
  }

  // — Going on: at the last open item the way on is the end
  const isLast = computed(
    () =>
      clock.value !== null &&
      current.value !== null &&
      openItems(clock.value.list, clock.value.run, meeting.now.value).length === 0,
  )
  async function goOn(): Promise<void> {
    if (current.value !== null) await meeting.move({ to: 'next' })
    if (meeting.briefNow().run?.current === null && brief.value.stage === 'running')
      desk.say('Everything on the agenda has been dealt with.', {
        name: 'End the meeting',
        run: () => meeting.endMeeting(),
        holds: () => meeting.briefNow().stage === 'running',
      })
  }

  return { running, paused, ends, plannedEnd, lateMinutes, overrun, canCut, cutEvenly, share, spentWords, isLast, goOn }
}
