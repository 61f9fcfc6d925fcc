import type { KeptMoment } from '#core/history/kept'
import type { Baseline } from '#core/schedule/baseline'
import type { Desk } from '~/desk/desk'

/** The plan as it was after an edit, as the server knows it. */
export async function planThen(desk: Desk, number: number): Promise<Baseline> {
  const { baseline } = await callApi<{ baseline: Baseline }>(`/api/trees/${desk.session.treeId}/schedule`, {
    query: { baseline: String(number) },
  })
  return baseline
}

/** The baselines of a tree's plan, and the one that it's held against. */
export function useBaseline(desk: Desk) {
  const base = `/api/trees/${desk.session.treeId}`
  const all = shallowRef<readonly KeptMoment[]>([])
  const against = shallowRef<Baseline | null>(null)
  const { wrong, attempt } = useAttempt()

  async function refresh(): Promise<void> {
    const moments = await callApi<KeptMoment[]>(`${base}/moments`)
    all.value = moments.filter(({ why }) => why === 'baseline').reverse()
  }
  /** Holds the plan against a baseline; null against none. */
  const hold = (number: number | null): Promise<void> =>
    attempt(async () => {
      against.value = number === null ? null : await planThen(desk, number)
    })
  /** Keeps the plan as it is now, once what was done here is stored. */
  const keep = (name: string): Promise<void> =>
    attempt(async () => {
      await desk.stored(5000)
      const { version } = desk.session.replica
      await callApi(`${base}/moments/${version}/baseline`, { method: 'PUT', body: { name } })
      await refresh()
      await hold(version)
    })
  const letGo = (number: number): Promise<void> =>
    attempt(async () => {
      await callApi(`${base}/moments/${number}/baseline`, { method: 'DELETE' })
      if (against.value?.number === number) against.value = null
      await refresh()
    })
  onMounted(() => void attempt(refresh))
  return { all, against, wrong, hold, keep, letGo }
}
