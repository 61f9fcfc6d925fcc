import { decode } from '#core/formats/encoding'
import type { Foreseen } from '#core/formats/foreseen'
import { toBase64 } from '#core/tree/note'
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
  docx: 'docx',
  docm: 'docx',
  xlsx: 'xlsx',
  xlsm: 'xlsx',
}
/** What others wrote in a way of their own is seen before it's taken in. */
const FORESEEN = new Set(['csv', 'html', 'docx', 'xlsx'])
const PACKED = new Set(['docx', 'xlsx'])
/** What stayed behind, of one and of several. */
const STAYED: Readonly<Record<Left['what'], readonly [string, string]>> = {
  picture: ['picture is a link now', 'pictures are links now'],
  HTML: ['piece of HTML stayed behind', 'pieces of HTML stayed behind'],
  image: ['picture stayed behind', 'pictures stayed behind'],
  footnote: ['footnote stayed behind', 'footnotes stayed behind'],
  macro: ['set of macros stayed behind', 'sets of macros stayed behind'],
  part: ['sheet stayed behind, in whole or in part', 'sheets stayed behind, in whole or in part'],
  person: ['person who was invited stayed behind', 'people who were invited stayed behind'],
  repeat: [
    'entry comes again in a way that a tree doesn’t know: it stands once',
    'entries come again in ways that a tree doesn’t know: they stand once',
  ],
  cancelled: ['entry that was called off stayed behind', 'entries that were called off stayed behind'],
  entry: ['entry of another kind stayed behind', 'entries of other kinds stayed behind'],
}
const stayedInWords = (left: readonly Left[]): string[] =>
  left.map(({ what, count }) => `${count} ${STAYED[what][count === 1 ? 0 : 1]}`)

/** A tree that would come out of a file, and what would stay behind, in words. */
export interface ForeseenFile extends Foreseen {
  readonly name: string
  readonly stays: readonly string[]
}
const MOST_BYTES = 15 * 1024 * 1024
/** As text it has a third more. */
const MOST_PACKED = 11 * 1024 * 1024

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
  const foreseen = shallowRef<ForeseenFile | null>(null)
  let waiting: { format: string; name: string } | null = null
  /** What is taken in once it was seen. */
  let seen: (() => Promise<void>) | null = null
  let stopping: AbortController | null = null

  async function send(
    text: string,
    encoding: string,
    bytes: Uint8Array,
    parents: Record<string, number> = {},
    preview = FORESEEN.has(waiting!.format),
  ): Promise<void> {
    const { format, name } = waiting!
    busy.value = `Reading ${name} …`
    stopping = new AbortController()
    try {
      const {
        id,
        left,
        foreseen: found,
      } = await callApi<{ id: string; left: readonly Left[]; foreseen?: Foreseen }>('/api/trees/import', {
        method: 'POST',
        body: { format, name, text, parents, preview },
        signal: stopping.signal,
      })
      const stayed = stayedInWords(left)
      if (found) {
        doubt.value = null
        seen = () => send(text, encoding, bytes, parents, false)
        foreseen.value = { ...found, name, stays: stayed }
        return
      }
      arriving.value = [
        encoding === 'utf-8' ? '' : `Read as ${encoding}.`,
        stayed.length > 0 ? `${stayed.join(', ')}.` : '',
      ]
        .filter(Boolean)
        .join(' ')
      doubt.value = foreseen.value = null
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
        'Sun Porch reads Word documents (.docx), workbooks (.xlsx), Markdown, OPML, CSV, plain text, HTML, calendars (.ics) and its own JSON. Nothing was changed.',
      )
    if (file.size > MOST_BYTES) throw new Error('This file is larger than 15 MB. Nothing was changed.')
    waiting = { format, name: file.name }
    const bytes = new Uint8Array(await file.arrayBuffer())
    if (PACKED.has(format)) {
      if (bytes.length > MOST_PACKED) throw new Error('This file is larger than 11 MB. Nothing was changed.')
      await send(toBase64(bytes), 'utf-8', bytes)
      return
    }
    const { text, encoding, sure } = decode(bytes)
    if (sure) await send(text, encoding, bytes)
    else doubt.value = { bytes, name: file.name, encoding, unsure: true, parents: [] }
  }
  /** Stops what is being read; nothing is made of it. */
  const stop = (): void => stopping?.abort()
  return {
    busy,
    doubt,
    foreseen,
    /** Takes in what was seen. */
    takeIn: async (): Promise<void> => seen?.(),
    bring,
    stop,
    go: (text: string, encoding: string, parents: Record<string, number>) =>
      send(text, encoding, doubt.value!.bytes, parents),
  }
}
