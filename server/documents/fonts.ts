import { existsSync, readFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'

/*
 * The fonts of documents that hold their own, and which of them a letter is drawn with: Figtree first, DejaVu Sans for
 * scripts it hasn't (Greek, Cyrillic, Hebrew, Arabic and others), Kosugi for Japanese, Noto Emoji for pictures in the
 * text, over which Twemoji's colours are drawn. One place for every document.
 */

export const FONT_FILES = {
  text: '@expo-google-fonts/figtree/400Regular/Figtree_400Regular.ttf',
  bold: '@expo-google-fonts/figtree/700Bold/Figtree_700Bold.ttf',
  otherText: 'dejavu-fonts-ttf/ttf/DejaVuSans.ttf',
  otherBold: 'dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf',
  japanese: '@expo-google-fonts/kosugi/Kosugi_400Regular.ttf',
  emoji: '@fontsource/noto-emoji/files/noto-emoji-emoji-400-normal.woff',
  colour: 'twemoji-colr-font/twemoji.woff2',
} as const
export type FontName = keyof typeof FONT_FILES
/** Those that text is set in. */
export const FONT_NAMES = (Object.keys(FONT_FILES) as readonly FontName[]).filter(name => name !== 'colour')

/** In a build the fonts lie beside the server's entry, in development in their packages. */
function fileOf(name: FontName): string {
  const built = join(dirname(resolve(process.argv[1] ?? '.')), 'fonts', FONT_FILES[name].split('/').at(-1)!)
  return existsSync(built) ? built : resolve('node_modules', FONT_FILES[name])
}

const read = new Map<FontName, Buffer>()

export function fontOf(name: FontName): Buffer {
  const known = read.get(name)
  if (known) return known
  const bytes = readFileSync(fileOf(name))
  read.set(name, bytes)
  return bytes
}

/** Whether a font has a letter. */
export type HasGlyph = (font: FontName, point: number) => boolean

const PLAIN: readonly FontName[] = ['text', 'otherText', 'japanese', 'emoji']
const BOLD: readonly FontName[] = ['bold', 'otherBold', 'japanese', 'emoji']
const PICTURES: readonly FontName[] = ['emoji', 'text', 'otherText']

/** The font for one letter as people see it (a grapheme): the first that has its first character. */
export function fontFor(grapheme: string, bold: boolean, has: HasGlyph): FontName {
  const pictured = /\p{Emoji_Presentation}|\uFE0F|\p{Regional_Indicator}/u.test(grapheme)
  const order = pictured ? PICTURES : bold ? BOLD : PLAIN
  const point = grapheme.codePointAt(0)!
  return order.find(name => has(name, point)) ?? order[0]!
}
