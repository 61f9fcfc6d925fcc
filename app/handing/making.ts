import type { Choice, Kind } from '#core/handing/choice'
import { ApiError } from '~/composables/callApi'

/** A file that was made of a tree, and what it's called. */
export interface MadeFile {
  readonly blob: Blob
  readonly name: string
}

/** The kind that was asked for before the dialog opened. */
export const wantedKind = shallowRef<Kind | null>(null)

/** Has a file made of a tree as it was chosen. Throws as `fetchFile` does. */
export const makeFile = (tree: string, choice: Choice, signal: AbortSignal): Promise<MadeFile> =>
  fetchFile(`/api/trees/${tree}/hand-out`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ ...choice, today: today(), zone: ownZone() }),
    signal,
  })

/** A file as the server makes it. What goes wrong comes as an `ApiError` whose message can be shown; an abort as itself. */
export async function fetchFile(path: string, asked: RequestInit = {}): Promise<MadeFile> {
  const response = await fetch(path, asked).catch((error: Error) => {
    if (error.name === 'AbortError') throw error
    throw new ApiError(0, 'offline', 'There is no line to the server just now.')
  })
  if (!response.ok) {
    const said = (await response.json().catch(() => null)) as { error?: { code: string; message: string } } | null
    throw new ApiError(
      response.status,
      said?.error?.code ?? 'unavailable',
      said?.error?.message ?? 'The server doesn’t answer as it should. Please try again.',
    )
  }
  return { blob: await response.blob(), name: nameIn(response.headers.get('content-disposition') ?? '') }
}

/** The name of RFC 6266's `filename*`. */
function nameIn(disposition: string): string {
  const [, encoded] = /filename\*=UTF-8''([^;]+)/.exec(disposition) ?? []
  return encoded ? decodeURIComponent(encoded) : 'tree'
}

/** Lets the browser save a file that was made. */
export function saveFile({ blob, name }: MadeFile): void {
  const address = URL.createObjectURL(blob)
  saveAs(address, name)
  // The browser has begun to read it by then.
  setTimeout(() => URL.revokeObjectURL(address), 60_000)
}

/** What of the kinds can be put on the clipboard, and as what. */
export const CLIPBOARD: Readonly<Partial<Record<Kind, string>>> = {
  png: 'image/png',
  html: 'text/html',
  markdown: 'text/plain',
  text: 'text/plain',
}
