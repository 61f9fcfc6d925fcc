import { planTest } from '../find/plan-test'
import { compile } from '../find/evaluate'
import { daysBetween } from '../schedule/days'
import type { Measure } from '../tree/figure'
import type { TopicId } from '../tree/topic'
import { childrenOf, isLive, topicOf, type Tree } from '../tree/tree'
import { branch } from '../tree/walk'
import type { Figures } from './figures'
import { COMPARING, isCell, isOfDays, MANY, propertiesIn } from './asked-of'
import { type Expression, type FunctionName, type List, type Place, type Property, PROPERTIES } from './formula'
import { FormulaError, parseStored } from './parse'
import { numeralOf } from './fixed'
import { columnName } from './table'
import { FAULT_SIGNS } from './words'

/*
 * A tree as a spreadsheet: a row for each topic as it's read, a column for each measure, and our formulas as the sheet's own, so that it
 * goes on reckoning there. What has no counterpart stands as the value that it has, and says so.
 */

/** A cell: a number or words, or a formula without its `=` (OpenFormula’s and Office Open XML’s common ground, in English), with its value. */
export interface SheetCell {
  readonly value: number | string | null
  readonly formula: string | null
  /** What is to be known of it; null for nothing. */
  readonly note: string | null
}
export interface SheetOf {
  /** Topics in reading order, with the levels below the first. */
  readonly rows: readonly { readonly id: TopicId; readonly level: number }[]
  /** What stands in the columns behind number, title and level. */
  readonly columns: readonly (
    { readonly kind: 'measure'; readonly measure: Measure } | { readonly kind: 'property'; readonly property: Property }
  )[]
  readonly cells: readonly (readonly SheetCell[])[]
  readonly values: readonly {
    readonly id: string
    readonly name: string
    readonly unit: string
    readonly cell: SheetCell
  }[]
}

/** The first row of topics, from 1, and the first column behind number and title, from 0. */
export const FIRST_ROW = 2
export const FIRST_COLUMN = 2
/** The sheet that holds named values, and where they begin there. */
export const VALUES_SHEET = 'Values'
const MOST_ARGUMENTS = 200
/** Characters of a formula at most (Office Open XML). */
const MOST_CHARACTERS = 8000

/** Days since 30 December 1899, as spreadsheets count them. */
export const serialOf = (day: string): number => daysBetween('1899-12-30', day)

/** What has no counterpart, with words for it. */
class NoCounterpart extends Error {}
const ON_NOTHING = 'The formula stands on nothing just now.'

/**
 * The sheet of a part of a tree. `shown`: the part; `tree`, `figures`: the whole, in which they're worked out: what a formula needs of
 * what isn't shown stands as a value.
 */
export function spreadsheetOf(
  shown: Tree,
  tree: Tree,
  figures: Figures,
  measures: readonly Measure[],
  today: string,
): SheetOf {
  return new Writer(shown, tree, figures, measures, today).sheet()
}

class Writer {
  private readonly rows: { readonly id: TopicId; readonly level: number }[] = []
  private readonly rowOf = new Map<TopicId, number>()
  private readonly columns: SheetOf['columns'][number][]
  private readonly columnOf = new Map<string, number>()
  private readonly valueRow = new Map<string, number>()

  constructor(
    private readonly shown: Tree,
    private readonly tree: Tree,
    private readonly figures: Figures,
    measures: readonly Measure[],
    private readonly today: string,
  ) {
    const walk = (id: TopicId, level: number): void => {
      this.rowOf.set(id, this.rows.length + FIRST_ROW)
      this.rows.push({ id, level })
      for (const child of childrenOf(shown, id)) walk(child, level + 1)
    }
    walk(shown.centre, 0)
    for (const loose of childrenOf(shown, null))
      if (loose !== shown.centre && !topicOf(shown, loose).tray) walk(loose, 0)
    const asked = new Set<Property>()
    for (const { id } of this.rows)
      for (const { measure } of measures.map(one => ({ measure: one.id }))) {
        const { formula } = figures.of(id, measure)
        if (formula) for (const property of propertiesIn(formula)) asked.add(property)
      }
    this.columns = [
      ...measures.map(measure => ({ kind: 'measure' as const, measure })),
      ...PROPERTIES.filter(property => asked.has(property)).map(property => ({ kind: 'property' as const, property })),
    ]
    this.columns.forEach((column, i) =>
      this.columnOf.set(
        column.kind === 'measure' ? `m ${column.measure.id}` : `p ${column.property}`,
        FIRST_COLUMN + i,
      ),
    )
    tree.fields.namedValues.forEach(({ id }, i) => this.valueRow.set(id, i + FIRST_ROW))
  }

  sheet(): SheetOf {
    return {
      rows: this.rows,
      columns: this.columns,
      cells: this.rows.map(({ id }) =>
        this.columns.map(column =>
          column.kind === 'measure' ? this.figure(id, column.measure) : this.property(id, column.property),
        ),
      ),
      values: this.tree.fields.namedValues.map(one => ({ ...one, cell: this.named(one.id, one.text) })),
    }
  }

  private figure(id: TopicId, measure: Measure): SheetCell {
    const { value, fault, own, formula } = this.figures.of(id, measure.id)
    if (fault) return { value: FAULT_SIGNS[fault.kind], formula: null, note: 'It couldn’t be worked out.' }
    const number = value === null ? null : Number(numeralOf(value))
    if (formula !== null) return this.formula(number, () => this.said(formula, id, number))
    if (own || number === null) return { value: number, formula: null, note: null }
    return this.formula(number, () => this.rollUp(id, measure))
  }
  private named(id: string, text: string): SheetCell {
    const { value, fault } = this.figures.named(id)
    if (fault) return { value: FAULT_SIGNS[fault.kind], formula: null, note: 'It couldn’t be worked out.' }
    const number = value === null ? null : Number(numeralOf(value))
    if (!text.startsWith('=')) return { value: number, formula: null, note: null }
    return this.formula(number, () => this.said(text.slice(1), null, number))
  }
  private property(id: TopicId, property: Property): SheetCell {
    const value = this.figures.propertyOf(id, property)
    return {
      value:
        value === null
          ? null
          : value.kind === 'day'
            ? serialOf(value.day)
            : value.kind === 'amount'
              ? value.n.toNumber()
              : null,
      formula: null,
      note: null,
    }
  }
  private formula(value: number | null, write: () => string): SheetCell {
    try {
      const formula = write()
      if (formula.length > MOST_CHARACTERS) throw new NoCounterpart('The formula is too long for a spreadsheet.')
      return { value, formula, note: null }
    } catch (error) {
      if (!(error instanceof NoCounterpart)) throw error
      return {
        value,
        formula: null,
        note: value === null ? error.message : `${error.message} This is the value it had.`,
      }
    }
  }
  private said(stored: string, topic: TopicId | null, value: number | null): string {
    // A sheet’s own would be zero, and count where nothing is passed over.
    if (value === null) throw new NoCounterpart(ON_NOTHING)
    try {
      return this.write(parseStored(stored).expression, topic)
    } catch (error) {
      if (error instanceof FormulaError) throw new NoCounterpart('The formula can’t be read.')
      throw error
    }
  }

  // — Cells of others

  private cell(topic: TopicId, key: string): string {
    const [row, column] = [this.rowOf.get(topic), this.columnOf.get(key)]
    if (row === undefined || column === undefined) throw new NoCounterpart('It stands on what isn’t in this sheet.')
    return `${columnName(column)}${row}`
  }
  /** Cells of a column as few ranges. */
  private cells(topics: readonly TopicId[], key: string): string {
    const rows = topics.map(topic => {
      this.cell(topic, key)
      return this.rowOf.get(topic)!
    })
    const column = columnName(this.columnOf.get(key)!)
    const runs: [number, number][] = []
    for (const row of rows.sort((a, b) => a - b)) {
      const last = runs.at(-1)
      if (last && last[1] === row - 1) last[1] = row
      else runs.push([row, row])
    }
    if (runs.length > MOST_ARGUMENTS) throw new NoCounterpart('It stands on more cells than a formula can name.')
    return runs.map(([from, to]) => (from === to ? `${column}${from}` : `${column}${from}:${column}${to}`)).join(',')
  }

  /** All topics below that have a figure of their own, but not what lies below one of those. */
  private standing(id: TopicId, measure: string): TopicId[] {
    return childrenOf(this.tree, id).flatMap(child => {
      const { own, value } = this.figures.of(child, measure)
      return own ? (value === null ? [] : [child]) : this.standing(child, measure)
    })
  }
  private rollUp(id: TopicId, { id: measure, rollUp, by }: Measure): string {
    const key = `m ${measure}`
    const children = childrenOf(this.tree, id).filter(child => this.figures.of(child, measure).value !== null)
    switch (rollUp) {
      case 'sum':
        return `SUM(${this.cells(children, key)})`
      case 'min':
      case 'max':
        return `${rollUp.toUpperCase()}(${this.cells(children, key)})`
      case 'mean':
        return `AVERAGE(${this.cells(this.standing(id, measure), key)})`
      case 'count':
        return `COUNT(${this.cells(this.standing(id, measure), key)})`
      case 'weighted': {
        const standing = this.standing(id, measure)
        const products = standing.map(one => `${this.cell(one, key)}*${this.cell(one, `m ${by}`)}`)
        return `(${products.join('+')})/SUM(${this.cells(standing, `m ${by}`)})`
      }
      case 'none':
        throw new NoCounterpart('It doesn’t roll up.')
    }
  }

  // — Formulas

  private place(from: TopicId | null, place: Place): TopicId {
    const { topics, centre } = this.tree
    const id = place.kind === 'topic' ? place.id : place.kind === 'centre' ? centre : from && topics.get(from)?.parent
    if (!id || !topics.has(id) || !isLive(this.tree, id)) throw new NoCounterpart('A topic that it names isn’t there.')
    return id
  }
  private write(it: Expression, topic: TopicId | null): string {
    const part = (one: Expression): string => this.write(one, topic)
    const own = (): TopicId => {
      if (topic === null) throw new NoCounterpart('It asks for a topic.')
      return topic
    }
    switch (it.kind) {
      case 'number':
        return it.n.toFixed()
      case 'day':
        return `DATE(${it.day.split('-').map(Number).join(',')})`
      case 'today':
        return `DATE(${this.today.split('-').map(Number).join(',')})`
      case 'truth':
        return it.is ? 'TRUE()' : 'FALSE()'
      case 'measure':
        return this.cell(own(), `m ${it.id}`)
      case 'value': {
        const row = this.valueRow.get(it.id)
        if (row === undefined) throw new NoCounterpart('A named value isn’t there.')
        return `${VALUES_SHEET}!$B$${row}`
      }
      case 'property':
        return this.cell(own(), `p ${it.name}`)
      case 'at':
        return this.write(it.of, this.place(topic, it.place))
      case 'minus':
        return `(-${part(it.of)})`
      case 'percent':
        return `(${part(it.of)}/100)`
      case 'not':
        return `NOT(${part(it.of)})`
      case 'binary':
        return it.operator === 'and' || it.operator === 'or'
          ? `${it.operator.toUpperCase()}(${part(it.a)},${part(it.b)})`
          : `(${part(this.comparable(it, it.a, topic))}${it.operator}${part(this.comparable(it, it.b, topic))})`
      case 'call':
        // What is reckoned with is zero here as there; within functions of many values it's left out before.
        if (it.name !== 'if' && this.figures.isNothing(it, topic)) throw new NoCounterpart(ON_NOTHING)
        return this.call(it.name, it.args, topic)
      case 'list':
        throw new NoCounterpart('A list stands by itself.')
    }
  }
  /** A part of a comparison. What has no day is neither before nor after one; an empty cell would be. */
  private comparable({ operator }: { readonly operator: string }, part: Expression, topic: TopicId | null): Expression {
    if (COMPARING.has(operator) && isOfDays(part) && this.figures.isNothing(part, topic))
      throw new NoCounterpart(ON_NOTHING)
    return part
  }
  private call(name: FunctionName, args: readonly Expression[], topic: TopicId | null): string {
    const parts = (): string => {
      const found = args.flatMap(one => this.argument(one, topic, name) ?? [])
      if (found.length === 0) throw new NoCounterpart(ON_NOTHING)
      return found.join(',')
    }
    if (
      (name === 'sum' || name === 'count') &&
      args.every(one => one.kind === 'list' && this.isEmpty(one, topic, name))
    )
      return '0'
    const only = args.length === 1 ? args[0] : undefined
    switch (name) {
      case 'if':
        return `IF(${parts()})`
      case 'abs':
        return `ABS(${parts()})`
      case 'round':
      case 'round up':
      case 'round down':
        return `${name.replace(' ', '').toUpperCase()}(${parts()}${args.length < 2 ? ',0' : ''})`
      case 'days': {
        const [from, to] = args as [Expression, Expression]
        return `(${this.write(to, topic)}-${this.write(from, topic)})`
      }
      case 'workdays':
      case 'workday':
        throw new NoCounterpart('Spreadsheets count working days otherwise.')
      case 'mean':
        return `AVERAGE(${parts()})`
      case 'count':
        return only?.kind === 'list' && only.of === null
          ? String(this.members(only, topic).length)
          : `COUNT(${parts()})`
      default:
        return `${name.toUpperCase()}(${parts()})`
    }
  }
  private isEmpty = (list: List, topic: TopicId | null, name: FunctionName): boolean =>
    list.of !== null && this.argument(list, topic, name) === null
  /** Null for a list of nothing. */
  private argument(it: Expression, topic: TopicId | null, name: FunctionName): string | null {
    if (it.kind !== 'list')
      // An empty cell is passed over there too; what comes to nothing otherwise would count as zero.
      return MANY.has(name) && !isCell(it) && this.figures.isNothing(it, topic) ? null : this.write(it, topic)
    const members = this.members(it, topic)
    const { of } = it
    if (of === null) throw new NoCounterpart(`“${name}” asks for a measure.`)
    if (of.kind === 'measure') {
      const there = members.filter(id => {
        const { own, value } = this.figures.of(id, of.id)
        return value !== null && (own || it.scope === 'children')
      })
      return there.length === 0 ? null : this.cells(there, `m ${of.id}`)
    }
    if (it.scope === 'all below') throw new NoCounterpart('It reckons with each topic below by itself.')
    const there = members.filter(id => !this.figures.isPassedOver(of, id))
    return there.map(id => this.write(of, id)).join(',') || null
  }
  /** Which topics meet a list's condition is what it was when the sheet was made. */
  private members(list: List, topic: TopicId | null): TopicId[] {
    if (topic === null) throw new NoCounterpart('It asks for a topic.')
    const ids =
      list.scope === 'children'
        ? childrenOf(this.tree, topic)
        : [...branch(this.tree, topic)].slice(1).map(({ id }) => id)
    if (!list.when) return [...ids]
    const fits = compile(list.when, this.tree, {
      me: '',
      today: this.today,
      changesOf: () => [],
      talkOf: () => null,
      dayOf: instant => instant.slice(0, 10),
      planTest,
    })
    return ids.filter(id => fits(topicOf(this.tree, id)))
  }
}
