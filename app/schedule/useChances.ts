import type { Chances, ChancesAsked } from '#core/schedule/chances'
import { toSnapshot } from '#core/tree'
import type { Desk } from '~/desk/desk'
import type { ChancesAnswer, ChancesJob } from './chances-worker'

/** The chances of a plan, run in a thread of their own, with how far they are; another run ends the one before. */
export function useChances(desk: Desk) {
  const made = shallowRef<Chances | null>(null)
  const rounds = ref<number | null>(null)
  const wrong = ref('')
  let worker: Worker | null = null

  function stop(): void {
    worker?.terminate()
    worker = null
    rounds.value = null
  }
  function run(asked: ChancesAsked): void {
    stop()
    wrong.value = ''
    rounds.value = 0
    worker = new Worker(new URL('./chances-worker.ts', import.meta.url), { type: 'module' })
    worker.addEventListener('message', ({ data }: MessageEvent<ChancesAnswer>) => {
      if ('rounds' in data) rounds.value = data.rounds
      else {
        made.value = data.made
        stop()
      }
    })
    // Without a line the thread's own script may not be there.
    worker.addEventListener('error', () => {
      stop()
      wrong.value = 'The chances can’t be worked out just now. Try again with a line.'
    })
    worker.postMessage({ snapshot: toSnapshot(desk.tree), today: desk.treeDay, asked } satisfies ChancesJob)
  }
  onBeforeUnmount(stop)
  return { made, rounds, wrong, run, stop }
}
