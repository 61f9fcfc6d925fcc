import { figureAt, type Given } from '#core/figures/entry'
import type { Figures } from '#core/figures/figures'
import { typedFigure } from '#core/figures/numbers'
import { blockOf, blockText, type SheetRow } from '#core/figures/sheet'
import { isTopicRow, type SheetLine } from '#core/figures/sheet-groups'
import { type Measure, topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { entryOf, giveFigures } from './figuring'
import type { Block } from './useSheetKeys'

/** Cells and characters that are pasted at once at most. */
const MOST_PASTED = 20_000
const MOST_CHARACTERS = 2_000_000
const cellsInWords = (count: number): string => (count === 1 ? 'One cell' : `${count} cells`)
const isOrAre = (count: number): string => (count === 1 ? 'is' : 'are')

/** What is done to several cells of the sheet: given, emptied, filled down, copied and pasted; each one edit. */
export function useSheetBlocks(
  desk: Desk,
  sheet: {
    rows(): readonly SheetLine[]
    measures(): readonly Measure[]
    /** What is chosen; null in the column of topics. */
    block(): Block | null
    figures(): Figures
    whatIf(): string | null
  },
) {
  const measuresIn = ({ left, right }: Block): readonly Measure[] => sheet.measures().slice(left, right + 1)
  /** Heads of groups are no part of a block. */
  const rowsIn = ({ top, bottom }: Block): readonly SheetRow[] =>
    sheet
      .rows()
      .slice(top, bottom + 1)
      .filter(isTopicRow)

  /** A topic that shows another has no figures. */
  function give(given: readonly Given[]): boolean {
    const may = given.filter(({ topic }) => !topicOf(desk.tree, topic).reference)
    return giveFigures(
      desk,
      may.map(one => ({ whatIf: sheet.whatIf(), ...one })),
    )
  }
  function clear(block: Block): void {
    give(
      rowsIn(block).flatMap(({ id }) =>
        measuresIn(block).map(measure => ({ topic: id, measure: measure.id, text: '', series: null })),
      ),
    )
  }
  /** As it's stored: a formula that can't be read any more is filled down as it is. */
  function stored(id: TopicId, measure: Measure): Pick<Given, 'text' | 'series'> {
    const found = figureAt(desk.tree, id, measure.id, sheet.whatIf()) ?? figureAt(desk.tree, id, measure.id, null)
    return { text: found?.text ?? '', series: found?.series ?? null }
  }
  /** The first row's figures go down the range; of one cell alone, what stands above it comes down. */
  function fill(block: Block): void {
    const from = block.top === block.bottom ? block.top - 1 : block.top
    const source = sheet.rows()[from]
    if (!source || !isTopicRow(source)) return
    const given = rowsIn({ ...block, top: from + 1 }).flatMap(({ id }) =>
      measuresIn(block).map(measure => ({ topic: id, measure: measure.id, ...stored(source.id, measure) })),
    )
    if (give(given)) desk.say(`${cellsInWords(given.length)} ${isOrAre(given.length)} filled down.`, true)
  }

  function copy(event: ClipboardEvent): void {
    const block = sheet.block()
    if (!block || !event.clipboardData) return
    event.preventDefault()
    event.stopPropagation()
    const figures = sheet.figures()
    const cells = rowsIn(block).map(({ id }) =>
      measuresIn(block).map(measure => {
        const { value } = figures.of(id, measure.id)
        return value === null ? '' : typedFigure(value, measure, ownLocale())
      }),
    )
    const escaped = (text: string): string => text.replace(/[&<>]/g, sign => `&#${sign.charCodeAt(0)};`)
    event.clipboardData.setData('text/plain', blockText(cells))
    event.clipboardData.setData(
      'text/html',
      `<table>${cells.map(row => `<tr>${row.map(cell => `<td>${escaped(cell)}</td>`).join('')}</tr>`).join('')}</table>`,
    )
    const count = cells.length * measuresIn(block).length
    if (event.type === 'cut') clear(block)
    desk.say(`${cellsInWords(count)} ${isOrAre(count)} copied.`)
  }

  function paste(event: ClipboardEvent): void {
    const block = sheet.block()
    const text = event.clipboardData?.getData('text/plain') ?? ''
    if (!block || text === '') return
    event.preventDefault()
    event.stopPropagation()
    if (text.length > MOST_CHARACTERS) {
      desk.say('This is more than a sheet takes at once: two million characters. Nothing was changed.')
      return
    }
    const given: Given[] = []
    let [beyond, unread] = [0, 0]
    const topics = sheet.rows().slice(block.top).filter(isTopicRow)
    let wrong = ''
    blockOf(text).forEach((line, y) =>
      line.forEach((said, x) => {
        const [row, measure] = [topics[y], sheet.measures()[block.left + x]]
        if (!row || !measure || given.length >= MOST_PASTED) {
          if (said.trim() !== '') beyond++
          return
        }
        const entry = entryOf(desk, said, measure)
        if ('text' in entry) given.push({ topic: row.id, measure: measure.id, text: entry.text })
        else {
          unread++
          wrong ||= entry.message
        }
      }),
    )
    if (given.length > 0 && !give(given)) return
    const words = [
      `${cellsInWords(given.length)} ${isOrAre(given.length)} pasted.`,
      ...(beyond > 0 ? [`${beyond} lay beyond the sheet.`] : []),
      ...(unread > 0 ? [`${unread} ${unread === 1 ? 'was' : 'were'} left out: ${wrong}`] : []),
    ]
    desk.say(words.join(' '), given.length > 0)
  }
  return { give, clear, fill, copy, paste }
}
