import { Fault } from '../access/fault'
import { runJob } from '../jobs/runner'
import { fetchGuarded, type FetchTrouble, NotFetched } from './guarded-fetch'

const MOST_BYTES = 25 * 1024 * 1024

const WORDS: Record<Exclude<FetchTrouble, 'status'>, string> = {
  'no-address': 'That isn’t a web address.',
  scheme: 'Pictures are fetched from addresses that begin with https:// only.',
  nobody: 'Nobody answers at that address.',
  inward: 'That address leads into a private network, so it isn’t opened.',
  slow: 'The address took longer than ten seconds.',
  large: 'This picture is larger than 25 MB.',
  broken: 'The picture broke off on its way.',
  redirects: 'The address leads on to another one. Take that one.',
}

/**
 * The bytes of a picture at a public https address; no redirects are followed. Where a page is there instead, the refusal
 * (`page`) holds the address of the picture that the page names, if it names one.
 */
export async function fetchPicture(text: string, person: string): Promise<Buffer> {
  try {
    const { data, type, address } = await fetchGuarded(text, {
      accept: 'image/*, text/html;q=0.5',
      mostBytes: MOST_BYTES,
    })
    if (!/^(?:text\/html|application\/xhtml\+xml)\b/.test(type)) return data
    const { picture, title } = await runJob(
      'pageHead',
      { bytes: data.subarray(0, MOST_PAGE_BYTES), type, address },
      { person },
    )
    throw new Fault(
      422,
      'page',
      picture
        ? 'That is a page, not a picture. It names one.'
        : 'That is a page, not a picture, and it names none. Nothing was changed.',
      picture ? { picture, title } : undefined,
    )
  } catch (error) {
    if (!(error instanceof NotFetched)) throw error
    const why = error.why === 'status' || error.status ? `The address answered with ${error.status}.` : WORDS[error.why]
    throw new Fault(422, 'no-picture', `${why} Nothing was changed.`)
  }
}

/** A page's head stands at its beginning. */
export const MOST_PAGE_BYTES = 512 * 1024
