import type { Comparison } from '#core/contract'
import type { OtherSide } from '#core/contract/operations/trees'
import { sidesFrom } from '#core/compare/sent'
import { entriesBetween, type Entry, type EntryLine } from '#core/side-by-side/entries'
import { narrowed, type Wanted } from '#core/side-by-side/narrow'
import { folded, type Pair, sideBySide } from '#core/side-by-side/pairs'
import type { Mark } from '#core/history/marks'
import { markerOf, type TopicId, type Tree } from '#core/tree'

/** What one wants of an entry or a line: as it is here, as it is there, or a note that keeps both. */
export type Answer = 'here' | 'there' | 'both' | 'open'

/** A comparison of one tree, as one person reads it, and what they have chosen to take over. */
export function useComparison(treeId: string) {
  const comparison = shallowRef<Comparison | null>(null)
  const trees = shallowRef<{ here: Tree; there: Tree } | null>(null)
  const entries = shallowRef<readonly Entry[]>([])
  const pairs = shallowRef<readonly Pair[]>([])
  const wanted = reactive<{ -readonly [K in keyof Wanted]-?: Wanted[K] }>({
    kind: '',
    field: '',
    person: '',
    branch: '',
    letters: '',
    asked: false,
  })
  /** Keys of the pieces that are taken over; of notes that are joined; of questions that were answered, either way. */
  const take = shallowRef<ReadonlySet<string>>(new Set())
  const join = shallowRef<ReadonlySet<string>>(new Set())
  const answered = shallowRef<ReadonlySet<string>>(new Set())
  const loading = ref(false)
  const wrong = ref('')
  let other: OtherSide | null = null
  let asked = 0

  async function load(side: OtherSide, here?: number): Promise<void> {
    const mine = ++asked
    other = side
    loading.value = true
    wrong.value = ''
    try {
      const found = await callApi<Comparison>(`/api/trees/${treeId}/compare`, {
        method: 'POST',
        body: { with: side, ...(here === undefined ? {} : { here }) },
      })
      if (mine !== asked) return
      const { here: now, there } = sidesFrom({ ...found.sides, common: null })
      comparison.value = found
      trees.value = { here: now, there }
      entries.value = entriesBetween(
        { here: now, there, pieces: found.pieces, differences: found.differences },
        {
          nameOf: id => found.names[id] ?? 'Somebody',
          markerOf: id =>
            (markerOf(id, now.fields.markerSets) ?? markerOf(id, there.fields.markerSets))?.name ??
            'of a set that is gone',
          day: dayInWords,
        },
      )
      pairs.value = sideBySide(now, there)
      // What only the other side changed since both were one is what one came for.
      const silent = side.kind === 'moment' ? [] : found.pieces.filter(({ by }) => by === 'there')
      take.value = new Set(silent.map(({ key }) => key))
      join.value = answered.value = new Set()
    } catch (error) {
      if (mine === asked) wrong.value = (error as Error).message
    } finally {
      if (mine === asked) loading.value = false
    }
  }

  const shown = computed(() =>
    trees.value ? narrowed(entries.value, trees.value.here, trees.value.there, wanted) : [],
  )
  const isNarrowed = computed(() => Object.values(wanted).some(Boolean))
  /** Only the tree as it is now takes anything over, and only from whoever may edit it. */
  const mayTake = computed(() => {
    const now = comparison.value
    return now !== null && now.number >= now.version && (now.role === 'owner' || now.role === 'editor')
  })

  // — Choosing

  const isTaken = (keys: readonly string[]): boolean | 'some' => {
    const count = keys.filter(key => take.value.has(key) || join.value.has(key)).length
    return count === 0 ? false : count === keys.length || 'some'
  }
  function set(keys: readonly string[], to: Exclude<Answer, 'open'>): void {
    const [taken, joined, done] = [new Set(take.value), new Set(join.value), new Set(answered.value)]
    for (const key of keys) {
      taken.delete(key)
      joined.delete(key)
      done.add(key)
      if (to === 'there') taken.add(key)
      if (to === 'both') joined.add(key)
    }
    take.value = taken
    join.value = joined
    answered.value = done
  }
  /** How something that both sides changed was answered. */
  function answerOf({ keys }: Pick<EntryLine, 'keys'>): Answer {
    if (keys.some(key => join.value.has(key))) return 'both'
    if (keys.some(key => take.value.has(key))) return 'there'
    return keys.some(key => answered.value.has(key)) ? 'here' : 'open'
  }
  /** What both changed, and nobody has decided. */
  const open = computed(() => {
    void answered.value
    return entries.value.reduce((sum, entry) => {
      if (entry.by !== 'both') return sum
      const lines = entry.lines.filter(({ by }) => by === 'both')
      return sum + (lines.length > 0 ? lines : [entry]).filter(one => answerOf(one) === 'open').length
    }, 0)
  })
  const chosen = computed(() => entries.value.filter(({ keys }) => keys.length > 0 && isTaken(keys) !== false).length)

  /** Takes over what is chosen. Rejects with why not. */
  async function takeOver(): Promise<{ number: number }> {
    const { version, other: side } = comparison.value!
    // The other tree as it was read: somebody may have gone on in it since.
    const seen = other?.kind === 'tree' && side.number !== null ? { ...other, number: side.number } : other
    return callApi(`/api/trees/${treeId}/merge`, {
      method: 'POST',
      body: { with: seen, at: version, take: [...take.value], join: [...join.value] },
    })
  }

  // — Folded into one

  const foldedTree = (): Tree => folded(trees.value!.here, trees.value!.there)
  /** Planks of what is shown, each with its word. */
  const marks = computed((): ReadonlyMap<TopicId, Mark> => {
    const found = new Map<TopicId, Mark>()
    for (const { id, kinds } of shown.value) if (id !== null) found.set(id, kinds[0]!)
    return found
  })

  return {
    comparison,
    trees,
    entries,
    pairs,
    shown,
    wanted,
    isNarrowed,
    loading,
    wrong,
    load,
    again: async () => {
      if (other) await load(other)
    },
    /** The same beside another moment of this tree; undefined: now. */
    at: async (here?: number) => {
      if (other) await load(other, here)
    },
    take,
    isTaken,
    set,
    answerOf,
    open,
    chosen,
    mayTake,
    takeOver,
    foldedTree,
    marks,
  }
}

export type Comparing = ReturnType<typeof useComparison>
