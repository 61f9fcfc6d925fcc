import { existsSync, readFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'

/*
 * Fonts for documents that hold their own. Figtree first; DejaVu Sans for letters it hasn't (Greek, Cyrillic, Arabic and others).
 */

export const FONT_FILES = {
  text: '@expo-google-fonts/figtree/400Regular/Figtree_400Regular.ttf',
  bold: '@expo-google-fonts/figtree/700Bold/Figtree_700Bold.ttf',
  otherText: 'dejavu-fonts-ttf/ttf/DejaVuSans.ttf',
  otherBold: 'dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf',
} as const
export type FontName = keyof typeof FONT_FILES

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
