import { existsSync, readFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'

/* The sets that pictures of the shelf come from: files that lie beside the built server, in development in their packages. */

/** Languages in which the shelf is searched. */
export const SHELF_LANGUAGES = ['en', 'da', 'de', 'es', 'fi', 'fr', 'it', 'nb', 'nl', 'pl', 'pt', 'sv'] as const
export type ShelfLanguage = (typeof SHELF_LANGUAGES)[number]

/** Where each file comes from, by the name that it has beside the server. */
export const SHELF_FILES: Readonly<Record<string, string>> = {
  'openmoji.json': '@iconify-json/openmoji/icons.json',
  'openmoji-names.json': '@iconify-json/openmoji/chars.json',
  'lucide.json': '@iconify-json/lucide/icons.json',
  ...Object.fromEntries(
    SHELF_LANGUAGES.map(language => [`words-${language}.json`, `emojibase-data/${language}/compact.json`]),
  ),
}

/** The server's entry has the folder beside it; a thread of its own is one folder below. */
export function readShelfFile<T>(name: string): T {
  const beside = dirname(resolve(process.argv[1] ?? '.'))
  const built = [join(beside, 'shelf', name), join(beside, '..', 'shelf', name)].find(existsSync)
  return JSON.parse(readFileSync(built ?? resolve('node_modules', SHELF_FILES[name]!), 'utf8')) as T
}
