import type { SaidThen, SittingPage, ToldEdit } from '#core/contract'
import type { HappeningKind } from '#core/history/happenings'
import type { KeptMoment } from '#core/history/kept'
import { marksOf } from '#core/history/marks'
import type { Sitting } from '#core/history/sittings'
import { addDays } from '#core/schedule/days'
import type { TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import type { MomentSession } from '~/session/moment-session'

export interface Narrowing {
  person: string
  kind: HappeningKind | ''
  branch: TopicId | ''
  since: string | null
  until: string | null
}

/** Edits of a sitting that are told at once, about the one that is shown. */
const WINDOW = 280
/** Replay: ms from edit to edit at the speed of one. */
const REPLAY_MS = 1200

/** The history of an open tree: its sittings, the moment that is shown, and what happened around it. */
export function useHistory(desk: Desk, treeId: string, first: Partial<Narrowing> = {}) {
  const session = desk.session as MomentSession
  const sittings = shallowRef<readonly Sitting[]>([])
  const names = shallowRef<Record<string, string>>({})
  const version = ref(0)
  const role = ref('')
  const next = ref<number | null>(null)
  const loading = ref(true)
  const wrong = ref('')
  const at = ref(0)
  /** Moments that are kept, the oldest first. */
  const kept = shallowRef<readonly KeptMoment[]>([])
  const told = shallowRef<readonly ToldEdit[]>([])
  /** What was said meanwhile. */
  const said = shallowRef<readonly SaidThen[]>([])
  const narrowing = reactive<Narrowing>({ person: '', kind: '', branch: '', since: null, until: null, ...first })
  const speed = ref(1)
  const playing = ref(false)
  let asked = 0
  /** The list that is on its way: who goes from sitting to sitting waits for it, and doesn't go by the one before. */
  let reading: Promise<void> = Promise.resolve()

  /** The sitting of the moment that is shown; null before the first edit and between what is narrowed. */
  const here = computed(() => sittings.value.find(one => at.value >= one.from && at.value <= one.to) ?? null)
  const edit = computed(() => told.value.find(({ number }) => number === at.value) ?? null)
  const narrowed = computed(() => Object.values(narrowing).some(Boolean))
  const isNow = computed(() => at.value >= version.value)

  function page(before: number | null): Promise<void> {
    return (reading = readPage(before))
  }
  async function readPage(before: number | null): Promise<void> {
    const mine = ++asked
    loading.value = true
    wrong.value = ''
    try {
      const { since, until, ...rest } = narrowing
      const query = Object.fromEntries(
        Object.entries({
          ...rest,
          // Days are the person's own; the log has instants.
          since: since && dayDate(since).toISOString(),
          until: until && dayDate(addDays(until, 1)).toISOString(),
        }).filter(([, value]) => value),
      ) as Record<string, string>
      const found = await callApi<SittingPage>(`/api/trees/${treeId}/history`, {
        query: before === null ? query : { ...query, before: String(before) },
      })
      if (mine !== asked) return
      // Oldest first, as they stand on the floor.
      const older = [...found.sittings].reverse()
      sittings.value = before === null ? older : [...older, ...sittings.value]
      names.value = { ...names.value, ...found.names }
      next.value = found.next
      version.value = found.version
      role.value = found.role
    } catch (error) {
      if (mine === asked) wrong.value = (error as Error).message
    }
    if (mine === asked) loading.value = false
  }

  /** Reads the newest sittings, and says which moment the tree is to open at: the newest, or the one asked for. */
  async function begin(wanted: number | null): Promise<void> {
    await page(null)
    if (wrong.value) throw new Error(wrong.value)
    at.value = session.first = Math.max(0, Math.min(version.value, wanted ?? version.value))
  }

  /** The tree stands: what happened around its moment is told. */
  async function settle(): Promise<void> {
    at.value = session.at
    void readKept()
    await tell()
  }

  async function goTo(number: number): Promise<void> {
    const wanted = Math.max(0, Math.min(version.value, number))
    at.value = wanted
    try {
      await session.goTo(wanted)
    } catch (error) {
      wrong.value = (error as Error).message
    }
    // Where the way ended, unless one has gone on meanwhile.
    if (at.value === wanted) at.value = session.at
    mark()
  }

  /** Which moments are kept is told beside all else: without it the floor is as it is. */
  async function readKept(): Promise<void> {
    kept.value = await callApi<KeptMoment[]>(`/api/trees/${treeId}/moments`).catch(() => kept.value)
  }
  async function keep(name: string): Promise<void> {
    await callApi(`/api/trees/${treeId}/moments/${at.value}/name`, { method: 'PUT', body: { name } })
    await readKept()
  }
  async function letGo(number: number): Promise<void> {
    await callApi(`/api/trees/${treeId}/moments/${number}/name`, { method: 'DELETE' })
    await readKept()
  }

  /** One edit, or one sitting, on or back; over what is narrowed out. */
  async function by(edits: number): Promise<void> {
    await reading
    const to = at.value + edits
    const list = sittings.value
    if (list.length === 0 || list.some(one => to >= one.from - 1 && to <= one.to)) return goTo(to)
    const other = edits > 0 ? list.find(one => one.from > at.value) : [...list].reverse().find(one => one.to < at.value)
    return goTo(other ? (edits > 0 ? other.from : other.to) : to)
  }
  async function bySitting(direction: 1 | -1): Promise<void> {
    await reading
    const list = sittings.value
    const i = list.findIndex(one => at.value <= one.to)
    if (direction > 0) return goTo(list[i < 0 ? list.length - 1 : at.value === list[i]!.to ? i + 1 : i]?.to ?? at.value)
    const before = list.filter(one => one.to < at.value).at(-1)
    return goTo(before?.to ?? (list[0] ? list[0].from - 1 : 0))
  }

  let telling: Promise<void> | null = null
  let untold = false
  /** Tells what happened around the moment; asked again on the way, it goes on to where one is by then. */
  function tell(): Promise<void> {
    untold = true
    telling ??= tellAll().finally(() => {
      telling = null
    })
    return telling
  }
  async function tellAll(): Promise<void> {
    while (untold) {
      untold = false
      await tellOnce()
    }
  }
  async function tellOnce(): Promise<void> {
    const sitting = here.value
    if (!sitting) told.value = said.value = []
    else
      try {
        const from = Math.max(sitting.from, Math.min(at.value - WINDOW / 2, sitting.to - WINDOW))
        const found = await callApi<{ edits: ToldEdit[]; said: SaidThen[]; names: Record<string, string> }>(
          `/api/trees/${treeId}/history/${from}/${Math.min(sitting.to, from + WINDOW)}`,
        )
        names.value = { ...names.value, ...found.names }
        told.value = found.edits
        said.value = found.said
      } catch (error) {
        wrong.value = (error as Error).message
      }
    mark()
  }

  /** Points out on the tree what this sitting has done so far. */
  function mark(): void {
    desk.marks.value = marksOf(told.value, at.value)
  }
  watch(here, (now, before) => {
    if (now?.from !== before?.from) void tell()
  })
  watch(at, now => {
    const shown = told.value
    // In a long sitting the words go along.
    if (here.value && shown.length > 0 && (now < shown[0]!.number || now > shown.at(-1)!.number)) void tell()
  })
  watch(narrowing, () => void page(null))

  let timer = 0
  function step(): void {
    if (!playing.value) return
    if (isNow.value) {
      playing.value = false
      return
    }
    void by(1).then(() => {
      timer = window.setTimeout(step, REPLAY_MS / speed.value)
    })
  }
  watch(playing, now => {
    clearTimeout(timer)
    if (!now) return
    if (isNow.value) void goTo((sittings.value.at(-1)?.from ?? 1) - 1).then(step)
    else step()
  })
  onScopeDispose(() => {
    playing.value = false
    clearTimeout(timer)
  })

  return {
    sittings,
    names,
    version,
    next,
    loading,
    wrong,
    at,
    here,
    edit,
    told,
    said,
    narrowing,
    narrowed,
    speed,
    playing,
    isNow,
    kept,
    keep,
    letGo,
    role,
    begin,
    settle,
    older: () => page(next.value),
    goTo,
    /** Ends a replay. */
    rest: () => {
      playing.value = false
    },
    by,
    bySitting,
  }
}

export type History = ReturnType<typeof useHistory>
