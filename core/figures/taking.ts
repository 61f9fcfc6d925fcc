import { fold } from '../find/text'
import type { Measure } from '../tree/figure'
import { inOrder } from '../tree/substance'
import type { Topic, TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { allTopics, pathTo } from '../tree/walk'
import { figureAt } from './entry'
import type { Figures } from './figures'
import { fixedOf, isWithinLimit, numeralOf } from './fixed'
import { hasTooManyDigits, readFigure } from './numbers'
import type { ReadCell, ReadTable } from './table'

/*
 * Figures out of a table that another program made: which column is which measure, which row is which topic, and what would differ. Nothing
 * is taken before somebody has seen it.
 */

/** What a column says: a measure's figures, by which a topic is known, or nothing that is taken. */
export type Column =
  { readonly is: 'measure'; readonly measure: string } | { readonly is: 'number' | 'title' | 'path' } | null
export interface Matching {
  /** The row that names the columns; -1 for none. */
  readonly head: number
  readonly columns: readonly Column[]
}

/** Rows among which the names of columns are looked for. */
const HEAD_WITHIN = 20
const NUMBER = new Set(['no', 'no.', 'number', '#', 'nr', 'nr.', 'nummer', 'numéro', 'n°', 'número', 'numero'])
const TITLE = new Set([
  'topic',
  'title',
  'name',
  'what',
  'item',
  'thema',
  'titel',
  'titre',
  'título',
  'titolo',
  'emne',
  'ämne',
])
const PATH = new Set(['path', 'pfad', 'chemin', 'ruta', 'percorso', 'pad', 'sti', 'sökväg'])

/** “Cost, EUR” and “Cost (EUR)” name the measure Cost in EUR. */
function measureNamed(measures: readonly Measure[], said: string): Measure | undefined {
  const word = fold(said.trim())
  return measures.find(({ name, unit }) => {
    const [own, of] = [fold(name), fold(unit.trim())]
    return (
      word === own ||
      (of !== '' && [`${own}, ${of}`, `${own} (${of})`, `${own} ${of}`, `${own} [${of}]`].includes(word))
    )
  })
}

function columnNamed(measures: readonly Measure[], said: string): Column {
  const word = fold(said.trim())
  if (word === '') return null
  const measure = measureNamed(measures, said)
  if (measure) return { is: 'measure', measure: measure.id }
  return NUMBER.has(word)
    ? { is: 'number' }
    : TITLE.has(word)
      ? { is: 'title' }
      : PATH.has(word)
        ? { is: 'path' }
        : null
}

/** What the columns of a table most likely say. */
export function matchingOf(table: ReadTable, tree: Tree): Matching {
  const measures = inOrder(tree.fields.measures)
  const wide = Math.max(0, ...table.rows.map(row => row.length))
  let best: Matching = { head: -1, columns: Array.from<Column>({ length: wide }).fill(null) }
  let most = 0
  table.rows.slice(0, HEAD_WITHIN).forEach((row, head) => {
    const taken = new Set<string>()
    const columns = Array.from({ length: wide }, (_, i): Column => {
      const column = columnNamed(measures, row[i]?.text ?? '')
      const key = column && (column.is === 'measure' ? column.measure : column.is)
      if (key === null || taken.has(key)) return null
      taken.add(key)
      return column
    })
    const found = columns.filter(Boolean).length
    if (found > most) [best, most] = [{ head, columns }, found]
  })
  if (best.columns.some(column => column?.is === 'title' || column?.is === 'path')) return best
  // The column in which most cells are titles of topics.
  const titles = new Set([...allTopics(tree)].map(({ title }) => keyOf(title)))
  const hits = Array.from({ length: wide }, (_, i) =>
    best.columns[i] === null ? table.rows.filter(row => row[i] && titles.has(keyOf(row[i].text))).length : 0,
  )
  const at = hits.indexOf(Math.max(...hits))
  return at < 0 || hits[at] === 0
    ? best
    : { ...best, columns: best.columns.map((column, i) => (i === at ? { is: 'title' } : column)) }
}

const keyOf = (title: string): string => fold(title.replace(/\s+/g, ' ').trim())
const pathKey = (words: string): string =>
  words
    .split(/\s*[/›>→]\s*/)
    .map(keyOf)
    .filter(Boolean)
    .join(' / ')

export interface Difference {
  readonly topic: TopicId
  readonly measure: string
  /** Of the table, from 0. */
  readonly row: number
  /** As they're stored; a formula begins with `=`. */
  readonly before: string
  readonly after: string
}
export interface Taking {
  readonly differences: readonly Difference[]
  /** Cells that say what is so already. */
  readonly same: number
  /** Rows that no topic was found for, with what they say and why. */
  readonly without: readonly { readonly row: number; readonly words: string; readonly why: 'none' | 'several' }[]
  /** Cells that can't be taken, with words for it. */
  readonly unread: readonly { readonly row: number; readonly words: string; readonly why: string }[]
  /** Cells that the table works out itself: what they come to is left, since it follows from the others here too. */
  readonly formulas: number
}

/** What a table would change. `numberOf`: the number before a topic's title; `locale`: in whose signs words are numbers. */
export function takingOf(
  table: ReadTable,
  { head, columns }: Matching,
  tree: Tree,
  figures: Figures,
  numberOf: (id: TopicId) => string,
  locale: string,
): Taking {
  const find = finder(tree, numberOf)
  const at = (row: readonly (ReadCell | null)[], is: 'number' | 'title' | 'path'): string =>
    row[columns.findIndex(column => column?.is === is)]?.text.trim() ?? ''
  const measured = columns.flatMap((column, i) => {
    const measure = column?.is === 'measure' && tree.fields.measures.find(({ id }) => id === column.measure)
    return measure ? [{ i, measure }] : []
  })
  const differences = new Map<string, Difference>()
  const without: { row: number; words: string; why: 'none' | 'several' }[] = []
  const unread: { row: number; words: string; why: string }[] = []
  let [same, formulas] = [0, 0]
  table.rows.forEach((row, n) => {
    if (n <= head) return
    const cells = measured.flatMap(({ i, measure }) => {
      const cell = row[i]
      return cell && (cell.text.trim() !== '' || cell.number !== null) ? [{ cell, measure }] : []
    })
    if (cells.length === 0) return
    const [title, path, number] = [at(row, 'title'), at(row, 'path'), at(row, 'number')]
    const topic = find(title, path, number)
    if (typeof topic === 'string') {
      without.push({ row: n, words: path || title || number, why: topic })
      return
    }
    for (const { cell, measure } of cells) {
      if (cell.formula) {
        formulas++
        continue
      }
      const words = `${measure.name} of “${topic.title}”`
      if (topic.reference) {
        unread.push({ row: n, words, why: 'It shows another topic, whose figures would count twice.' })
        continue
      }
      const after = numeralIn(cell, measure, locale)
      if (after === null) {
        const why = hasTooManyDigits(cell.text) || cell.number !== null ? 'has too many digits' : 'is no number'
        unread.push({ row: n, words, why: `“${cell.text.slice(0, 40)}” ${why}.` })
        continue
      }
      const key = `${topic.id} ${measure.id}`
      if (differences.has(key)) {
        unread.push({ row: n, words, why: 'It stands in the table twice; the first one counts.' })
        continue
      }
      if (figures.of(topic.id, measure.id).value === fixedOf(after)) {
        same++
        continue
      }
      const before = figureAt(tree, topic.id, measure.id, null)?.text ?? ''
      differences.set(key, { topic: topic.id, measure: measure.id, row: n, before, after })
    }
  })
  return { differences: [...differences.values()], same, without, unread, formulas }
}

/** A cell's number as a measure stores it; in per cent, words say the hundredfold, and a table's own number the share. */
function numeralIn({ text, number }: ReadCell, measure: Measure, locale: string): string | null {
  if (number === null) return readFigure(text, measure, locale)
  const value = fixedOf(number)
  if (value === null || !isWithinLimit(value)) return null
  return numeralOf(value)
}

/** Finds topics by path, by title, and of several by the number before it. */
function finder(tree: Tree, numberOf: (id: TopicId) => string) {
  const [byTitle, byPath, byNumber] = [new Map<string, Topic[]>(), new Map<string, Topic[]>(), new Map<string, Topic>()]
  const put = (map: Map<string, Topic[]>, key: string, topic: Topic): void => {
    const had = map.get(key)
    if (had) had.push(topic)
    else map.set(key, [topic])
  }
  for (const topic of allTopics(tree)) {
    put(byTitle, keyOf(topic.title), topic)
    const titles = pathTo(tree, topic.id).map(one => keyOf(one.title))
    put(byPath, titles.join(' / '), topic)
    // Without the centre, which all have in common.
    if (titles.length > 1) put(byPath, titles.slice(1).join(' / '), topic)
    const number = numberOf(topic.id)
    if (number) byNumber.set(number, topic)
  }
  return (title: string, path: string, number: string): Topic | 'none' | 'several' => {
    const numbered = number === '' ? undefined : byNumber.get(number)
    const found =
      path !== '' ? byPath.get(pathKey(path)) : title !== '' ? byTitle.get(keyOf(title)) : numbered && [numbered]
    if (!found || found.length === 0) return 'none'
    if (found.length === 1) return topicOf(tree, found[0]!.id)
    return found.find(({ id }) => id === numbered?.id) ?? 'several'
  }
}
