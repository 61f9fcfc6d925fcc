import { type Chances, type ChancesAsked, chancesOf } from '#core/schedule/chances'
import { fromSnapshot, type Snapshot } from '#core/tree'

/* The thread in which the rounds are run, so that nobody's hands wait for them. */

export interface ChancesJob {
  readonly snapshot: Snapshot
  readonly today: string
  readonly asked: ChancesAsked
}
export type ChancesAnswer = { readonly rounds: number } | { readonly made: Chances | null }

addEventListener('message', ({ data: { snapshot, today, asked } }: MessageEvent<ChancesJob>) => {
  const going = chancesOf(fromSnapshot(snapshot), today, asked)
  for (;;) {
    const { done, value } = going.next()
    if (done) {
      postMessage({ made: typeof value === 'string' ? null : value } satisfies ChancesAnswer)
      return
    }
    postMessage({ rounds: value } satisfies ChancesAnswer)
  }
})
