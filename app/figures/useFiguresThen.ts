import { type Fixed, fixedOf } from '#core/figures/fixed'
import type { ToldFigures } from '#core/figures/told'
import type { KeptMoment } from '#core/history/kept'
import type { TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** What figures came to at a kept moment, for holding those of now against. */
export interface FiguresThen {
  readonly number: number
  of(topic: TopicId, measure: string): Fixed | null
}

/** The kept moments of a tree, and the one that its figures are held against. */
export function useFiguresThen(desk: Desk) {
  const base = `/api/trees/${desk.session.treeId}`
  const moments = shallowRef<readonly KeptMoment[]>([])
  const then = shallowRef<FiguresThen | null>(null)
  const { wrong, attempt } = useAttempt()
  const refresh = (): Promise<void> =>
    attempt(async () => {
      moments.value = (await callApi<KeptMoment[]>(`${base}/moments`)).toReversed()
    })
  /** Holds figures against a moment; null against none. */
  const hold = (number: number | null): Promise<void> =>
    attempt(async () => {
      if (number === null) {
        then.value = null
        return
      }
      const { figures } = await callApi<ToldFigures>(`${base}/figures`, { query: { moment: String(number) } })
      const known = new Map(
        figures.map(({ topic, measure, value }) => [`${topic} ${measure}`, value === null ? null : fixedOf(value)]),
      )
      then.value = { number, of: (topic, measure) => known.get(`${topic} ${measure}`) ?? null }
    })
  onMounted(refresh)
  return { moments, then, wrong, hold }
}
