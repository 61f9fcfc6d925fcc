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
/**
 * The faces that planks are set in, by weight: those of the same design in which the app is set. What lies between two of them is
 * drawn between them.
 */
export const FACE_FILES = {
  text: {
    400: '@expo-google-fonts/figtree/400Regular/Figtree_400Regular.ttf',
    500: '@expo-google-fonts/figtree/500Medium/Figtree_500Medium.ttf',
    600: '@expo-google-fonts/figtree/600SemiBold/Figtree_600SemiBold.ttf',
    700: '@expo-google-fonts/figtree/700Bold/Figtree_700Bold.ttf',
    800: '@expo-google-fonts/figtree/800ExtraBold/Figtree_800ExtraBold.ttf',
  },
  slanted: {
    400: '@expo-google-fonts/figtree/400Regular_Italic/Figtree_400Regular_Italic.ttf',
    500: '@expo-google-fonts/figtree/500Medium_Italic/Figtree_500Medium_Italic.ttf',
    600: '@expo-google-fonts/figtree/600SemiBold_Italic/Figtree_600SemiBold_Italic.ttf',
    700: '@expo-google-fonts/figtree/700Bold_Italic/Figtree_700Bold_Italic.ttf',
    800: '@expo-google-fonts/figtree/800ExtraBold_Italic/Figtree_800ExtraBold_Italic.ttf',
  },
  display: {
    500: '@expo-google-fonts/bricolage-grotesque/500Medium/BricolageGrotesque_500Medium.ttf',
    600: '@expo-google-fonts/bricolage-grotesque/600SemiBold/BricolageGrotesque_600SemiBold.ttf',
    700: '@expo-google-fonts/bricolage-grotesque/700Bold/BricolageGrotesque_700Bold.ttf',
    800: '@expo-google-fonts/bricolage-grotesque/800ExtraBold/BricolageGrotesque_800ExtraBold.ttf',
  },
  book: {
    400: '@expo-google-fonts/literata/400Regular/Literata_400Regular.ttf',
    500: '@expo-google-fonts/literata/500Medium/Literata_500Medium.ttf',
    600: '@expo-google-fonts/literata/600SemiBold/Literata_600SemiBold.ttf',
    700: '@expo-google-fonts/literata/700Bold/Literata_700Bold.ttf',
    800: '@expo-google-fonts/literata/800ExtraBold/Literata_800ExtraBold.ttf',
  },
  bookSlanted: {
    400: '@expo-google-fonts/literata/400Regular_Italic/Literata_400Regular_Italic.ttf',
    500: '@expo-google-fonts/literata/500Medium_Italic/Literata_500Medium_Italic.ttf',
    600: '@expo-google-fonts/literata/600SemiBold_Italic/Literata_600SemiBold_Italic.ttf',
    700: '@expo-google-fonts/literata/700Bold_Italic/Literata_700Bold_Italic.ttf',
    800: '@expo-google-fonts/literata/800ExtraBold_Italic/Literata_800ExtraBold_Italic.ttf',
  },
  hand: {
    400: '@expo-google-fonts/caveat/400Regular/Caveat_400Regular.ttf',
    500: '@expo-google-fonts/caveat/500Medium/Caveat_500Medium.ttf',
    600: '@expo-google-fonts/caveat/600SemiBold/Caveat_600SemiBold.ttf',
    700: '@expo-google-fonts/caveat/700Bold/Caveat_700Bold.ttf',
  },
} as const
export type FaceName = keyof typeof FACE_FILES

/** Every font file that the server needs beside itself. */
export const ALL_FONT_FILES: readonly string[] = [
  ...new Set([...Object.values(FONT_FILES), ...Object.values(FACE_FILES).flatMap(weights => Object.values(weights))]),
]
export type FontName = keyof typeof FONT_FILES
/** Those that text is set in. */
export const FONT_NAMES = (Object.keys(FONT_FILES) as readonly FontName[]).filter(name => name !== 'colour')

/**
 * In a build the fonts lie beside the server's entry, which a thread of its own is one folder below; in development in their
 * packages.
 */
function whereIs(file: string): string {
  const name = file.split('/').at(-1)!
  const beside = dirname(resolve(process.argv[1] ?? '.'))
  const built = [join(beside, 'fonts', name), join(beside, '..', 'fonts', name)].find(existsSync)
  return built ?? resolve('node_modules', file)
}

/** Where a font lies, for what reads it by itself. */
export const fontPath = (name: FontName): string => whereIs(FONT_FILES[name])

const read = new Map<string, Buffer>()

function bytesOf(file: string): Buffer {
  const known = read.get(file)
  if (known) return known
  const bytes = readFileSync(whereIs(file))
  read.set(file, bytes)
  return bytes
}

export const fontOf = (name: FontName): Buffer => bytesOf(FONT_FILES[name])

/** A face of one of the weights that there are. */
export const faceBytes = (name: FaceName, weight: number): Buffer =>
  bytesOf((FACE_FILES[name] as Record<number, string>)[weight]!)

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
