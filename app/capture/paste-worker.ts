import { readHtmlList } from '#core/capture/html-list'
import { Unreadable } from '#core/capture/nested'
import { type Branches, type Pasted, readPasted } from './pasted'

/* The thread in which large pastes are read, so that nobody's hands wait for it. */

export type PasteAnswer = { readonly read: Branches } | { readonly wrong: string }

addEventListener('message', ({ data }: MessageEvent<Pasted>) => {
  try {
    postMessage({ read: readPasted(data, readHtmlList) } satisfies PasteAnswer)
  } catch (error) {
    const wrong = error instanceof Unreadable ? error.message : 'What was pasted can’t be read. Nothing was changed.'
    postMessage({ wrong } satisfies PasteAnswer)
  }
})
