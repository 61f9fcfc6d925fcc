import { Resvg } from '@resvg/resvg-js'
import { searchShelf, type Shelved } from '#core/capture/shelf'
import type { ShelfPicture } from '#core/contract'
import { fold } from '#core/find/text'
import { CannotMake } from '#core/scene/cannot-make'
import { readShelfFile, SHELF_LANGUAGES, type ShelfLanguage } from './files'

/*
 * The shelf of pictures: OpenMoji's emoji with the keywords that emojibase has of them in many languages, and Lucide's plain
 * symbols by their names. It's read and searched in a thread of its own, since the sets weigh megabytes.
 */

interface IconSet {
  readonly icons: Readonly<Record<string, { readonly body: string; readonly width?: number; readonly height?: number }>>
  readonly width?: number
  readonly height?: number
}
interface Worded {
  readonly hexcode: string
  readonly label: string
  readonly tags?: readonly string[]
  readonly unicode: string
}

const MOST = { emoji: 60, symbols: 24 } as const
/** Pixels of a picture that goes into a topic, on each side. */
const PIXELS = 320
/** A plain symbol's colour: read on a plank by day and by dusk alike. */
const SYMBOL_INK = '#3f8088'

const kept = new Map<string, unknown>()
function once<T>(name: string, make: () => T): T {
  if (!kept.has(name)) kept.set(name, make())
  return kept.get(name) as T
}
const set = (name: 'openmoji' | 'lucide'): IconSet => once(name, () => readShelfFile<IconSet>(`${name}.json`))
const wordsIn = (language: ShelfLanguage): ReadonlyMap<string, Worded> =>
  once(
    `words ${language}`,
    () => new Map(readShelfFile<Worded[]>(`words-${language}.json`).map(one => [one.hexcode, one])),
  )

const split = (texts: readonly string[]): string[] => [
  ...new Set(texts.flatMap(text => fold(text).split(/[^\p{L}\p{N}]+/u)).filter(Boolean)),
]

function emojiOn(language: ShelfLanguage): readonly Shelved[] {
  return once(`emoji ${language}`, () => {
    const names = once('names', () => readShelfFile<Record<string, string>>('openmoji-names.json'))
    const own = wordsIn(language)
    const shelved: Shelved[] = []
    for (const [hexcode, english] of wordsIn('en')) {
      // What is drawn is named without the sign that asks for colour.
      const name = names[hexcode.toLowerCase()] ?? names[hexcode.replace(/-FE0F/g, '').toLowerCase()]
      if (name === undefined || !(name in set('openmoji').icons)) continue
      const said = own.get(hexcode) ?? english
      shelved.push({
        id: `openmoji:${name}`,
        label: said.label,
        emoji: said.unicode,
        words: split([said.label, ...(said.tags ?? []), english.label, ...(english.tags ?? [])]),
      })
    }
    return shelved
  })
}

const symbols = (): readonly Shelved[] =>
  once('symbols', () =>
    Object.keys(set('lucide').icons).map(name => ({
      id: `lucide:${name}`,
      label: name.replaceAll('-', ' '),
      emoji: null,
      words: split([name]),
    })),
  )

function drawingOf(id: string): string | null {
  const [from, name] = id.split(':') as [string, string | undefined]
  if ((from !== 'openmoji' && from !== 'lucide') || name === undefined) return null
  const { icons, width: usualWidth = 24, height: usualHeight = 24 } = set(from)
  if (!Object.hasOwn(icons, name)) return null
  const { body, width = usualWidth, height = usualHeight } = icons[name]!
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" color="${SYMBOL_INK}">${body}</svg>`
}

export const isShelfLanguage = (language: string): language is ShelfLanguage =>
  (SHELF_LANGUAGES as readonly string[]).includes(language)

/** Pictures by words, in a language and in English. */
export function findOnShelf({
  words,
  language,
}: {
  readonly words: string
  readonly language: string
}): ShelfPicture[] {
  const shelf = emojiOn(isShelfLanguage(language) ? language : 'en')
  return [...searchShelf(shelf, words, MOST.emoji), ...searchShelf(symbols(), words, MOST.symbols)].map(
    ({ id, label, emoji }) => ({ id, label, emoji, drawing: drawingOf(id)! }),
  )
}

/** A picture of the shelf as PNG. Throws `CannotMake` where there is none of that name. */
export function drawFromShelf({ id }: { readonly id: string }): Uint8Array {
  const drawing = drawingOf(id)
  if (drawing === null) throw new CannotMake('no-picture', 'There is no such picture on the shelf.')
  return new Resvg(drawing, { fitTo: { mode: 'width', value: PIXELS }, font: { loadSystemFonts: false } })
    .render()
    .asPng()
}
