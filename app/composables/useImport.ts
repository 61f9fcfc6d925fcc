import { decode } from '#core/formats/encoding'
import type { Left } from '#core/formats/markdown'
import type { WhichParent } from '#core/formats/csv'
import type { Doubt } from '~/shell/ImportDialog.vue'

const FORMATS: Readonly<Record<string, string>> = {
  json: 'json',
  md: 'markdown',
  markdown: 'markdown',
  opml: 'opml',
  xml: 'opml',
  csv: 'csv',
  tsv: 'csv',
  txt: 'text',
  html: 'html',
  htm: 'html',
  ics: 'calendar',
}
/** What stayed behind, of one and of several. */
const STAYED: Readonly<Record<Left['what'], readonly [string, string]>> = {
  picture: ['picture is a link now', 'pictures are links now'],
  HTML: ['piece of HTML stayed behind', 'pieces of HTML stayed behind'],
  person: ['person who was invited stayed behind', 'people who were invited stayed behind'],
  repeat: [
    'entry comes again in a way that a tree doesn’t know: it stands once',
    'entries come again in ways that a tree doesn’t know: they stand once',
  ],
  cancelled: ['entry that was called off stayed behind', 'entries that were called off stayed behind'],
  entry: ['entry of another kind stayed behind', 'entries of other kinds stayed behind'],
}
const MOST_BYTES = 15 * 1024 * 1024

/** What a tree says when it opens, said where it was made. */
export const useArrivingWords = () => useState('arriving-words', () => '')

/** An edit that the server has just made in a tree for whoever comes to it now, so that Undo takes it back. */
export const useArrivedWith = () => useState<{ tree: string; number: number } | null>('arrived-with', () => null)

/**
 * Brings a file in as a tree: tells its encoding, asks where something may be meant in more than one way, and says
 * what stayed behind.
 */
export function useImport() {
  const busy = ref('')
  const doubt = shallowRef<Doubt | null>(null)
  const arriving = useArrivingWords()
  let waiting: { format: string; name: string } | null = null
  let stopping: AbortController | null = null

  async function send(
    text: string,
    encoding: string,
    bytes: Uint8Array,
    parents: Record<string, number> = {},
  ): Promise<void> {
    const { format, name } = waiting!
    busy.value = `Reading ${name} …`
    stopping = new AbortController()
    try {
      const { id, left } = await callApi<{ id: string; left: readonly Left[] }>('/api/trees/import', {
        method: 'POST',
        body: { format, name, text, parents },
        signal: stopping.signal,
      })
      const stayed = left.map(({ what, count }) => `${count} ${STAYED[what][count === 1 ? 0 : 1]}`)
      arriving.value = [
        encoding === 'utf-8' ? '' : `Read as ${encoding}.`,
        stayed.length > 0 ? `${stayed.join(', ')}.` : '',
      ]
        .filter(Boolean)
        .join(' ')
      doubt.value = null
      await navigateTo(`/trees/${id}`)
    } catch (error) {
      if (stopping.signal.aborted) return
      if (!(error instanceof ApiError) || error.code !== 'which-parent') throw error
      doubt.value = { bytes, name, encoding, unsure: false, parents: error.details as readonly WhichParent[] }
    } finally {
      busy.value = ''
    }
  }

  async function bring(file: File): Promise<void> {
    const format = FORMATS[file.name.split('.').at(-1)?.toLowerCase() ?? '']
    if (!format)
      throw new Error(
        'Sun Porch reads Markdown, OPML, CSV, plain text, HTML lists, calendars (.ics) and its own JSON. Nothing was changed.',
      )
    if (file.size > MOST_BYTES) throw new Error('This file is larger than 15 MB. Nothing was changed.')
    waiting = { format, name: file.name }
    const bytes = new Uint8Array(await file.arrayBuffer())
    const { text, encoding, sure } = decode(bytes)
    if (sure) await send(text, encoding, bytes)
    else doubt.value = { bytes, name: file.name, encoding, unsure: true, parents: [] }
  }
  /** Stops what is being read; nothing is made of it. */
  const stop = (): void => stopping?.abort()
  return {
    busy,
    doubt,
    bring,
    stop,
    go: (text: string, encoding: string, parents: Record<string, number>) =>
      send(text, encoding, doubt.value!.bytes, parents),
  }
}
