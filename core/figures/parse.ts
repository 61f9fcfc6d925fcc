import { calendarDay } from '../tree/atoms'
import { MOST_FORMULA } from '../tree/figure'
import { ConditionReader, DAY, REFERENCE } from './condition-words'
import {
  type Expression,
  FUNCTIONS,
  type FunctionName,
  GATHERINGS,
  type List,
  type Operator,
  type Place,
  PROPERTIES,
  type Property,
} from './formula'
import { FormulaError, type FormulaNames, type Piece, type Read } from './reading'
import { LETTER } from './scanner'
import { PLAIN, readUnit } from './units'
import { Exact } from './values'
import { RESERVED, WORDS_BY_LETTER } from './vocabulary'
import { ARGUMENTS, outside } from './where-allowed'

export { FormulaError, type FormulaNames, type Piece, type Read } from './reading'

/*
 * Reads a formula: by descent, one function a level of binding. The grammar stands in docs/formulas.md. A formula is stored with ids in
 * place of names and numbers without a locale: `{m:cost} of {t:lift} × 1.5`. What somebody types is read by the same rules, with names
 * and numbers as they are in the person's locale, and put into the stored form while it's read.
 */

const NUMBER = /\d+(?:[.,'’\u00A0\u202F]\d+)*/y
const SPACED = /\d{1,3}(?: \d{3})+(?!\d)(?:[.,]\d+)?/y
const UNIT = /[ \u00A0]*([\p{L}\p{Sc}][\p{L}\p{N}\p{Sc}²³]*(?:\/[\p{L}\p{Sc}][\p{L}\p{N}\p{Sc}²³]*)?)/uy
const SUM: readonly Operator[] = ['+', '-']
const PRODUCT: readonly Operator[] = ['*', '/']
const COMPARED: readonly Operator[] = ['=', '<>', '<', '<=', '>', '>=']

/** Reads a formula as it's stored (what stands after the `=`). Throws FormulaError. */
export const parseStored = (text: string): Read => new Reader(text, null).read()

/** The same for working it out, without its pieces. Throws FormulaError. */
export const expressionStored = (text: string): Expression => new Reader(text, null, false).read().expression

/** Reads a formula as it's typed (what stands after the `=`). Throws FormulaError. */
export const parseTyped = (text: string, names: FormulaNames): Read => new Reader(text, names).read()

/** What was made out of a formula as it's typed, as far as it can be read: while one types it seldom can to its end. */
export function piecesTyped(text: string, names: FormulaNames): readonly Piece[] {
  const reader = new Reader(text, names)
  try {
    reader.read()
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error
  }
  return reader.found
}

class Reader extends ConditionReader {
  get found(): readonly Piece[] {
    return this.pieces
  }
  read(): Read {
    if (this.text.length > MOST_FORMULA)
      this.fail(`A formula has at most ${MOST_FORMULA} characters.`, { from: MOST_FORMULA, to: this.text.length })
    this.space()
    if (this.at === this.text.length) this.fail('A formula stands after the “=”.', { from: 0, to: this.text.length })
    const expression = this.either()
    if (this.at < this.text.length) {
      const rest = this.rest()
      this.fail(
        this.text[this.at] === ','
          ? 'Arguments are parted by “;”.'
          : this.text[this.at] === ')'
            ? 'This bracket closes nothing.'
            : `“${this.text.slice(rest.from, rest.to)}” can’t stand here.`,
        rest,
      )
    }
    outside(expression)
    let stored = ''
    let done = 0
    for (const { from, to, by } of this.swaps) {
      stored += this.text.slice(done, from) + by
      done = to
    }
    return { expression, pieces: this.pieces, stored: stored + this.text.slice(done) }
  }

  // — Levels of binding

  private either(): Expression {
    let a = this.both()
    while (this.word('or')) a = this.binary('or', a, this.both())
    return a
  }
  private both(): Expression {
    let a = this.negated()
    while (this.word('and')) a = this.binary('and', a, this.negated())
    return a
  }
  private negated(): Expression {
    const from = this.at
    if (!this.word('not')) return this.compared()
    return this.inside(() => ({ kind: 'not', of: this.negated(), span: { from, to: this.at } }))
  }
  private compared(): Expression {
    const a = this.sum()
    const operator = this.sign(COMPARED)
    return operator ? this.binary(operator, a, this.sum()) : a
  }
  private sum(): Expression {
    let a = this.product()
    for (let sign = this.sign(SUM); sign; sign = this.sign(SUM)) a = this.binary(sign, a, this.product())
    return a
  }
  private product(): Expression {
    let a = this.signed()
    for (let sign = this.sign(PRODUCT); sign; sign = this.sign(PRODUCT)) a = this.binary(sign, a, this.signed())
    return a
  }
  private signed(): Expression {
    const from = this.at
    const sign = this.sign(SUM)
    if (!sign) return this.power()
    return this.inside(() => {
      const of = this.signed()
      return sign === '+' ? of : { kind: 'minus', of, span: { from, to: this.at } }
    })
  }
  /** `2 ^ 3 ^ 2` is 2 ^ 9, and `-2 ^ 2` is -4, as in writing by hand. */
  private power(): Expression {
    const a = this.afterwards()
    return this.sign(['^']) ? this.inside(() => this.binary('^', a, this.signed())) : a
  }
  private afterwards(): Expression {
    let it = this.single()
    for (;;) {
      const { from } = it.span
      if (this.text[this.at] === '%') {
        this.at++
        it = { kind: 'percent', of: it, span: { from, to: this.at } }
        this.space()
      } else if (this.word('of')) {
        const scope = this.scope()
        if (scope) it = this.list(it, scope, from)
        else it = { kind: 'at', place: this.place(), of: it, span: { from, to: this.at } }
      } else return it
    }
  }

  private single(): Expression {
    this.space()
    const from = this.at
    const sign = this.text[from]
    if (sign === undefined) this.fail('Something is missing at the end.', { from: Math.max(0, from - 1), to: from })
    if (sign === '(') {
      this.at++
      const it = this.inside(() => this.either())
      this.close(from)
      return { ...it, span: { from, to: this.at } }
    }
    const day = this.match(DAY)
    if (day) {
      if (!calendarDay.safeParse(day[0]).success) this.fail(`There is no day ${day[0]}.`, this.span(from))
      this.piece('number', from)
      return this.ended({ kind: 'day', day: day[0], span: this.span(from) })
    }
    if (/\d/.test(sign)) return this.number()
    if (this.names === null) {
      const reference = this.match(REFERENCE)
      if (reference) {
        const kind = reference[1] === 'm' ? 'measure' : 'value'
        if (reference[1] !== 'm' && reference[1] !== 'v') this.fail('A measure is meant here.', this.span(from))
        this.piece(kind, from, reference[2])
        return this.ended({ kind, id: reference[2]!, span: this.span(from) })
      }
    }
    return this.named()
  }

  private wordHere(): string | undefined {
    for (const word of WORDS_BY_LETTER.get(this.lower[this.at]!) ?? []) if (this.stands(word)) return word
    return undefined
  }
  /** A measure, a named value, a property, a function or another word: the longest that fits. */
  private named(): Expression {
    const from = this.at
    if (this.text[from] === "'" || this.text[from] === '‘') {
      const name = this.quoted("'", '’')
      const found = this.called.filter(one => one.text === name.toLowerCase())
      return this.meant(found[0], name, from)
    }
    const found = this.called.find(one => this.stands(one.text))
    const word = this.wordHere()
    if (found && (!word || found.text.length > word.length)) {
      this.at += found.text.length
      return this.meant(found, found.text, from)
    }
    if (word) {
      const call = ([...FUNCTIONS, ...GATHERINGS] as readonly string[]).includes(word)
      if (call) return this.call(word as FunctionName)
      this.at += word.length
      if ((PROPERTIES as readonly string[]).includes(word)) {
        this.piece('word', from)
        return this.ended({ kind: 'property', name: word as Property, span: this.span(from) })
      }
      if (word === 'today' || word === 'true' || word === 'false') {
        this.piece('word', from)
        const span = this.span(from)
        return this.ended(word === 'today' ? { kind: 'today', span } : { kind: 'truth', is: word === 'true', span })
      }
      this.at = from
      const scope = this.scope()
      if (scope) return this.list(null, scope, from)
    }
    const rest = this.rest()
    const said = this.text.slice(rest.from, rest.to)
    this.fail(
      /^["“]/.test(said)
        ? `Say which measure of ${said} is meant: “Cost of ${said}”.`
        : said === ')' || said === ';'
          ? `Something is missing before the “${said}”.`
          : /^[\p{L}]/u.test(said)
            ? `“${said}” is no measure of this tree.`
            : `“${said}” can’t stand here.`,
      rest,
    )
  }

  private meant(found: (typeof this.called)[number] | undefined, name: string, from: number): Expression {
    if (!found) this.fail(`“${name}” is no measure of this tree.`, this.span(from))
    const kind = found.kind === 'm' ? 'measure' : 'value'
    this.piece(kind, from, found.id)
    this.swap(from, `{${found.kind}:${found.id}}`)
    return this.ended({ kind, id: found.id, span: this.span(from) })
  }

  private number(): Expression {
    const from = this.at
    const found = (this.names?.spaced ? this.match(SPACED) : null) ?? this.match(NUMBER)
    const said = found![0]
    const numeral = this.names ? this.names.readNumber(said) : said
    if (numeral === null && said.replace(/\D/g, '').length > 15)
      this.fail('A number has at most 15 digits before the point and 10 after it.', this.span(from))
    if (numeral === null || !/^\d+(\.\d+)?$/.test(numeral))
      this.fail(
        /^\d+,\d+$/.test(said)
          ? `“${said}” is no number here. Arguments are parted by “;”.`
          : `“${said}” is no number as numbers are written here.`,
        this.span(from),
      )
    const [before, after = ''] = numeral.split('.')
    if (before!.replace(/^0+/, '').length > 15 || after.length > 10)
      this.fail('A number has at most 15 digits before the point and 10 after it.', this.span(from))
    this.piece('number', from)
    if (numeral !== said) this.swap(from, numeral)
    const n = new Exact(numeral)
    const end = this.at
    const unit = this.unit()
    if (unit === null) this.at = end
    const span = this.span(from)
    return this.ended({ kind: 'number', n, unit: unit ?? PLAIN, bare: unit === null, span })
  }

  /** `EUR`, `EUR/h` after a number; never a word of formulas or a measure's name. */
  private unit(): string | null {
    const start = this.at
    UNIT.lastIndex = start
    const found = UNIT.exec(this.text)
    if (!found) return null
    let said = found[1]!
    const from = start + found[0].length - said.length
    const [first, second] = said.split('/')
    if (this.isName(first!, from)) return null
    if (second !== undefined && this.isName(second, from + first!.length + 1)) said = first!
    const unit = readUnit(said)
    if (unit === null) return null
    this.at = from + said.length
    this.piece('unit', from)
    return unit
  }

  private isName(word: string, at: number): boolean {
    if (RESERVED.has(word.toLowerCase())) return true
    for (const one of this.called)
      if (this.lower.startsWith(one.text, at) && !LETTER.test(this.text[at + one.text.length] ?? '')) return true
    return false
  }

  private call(name: FunctionName): Expression {
    const from = this.at
    this.at += name.length
    const open = this.at
    this.space()
    if (this.text[this.at] !== '(') this.fail(`After “${name}” comes what it’s of, in brackets.`, { from, to: open })
    this.pieceTo(open, 'function', from)
    const bracket = this.at++
    const args: Expression[] = []
    this.space()
    if (this.text[this.at] !== ')')
      do args.push(this.inside(() => this.either()))
      while (this.semicolon())
    this.close(bracket)
    const [least, most] = ARGUMENTS[name] ?? [1, 200]
    const span = this.span(from)
    if (args.length < least || args.length > most)
      this.fail(
        least === most
          ? `“${name}” takes ${least === 1 ? 'one argument' : `${least} arguments, parted by “;”`}.`
          : `“${name}” takes ${least} to ${most} arguments, parted by “;”.`,
        span,
      )
    const each = name === 'median'
    return this.ended({
      kind: 'call',
      name,
      args: each ? args.map(arg => (arg.kind === 'list' ? { ...arg, each } : arg)) : args,
      span,
    })
  }

  // — Topics and lists of them

  private scope(): List['scope'] | null {
    const from = this.at
    for (const scope of ['children', 'all below'] as const)
      if (this.word(scope)) {
        this.pieceTo(from + scope.length, 'word', from)
        return scope
      }
    return null
  }
  private list(of: Expression | null, scope: List['scope'], from: number): List {
    const when = this.startsCondition() ? this.anyOf() : null
    return { kind: 'list', of, scope, when, each: false, span: { from, to: this.at } }
  }
  private place(): Place {
    const from = this.at
    for (const kind of ['parent', 'centre'] as const)
      if (this.word(kind)) {
        this.pieceTo(from + kind.length, 'word', from)
        return { kind }
      }
    if (this.names === null) {
      const reference = this.match(REFERENCE)
      if (reference?.[1] === 't') {
        this.piece('topic', from, reference[2])
        this.space()
        return { kind: 'topic', id: reference[2]! }
      }
    }
    if (!/["“]/.test(this.text[from] ?? ''))
      this.fail(
        'After “of” comes “parent”, “centre”, “children”, “all below”, or a topic in quotes: “"Lift"”.',
        this.rest(),
      )
    const words = this.quoted('"', '”')
    const found = this.names?.topicsCalled(words) ?? []
    if (found.length !== 1)
      this.fail(
        found.length === 0
          ? `There is no topic “${words}”.`
          : `There are several topics “${words}”: write what’s above it too, as in “Fit-out / ${words}”.`,
        this.span(from),
      )
    this.piece('topic', from, found[0])
    this.swap(from, `{t:${found[0]}}`)
    this.space()
    return { kind: 'topic', id: found[0]! }
  }
}
