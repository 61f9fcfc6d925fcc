import { Unreadable } from '#core/capture/nested'
import type { PasteAnswer } from './paste-worker'
import type { Branches, Pasted } from './pasted'

/** Characters that are read at once where they are; more is read in a thread of its own. */
const AT_ONCE = 100_000
/** Milliseconds after which it's given up. */
const MOST_MS = 15_000

export const isLarge = ({ own, html, text }: Pasted): boolean => own.length + html.length + text.length > AT_ONCE

/** Reads what was pasted in a thread of its own. Rejects with `Unreadable`, also when it takes too long or was given up. */
export function readAside(pasted: Pasted, giveUp: AbortSignal): Promise<Branches> {
  return new Promise((done, reject) => {
    const worker = new Worker(new URL('./paste-worker.ts', import.meta.url), { type: 'module' })
    const end = (): void => {
      clearTimeout(timer)
      giveUp.removeEventListener('abort', stop)
      worker.terminate()
    }
    const fail = (message: string): void => {
      end()
      reject(new Unreadable(message))
    }
    const stop = (): void => fail('Given up. Nothing was changed.')
    const timer = setTimeout(
      () => fail('This takes too long to read. Paste it in parts; nothing was changed.'),
      MOST_MS,
    )
    giveUp.addEventListener('abort', stop)
    worker.addEventListener('message', ({ data }: MessageEvent<PasteAnswer>) => {
      end()
      if ('read' in data) done(data.read)
      else reject(new Unreadable(data.wrong))
    })
    // Without a line the thread's own script may not be there.
    worker.addEventListener('error', () => fail('What was pasted can’t be read just now. Nothing was changed.'))
    worker.postMessage(pasted)
  })
}
