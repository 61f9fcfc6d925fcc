/* What the browser must load before a page shows: the scripts that the entry and the page's own chunk import at once. */
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'

/**
 * Scripts that a script imports at once, itself included, by file name.
 *
 * @param {string} folder
 * @param {string} start
 * @param {Set<string>} seen
 */
function closure(folder, start, seen = new Set()) {
  if (seen.has(start)) return seen
  seen.add(start)
  const text = readFileSync(join(folder, start), 'utf8')
  // import … from"./x.js", import"./x.js", export … from"./x.js"; never import("./x.js").
  for (const [, name] of text.matchAll(/(?:\bfrom|\bimport)\s*"\.\/([^"]+\.js)"/g)) closure(folder, name, seen)
  return seen
}

/**
 * The compressed bytes of script on the way to a page's first look, and the scripts, the largest first.
 *
 * @param {string} folder the built `_nuxt`
 * @param {(text: string) => boolean} isPage whether a script's text is the page's own chunk
 */
export function firstLook(folder, isPage) {
  const scripts = readdirSync(folder).filter(name => name.endsWith('.js'))
  const bytes = (/** @type {string} */ name) => {
    const packed = join(folder, `${name}.br`)
    return statSync(existsSync(packed) ? packed : join(folder, name)).size
  }
  const pages = scripts.filter(name => isPage(readFileSync(join(folder, name), 'utf8')))
  if (pages.length === 0) throw new Error(`no script in ${folder} is the page’s`)
  // A page's script imports the entry itself.
  const all = /** @type {Set<string>} */ (new Set())
  for (const start of pages) for (const name of closure(folder, start)) all.add(name)
  const list = [...all].map(name => ({ name, bytes: bytes(name) })).sort((a, b) => b.bytes - a.bytes)
  return { total: list.reduce((sum, one) => sum + one.bytes, 0), list }
}
