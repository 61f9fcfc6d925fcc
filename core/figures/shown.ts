import { pathTo } from '../tree/walk'
import type { TopicId } from '../tree/topic'
import { isLive, type Tree } from '../tree/tree'
import { markersOf } from '../tree/markers'
import { FormulaError, type FormulaNames, parseStored, type Piece } from './parse'
import { needsQuotes } from './vocabulary'
import { fixedOf } from './fixed'
import { isSpace, readNumber, sayNumber, signsOf } from './numbers'

/* Formulas as people see them: with names for ids and numbers in their locale. */

/** Titles fold case and spaces when somebody names them. */
const folded = (title: string): string => title.trim().replace(/\s+/g, ' ').toLocaleLowerCase()
const quoted = (words: string): string => `"${words.replaceAll('"', '""')}"`

/** The names that formulas of a tree can use, for somebody's locale. */
export function namesOf(
  tree: Tree,
  locale: string,
  people: readonly { readonly id: string; readonly name: string }[] = [],
): FormulaNames {
  let byTitle: Map<string, TopicId[]> | null = null
  const titles = (): Map<string, TopicId[]> => {
    if (byTitle) return byTitle
    byTitle = new Map()
    for (const topic of tree.topics.values()) {
      if (!isLive(tree, topic.id)) continue
      const title = folded(topic.title)
      const same = byTitle.get(title)
      if (same) same.push(topic.id)
      else byTitle.set(title, [topic.id])
    }
    return byTitle
  }
  return {
    measures: tree.fields.measures,
    values: tree.fields.namedValues,
    markers: markersOf(tree.fields),
    people,
    spaced: isSpace(signsOf(locale).group),
    readNumber: text => readNumber(text, locale),
    topicsCalled(words) {
      const whole = titles().get(folded(words))
      if (whole) return whole
      const parts = words.split('/').map(folded)
      if (parts.length < 2) return []
      return (titles().get(parts.at(-1)!) ?? []).filter(id => {
        const above = pathTo(tree, id)
          .slice(0, -1)
          .map(({ title }) => folded(title))
        // Each part further up, in order, though not every step of the way has to be named.
        let at = above.length - 1
        for (const part of parts.slice(0, -1).reverse()) {
          while (at >= 0 && above[at] !== part) at--
          if (at-- < 0) return false
        }
        return true
      })
    },
  }
}

/** What to write for a topic so that it alone is meant: its title, with what's above it where others have the same. */
export function calledIn(tree: Tree, id: TopicId, names: FormulaNames): string {
  const topic = tree.topics.get(id)
  if (!topic) return 'a topic that is gone'
  const path = pathTo(tree, id)
    .map(({ title }) => title.trim().replace(/\s+/g, ' '))
    .filter(Boolean)
  for (let from = path.length - 1; from >= 0; from--) {
    const words = path.slice(from).join(' / ')
    const found = names.topicsCalled(words)
    if (found.length === 1 && found[0] === id) return words
  }
  return path.join(' / ')
}

/** A stored formula (without its `=`) as it's shown and typed. */
export function shownFormula(stored: string, tree: Tree, names: FormulaNames, locale: string): string {
  let pieces: readonly Piece[]
  try {
    ;({ pieces } = parseStored(stored))
  } catch (error) {
    if (error instanceof FormulaError) return stored
    throw error
  }
  const nameIn = (all: readonly { readonly id: string; readonly name: string }[], id: string): string | null =>
    all.find(one => one.id === id)?.name ?? null
  const measureName = (name: string | null): string =>
    name === null ? "'a measure that is gone'" : needsQuotes(name) ? `'${name.replaceAll("'", "''")}'` : name
  const shownAs = (piece: Piece): string | null => {
    switch (piece.kind) {
      case 'measure':
        return measureName(nameIn(names.measures, piece.id!))
      case 'value':
        return measureName(nameIn(names.values, piece.id!))
      case 'topic':
        return quoted(calledIn(tree, piece.id!, names))
      case 'marker':
        return quoted(nameIn(names.markers, piece.id!) ?? piece.id!)
      case 'person':
        return quoted(nameIn(names.people, piece.id!) ?? piece.id!)
      case 'number': {
        const value = fixedOf(stored.slice(piece.from, piece.to))
        return value === null ? null : sayNumber(value, locale, { grouped: false })
      }
      default:
        return null
    }
  }
  let shown = ''
  let done = 0
  // A condition is a piece as a whole, and the names in it are pieces too: what lies inside comes first.
  for (const piece of [...pieces].sort((a, b) => a.from - b.from || a.to - b.to)) {
    if (piece.from < done) continue
    const as = shownAs(piece)
    if (as === null) continue
    shown += stored.slice(done, piece.from) + as
    done = piece.to
  }
  return shown + stored.slice(done)
}
