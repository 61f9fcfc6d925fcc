import type { InjectionKey } from 'vue'
import { itemsOf, itemStarts, minutesNeeded, plannedEnd, runningOf, timed } from '#core/meeting/agenda'
import { type Brief, briefOf, isMeeting, meetingsOf, nearestMeeting, meetingOf } from '#core/meeting/brief'
import { cutToEnd, forecastEnd, leftOf, spentOn } from '#core/meeting/clock'
import { deliveredOf } from '#core/meeting/delivered'
import { invitationIsOld } from '#core/meeting/invitation'
import { plannedOf } from '#core/meeting/planned'
import { type Finding, findingsOf, readinessOf } from '#core/meeting/readiness'
import { hasToRead, sectionDigest } from '#core/meeting/reading'
import type { Move } from '#core/meeting/running'
import { wallTime } from '#core/meeting/zones'
import { type BriefPart, type Change, type Topic, topicOf, type TopicId } from '#core/tree'
import type { MeetingWorld } from '#core/contract'
import { useDesk } from '~/desk/desk'

export type MeetingTab = 'brief' | 'room' | 'minutes' | 'series'
export const MEETING_TABS: Readonly<Record<MeetingTab, string>> = {
  brief: 'Brief',
  room: 'Meeting',
  minutes: 'Minutes',
  series: 'Series',
}

/** What can be done to the meeting that is shown, from anywhere. */
export type MeetingAct = 'begin' | 'end' | 'layOut' | 'invite' | 'request' | 'mail' | 'next'

/** Resolves once something holds, or after two seconds. */
export async function until(holds: () => boolean): Promise<void> {
  for (let i = 0; i < 100 && !holds(); i++) await new Promise(done => setTimeout(done, 20))
}

/** How often the clock on the screen is drawn. */
const TICK_MS = 250

/**
 * One meeting of the open tree as its views show it. Everything is read from the tree; nothing is kept here but which
 * meeting and which view.
 */
export function makeMeeting() {
  const desk = useDesk()
  const id = ref<TopicId | null>(null)
  const tab = ref<MeetingTab>('brief')
  const now = ref(desk.session.serverNow())
  const world = shallowRef<MeetingWorld>({ elsewhere: {}, closed: [], reading: {} })
  const busy = ref('')

  const fresh = <T>(read: (meeting: TopicId, topic: Topic, brief: Brief) => T, none: T) =>
    computed(() => {
      void desk.lateTick.value
      const topic = id.value === null ? undefined : desk.tree.topics.get(id.value)
      return topic && isMeeting(topic) ? read(topic.id, topic, briefOf(topic)) : none
    })
  const topic = fresh<Topic | null>((_, one) => one, null)
  const brief = fresh<Brief>((_, __, one) => one, briefOf({ meeting: [] }))
  const items = fresh(meeting => itemsOf(desk.tree, meeting), [])
  const starts = fresh(meeting => itemStarts(desk.tree, meeting), new Map<string, number>())
  const delivered = fresh(meeting => deliveredOf(desk.tree, meeting), [])
  /** Whether it's asked, before it ends, what became of what was to be settled. */
  const ending = ref(false)
  const needed = fresh(meeting => minutesNeeded(desk.tree, meeting), 0)
  const running = fresh(meeting => runningOf(desk.tree, meeting), null)
  const isOld = fresh(meeting => invitationIsOld(desk.tree, meeting), false)
  const all = computed(() => {
    void desk.lateTick.value
    return meetingsOf(desk.tree).map(one => topicOf(desk.tree, one))
  })
  const planned = fresh(
    meeting =>
      plannedOf(desk.tree, meeting, {
        nameOf: desk.nameOf,
        lead: desk.userId,
        elsewhere: new Map(Object.entries(world.value.elsewhere)),
        closed: new Set(world.value.closed),
        reading: world.value.reading,
      }),
    null,
  )
  const findings = computed<readonly Finding[]>(() => (planned.value ? findingsOf(planned.value) : []))
  const readiness = computed(() => (planned.value ? readinessOf(planned.value) : 0))
  const end = fresh(meeting => plannedEnd(desk.tree, meeting), null)

  /** The clock: ms, from the server's time. */
  const clock = computed(() => {
    const run = running.value
    const list = items.value.map(timed)
    if (!run) return null
    const left = leftOf(list, run, now.value)
    const forecast = forecastEnd(list, run, now.value)
    const cut = end.value === null ? null : cutToEnd(list, run, now.value, end.value)
    return {
      run,
      list,
      left,
      forecast,
      cut,
      spent: spentOn(list, run, run.current, now.value),
      late: end.value === null ? 0 : Math.max(0, forecast - end.value),
    }
  })
  const timer = setInterval(() => {
    now.value = desk.session.serverNow()
  }, TICK_MS)

  /** How often it was looked: an answer that comes after a later one is older than what is known. */
  let [looks, known] = [0, 0]
  async function look(): Promise<void> {
    const meeting = id.value
    if (meeting === null) return
    const mine = ++looks
    try {
      const found = await callApi<MeetingWorld>(`/api/trees/${desk.session.treeId}/meetings/${meeting}`)
      if (mine > known && id.value === meeting) [known, world.value] = [mine, found]
    } catch {
      /* offline, or just made: what was known stays */
    }
  }
  let lookTimer = 0
  /** What is read beforehand, as it stands: whoever read it before it changed has to read it anew. */
  const toRead = fresh<readonly (string | boolean)[]>(
    (_, __, { stage }) =>
      items.value.flatMap(item =>
        stage === 'planned' && hasToRead(desk.tree, item.id)
          ? [item.ready, sectionDigest(desk.tree, item.id)]
          : item.id,
      ),
    [],
  )
  /** What the tree can't say changes with time, length, people and what is read. */
  const asked = computed(() =>
    JSON.stringify([
      id.value,
      brief.value.begins,
      brief.value.slot,
      needed.value,
      brief.value.people.map(({ user, mail, answer, needed }) => [user, mail, answer, needed]),
      brief.value.invitation?.to.map(one => one.id),
      toRead.value,
    ]),
  )
  watch(
    asked,
    () => {
      clearTimeout(lookTimer)
      lookTimer = window.setTimeout(look, 700)
    },
    { immediate: true },
  )
  onBeforeUnmount(() => {
    clearInterval(timer)
    clearTimeout(lookTimer)
  })

  /**
   * The brief as the tree has it this moment: what is computed follows a frame later, and a fast hand adds the next
   * line before that.
   */
  const briefNow = (): Brief =>
    briefOf(id.value !== null && desk.tree.topics.has(id.value) ? topicOf(desk.tree, id.value) : { meeting: [] })

  /** Chooses a meeting: the one named, the one the selection belongs to, or the nearest. */
  function choose(wanted: TopicId | null = null): void {
    const found = wanted ?? meetingOf(desk.tree, desk.focus.value) ?? nearestMeeting(desk.tree, today())
    id.value = found
    if (found === null) return
    const { stage } = briefOf(topicOf(desk.tree, found))
    tab.value = stage === 'running' ? 'room' : stage === 'ended' ? 'minutes' : 'brief'
  }

  /** Makes one edit of what somebody did here. */
  function run(changes: readonly Change[]): boolean {
    return desk.guard() && changes.length > 0 && desk.run({ changes })
  }
  const say = (part: BriefPart): boolean =>
    id.value !== null && run([{ op: 'put', topic: id.value, set: 'meeting', member: part }])
  const unsay = (part: string): boolean =>
    id.value !== null && run([{ op: 'take', topic: id.value, set: 'meeting', member: part }])

  /** Asks the server for something that takes a moment; one at a time, and what goes wrong is said. */
  async function ask<T>(what: string, path: string, body: object = {}): Promise<T | null> {
    if (busy.value || id.value === null) return null
    busy.value = what
    try {
      return await callApi<T>(`/api/trees/${desk.session.treeId}/meetings/${id.value}/${path}`, {
        method: 'POST',
        body,
      })
    } catch (error) {
      desk.say((error as Error).message)
      return null
    } finally {
      busy.value = ''
    }
  }
  /** The step that the last move led to: the answer may come before the news of it. */
  let step = 0
  let moving: Promise<void> = Promise.resolve()
  /** Moves the meeting on. Keys that are pressed in quick succession are moves one after the other; none is lost. */
  function move(to: Move): Promise<void> {
    moving = moving.then(() => moveNow(to))
    return moving
  }
  async function moveNow(to: Move): Promise<void> {
    const meeting = id.value
    if (meeting === null) return
    const from = to.to === 'begin' ? null : Math.max(briefNow().run?.step ?? 0, step)
    try {
      const moved = await callApi<{ already: boolean; step: number }>(
        `/api/trees/${desk.session.treeId}/meetings/${meeting}/moves`,
        { method: 'POST', body: { ...to, from } },
      )
      step = moved.step
      if (moved.already) desk.say(to.to === 'end' ? 'It had been ended already.' : 'Somebody had moved on already.')
      else if (to.to === 'begin' || to.to === 'reopen') tab.value = 'room'
      else if (to.to === 'end') tab.value = 'minutes'
    } catch (error) {
      desk.say((error as Error).message)
    }
  }
  /** Ends it; where something that must be settled is open, that's asked first. */
  function endMeeting(): void {
    if (may.value && running.value && deliveredNow().some(({ is }) => is === null)) {
      ending.value = true
    } else void move({ to: 'end' })
  }
  const deliveredNow = () =>
    id.value !== null && desk.tree.topics.has(id.value) ? deliveredOf(desk.tree, id.value) : []
  watch(id, () => {
    step = 0
  })

  const zone = computed(() => brief.value.begins?.zone ?? ownZone())
  /** A time on the meeting's wall: "14:20". */
  const timeAt = (instant: number): string => wallTime(instant, zone.value).time
  const may = computed(
    () =>
      desk.status.ready && desk.session.canEdit && desk.status.role !== 'viewer' && desk.status.role !== 'commenter',
  )

  return {
    desk,
    id,
    tab,
    now,
    delivered,
    ending,
    endMeeting,
    deliveredNow,
    topic,
    brief,
    items,
    starts,
    needed,
    running,
    isOld,
    all,
    planned,
    findings,
    readiness,
    end,
    clock,
    world,
    busy,
    zone,
    may,
    briefNow,
    choose,
    run,
    say,
    unsay,
    ask,
    move,
    timeAt,
    look,
  }
}

export type Meeting = ReturnType<typeof makeMeeting>
export const MEETING: InjectionKey<Meeting> = Symbol('meeting')

export function useMeeting(): Meeting {
  const meeting = inject(MEETING)
  if (!meeting) throw new Error('no meeting is shown here')
  return meeting
}
