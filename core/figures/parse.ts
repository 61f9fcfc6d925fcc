import { calendarDay } from '../tree/atoms'
import { MOST_FORMULA } from '../tree/figure'
import type { Condition, Query } from '../tree/query'
import type { TopicId } from '../tree/topic'
import {
  type Expression,
  FUNCTIONS,
  type FunctionName,
  GATHERINGS,
  type List,
  MOST_DEEP,
  type Operator,
  type Place,
  PROPERTIES,
  type Property,
} from './formula'
import { PLAIN, readUnit } from './units'
import { Exact, type Span } from './values'

/*
 * Reads a formula: by descent, one function a level of binding. The grammar stands in docs/formulas.md. A formula is stored with ids in
 * place of names and numbers without a locale: `{m:cost} of {t:lift} × 1.5`. What somebody types is read by the same rules, with names
 * and numbers as they are in the person's locale, and put into the stored form while it's read.
 */

/** Something that has a name in formulas. */
export interface Named {
  readonly id: string
  readonly name: string
}

/** What words can mean in a typed formula. */
export interface FormulaNames {
  readonly measures: readonly Named[]
  readonly values: readonly Named[]
  readonly markers: readonly Named[]
  readonly people: readonly Named[]
  /** Topics whose title, or the end of whose path (`Fit-out / Lift`), is so; at most a few. */
  topicsCalled(words: string): readonly TopicId[]
  /** A number as it's typed, in the form in which it's stored; null for none. */
  readNumber(text: string): string | null
  /** Whether a space parts thousands. */
  readonly spaced: boolean
}

/** What a piece of a formula is, for colour, and to put names in place of ids. */
export interface Piece extends Span {
  readonly kind: 'number' | 'unit' | 'measure' | 'value' | 'topic' | 'marker' | 'person' | 'function' | 'word'
  /** The id it names. */
  readonly id?: string
}

export interface Read {
  readonly expression: Expression
  readonly pieces: readonly Piece[]
  /** The formula in the form in which it's stored. */
  readonly stored: string
}

/** A formula that can't be read, with the place and words for it. */
export class FormulaError extends Error {
  constructor(
    message: string,
    readonly span: Span,
  ) {
    super(message)
  }
}

/** Words that mean something by themselves, the longest first. */
const WORDS = [
  ...FUNCTIONS,
  ...GATHERINGS,
  ...PROPERTIES,
  'all below',
  'children',
  'parent',
  'centre',
  'today',
  'true',
  'false',
  'and',
  'or',
  'not',
  'of',
  'marked',
  'with',
  'late',
  'open',
  'nobody’s',
].sort((a, b) => b.length - a.length)
const WORDS_BY_LETTER = new Map<string, string[]>()
for (const word of WORDS) WORDS_BY_LETTER.set(word[0]!, [...(WORDS_BY_LETTER.get(word[0]!) ?? []), word])
const RESERVED: ReadonlySet<string> = new Set(WORDS)
/** Whether a name has to stand in single quotes to be told from a word of formulas. */
export const needsQuotes = (name: string): boolean =>
  RESERVED.has(name.toLocaleLowerCase()) ||
  !/^[\p{L}_][\p{L}\p{N}_ -]*$/u.test(name) ||
  / (?:of|and|or|not) /iu.test(name)

const BLANKS: ReadonlySet<string> = new Set([' ', '\t', '\n', '\r', '\u00A0', '\u202F'])
const LETTER = /[\p{L}\p{N}_]/u
const REFERENCE = /\{([mvtkp]):([\w-]{1,40})\}/y
const NUMBER = /\d+(?:[.,'’\u00A0\u202F]\d+)*/y
const SPACED = /\d{1,3}(?: \d{3})+(?!\d)(?:[.,]\d+)?/y
const DAY = /\d{4}-\d{2}-\d{2}(?!\d)/y
const UNIT = /[ \u00A0]*([\p{L}\p{Sc}][\p{L}\p{N}\p{Sc}²³]*(?:\/[\p{L}\p{Sc}][\p{L}\p{N}\p{Sc}²³]*)?)/uy
const SIGNS: Readonly<Record<string, Operator>> = {
  '+': '+',
  '-': '-',
  '−': '-',
  '–': '-',
  '*': '*',
  '×': '*',
  '·': '*',
  '/': '/',
  '÷': '/',
  '^': '^',
  '<>': '<>',
  '≠': '<>',
  '<=': '<=',
  '≤': '<=',
  '>=': '>=',
  '≥': '>=',
  '<': '<',
  '>': '>',
  '=': '=',
}
const SIGN_STARTS: ReadonlySet<string> = new Set(Object.keys(SIGNS).map(sign => sign[0]!))
const SUM: readonly Operator[] = ['+', '-']
const PRODUCT: readonly Operator[] = ['*', '/']
const COMPARED: readonly Operator[] = ['=', '<>', '<', '<=', '>', '>=']

/** Reads a formula as it's stored (what stands after the `=`). Throws FormulaError. */
export const parseStored = (text: string): Read => new Reader(text, null).read()

/** Reads a formula as it's typed (what stands after the `=`). Throws FormulaError. */
export const parseTyped = (text: string, names: FormulaNames): Read => new Reader(text, names).read()

class Reader {
  private at = 0
  private deep = 0
  private readonly pieces: Piece[] = []
  private readonly swaps: { readonly from: number; readonly to: number; readonly by: string }[] = []
  private readonly lower: string
  private readonly called: readonly { readonly text: string; readonly kind: 'm' | 'v'; readonly id: string }[]

  constructor(
    private readonly text: string,
    private readonly names: FormulaNames | null,
  ) {
    // Letters whose lower case is longer would move what stands after them.
    const lower = text.toLowerCase()
    this.lower = lower.length === text.length ? lower : text
    const entry = (kind: 'm' | 'v') => (one: Named) => ({ text: one.name.toLowerCase(), kind, id: one.id })
    this.called = names
      ? [...names.measures.map(entry('m')), ...names.values.map(entry('v'))].sort(
          (a, b) => b.text.length - a.text.length,
        )
      : []
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
    this.pieces.push({ from, to: open, kind: 'function' })
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
        this.pieces.push({ from, to: from + scope.length, kind: 'word' })
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
        this.pieces.push({ from, to: from + kind.length, kind: 'word' })
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

  // — Conditions, in the words of the filter

  private startsCondition(): boolean {
    return CONDITION_WORDS.some(word => this.stands(word)) || this.text[this.at] === '('
  }
  private anyOf(): Query {
    const first = this.allOf()
    const of = [first]
    while (this.word('or')) of.push(this.allOf())
    return of.length === 1 ? first : { join: 'any', of }
  }
  private allOf(): Query {
    const first = this.one()
    const of = [first]
    while (this.word('and')) of.push(this.one())
    return of.length === 1 ? first : { join: 'all', of }
  }
  private one(): Query {
    const from = this.at
    if (!this.stands('not begun') && this.word('not')) return this.inside(() => turned(this.one()))
    if (this.text[from] === '(') {
      this.at++
      this.space()
      const it = this.inside(() => this.anyOf())
      this.close(from)
      this.space()
      return it
    }
    const it = this.phrase()
    this.pieces.push({ from, to: this.at, kind: 'word' })
    this.space()
    return it
  }
  private phrase(): Condition {
    const from = this.at
    if (this.word('marked')) return { about: 'marker', marker: this.someone('k', 'marker') }
    if (this.word('nobody’s') || this.word("nobody's")) return { about: 'person', person: 'nobody' }
    if (this.word('of')) return { about: 'person', person: this.someone('p', 'person') }
    if (this.word('late')) return { about: 'due', is: 'late' }
    if (this.word('open')) return { about: 'state', is: 'open' }
    if (this.word('done')) return { about: 'state', is: 'done' }
    if (this.word('not begun')) return { about: 'state', is: 'not-begun' }
    if (this.word('under way')) return { about: 'state', is: 'under-way' }
    if (this.word('a task')) return { about: 'kind', is: 'task' }
    if (this.word('with nothing under it')) return { about: 'kind', is: 'leaf' }
    if (this.word('with')) {
      if (!/["“]/.test(this.text[this.at] ?? '')) this.fail('After “with” come words in quotes.', this.rest())
      return { about: 'text', words: this.quoted('"', '”').slice(0, 200), where: 'title' }
    }
    for (const is of ['before', 'after', 'on'] as const)
      if (this.word(`due ${is}`)) {
        const day = this.match(DAY)
        if (!day || !calendarDay.safeParse(day[0]).success)
          this.fail('A day is written as year, month, day: 2027-05-12.', this.rest())
        return { about: 'due', is, day: day[0] }
      }
    this.fail('This is no condition. “marked Decision”, “late”, “done” and “of Ines” are.', {
      from,
      to: this.rest().to,
    })
  }
  /** A marker or a person by name; quoted, or the longest name that fits. */
  private someone(kind: 'k' | 'p', what: 'marker' | 'person'): string {
    const from = this.at
    if (this.names === null) {
      const reference = this.match(REFERENCE)
      if (reference?.[1] !== kind) this.fail(`A ${what} is meant here.`, this.rest())
      this.piece(what, from, reference[2])
      return reference[2]!
    }
    const all = [...(kind === 'k' ? this.names.markers : this.names.people)].sort(
      (a, b) => b.name.length - a.name.length,
    )
    const said = /["“]/.test(this.text[from] ?? '') ? this.quoted('"', '”').toLowerCase() : null
    const found = all.find(({ name }) =>
      said === null ? this.stands(name.toLowerCase()) : name.toLowerCase() === said,
    )
    if (!found)
      this.fail(`There is no ${what} “${said ?? this.text.slice(this.rest().from, this.rest().to)}”.`, this.rest())
    if (said === null) this.at += found.name.length
    this.piece(what, from, found.id)
    this.swap(from, `{${kind}:${found.id}}`)
    return found.id
  }

  // — Characters

  private space(): void {
    for (let sign = this.text[this.at]; sign !== undefined && BLANKS.has(sign); sign = this.text[this.at]) this.at++
  }
  /** Whether a word begins here and ends where it ends. */
  private stands(word: string): boolean {
    return this.lower.startsWith(word, this.at) && !LETTER.test(this.text[this.at + word.length] ?? '')
  }
  private word(word: string): boolean {
    if (!this.stands(word)) return false
    this.at += word.length
    this.space()
    return true
  }
  private sign(wanted: readonly Operator[]): Operator | null {
    if (!SIGN_STARTS.has(this.text[this.at]!)) return null
    for (const length of [2, 1]) {
      const operator = SIGNS[this.text.slice(this.at, this.at + length)]
      if (!operator) continue
      if (!wanted.includes(operator)) return null
      this.at += length
      this.space()
      return operator
    }
    return null
  }
  private semicolon(): boolean {
    if (this.text[this.at] !== ';') return false
    this.at++
    this.space()
    return true
  }
  private close(open: number): void {
    if (this.text[this.at] !== ')') {
      if (this.text[this.at] === ',') this.fail('Arguments are parted by “;”.', { from: this.at, to: this.at + 1 })
      if (this.at < this.text.length) {
        const rest = this.rest()
        this.fail(`“${this.text.slice(rest.from, rest.to)}” can’t stand here.`, rest)
      }
      this.fail('A bracket isn’t closed.', { from: open, to: open + 1 })
    }
    this.at++
    this.space()
  }
  /** What stands between quotes; a quote in it is written twice. Moves past the closing one. */
  private quoted(plain: string, curly: string): string {
    const from = this.at++
    let said = ''
    for (;;) {
      const sign = this.text[this.at]
      if (sign === undefined) this.fail('These quotes aren’t closed.', { from, to: from + 1 })
      this.at++
      if (sign !== plain && sign !== curly) said += sign
      else if (this.text[this.at] === sign) {
        said += sign
        this.at++
      } else return said
    }
  }
  private match(pattern: RegExp): RegExpExecArray | null {
    pattern.lastIndex = this.at
    const found = pattern.exec(this.text)
    if (found) this.at += found[0].length
    return found
  }
  /** Goes deeper, but not without end. */
  private inside<T>(read: () => T): T {
    if (++this.deep > MOST_DEEP)
      this.fail(`More than ${MOST_DEEP} brackets and functions stand in one another.`, this.rest())
    const it = read()
    this.deep--
    return it
  }
  private binary(operator: Operator, a: Expression, b: Expression): Expression {
    return { kind: 'binary', operator, a, b, span: { from: a.span.from, to: b.span.to } }
  }
  private ended(it: Expression): Expression {
    this.space()
    return it
  }
  private span(from: number): Span {
    return { from, to: this.at }
  }
  /** The word that stands here. */
  private rest(): Span {
    const found = /^(?:[\p{L}\p{N}_’-]+|["“][^"”]*["”]?|.)/u.exec(this.text.slice(this.at))
    return { from: this.at, to: this.at + (found?.[0].length ?? 0) }
  }
  private piece(kind: Piece['kind'], from: number, id?: string): void {
    this.pieces.push({ from, to: this.at, kind, ...(id === undefined ? {} : { id }) })
  }
  private swap(from: number, by: string): void {
    this.swaps.push({ from, to: this.at, by })
  }
  private fail(message: string, span: Span): never {
    throw new FormulaError(message, span)
  }
}

const CONDITION_WORDS = [
  'marked',
  'not',
  'of',
  'with',
  'late',
  'open',
  'done',
  'under way',
  'a task',
  'due',
  'nobody’s',
  "nobody's",
]
const turned = (query: Query): Query => ({ ...query, not: !query.not })

/** Arguments that a function takes, at least and at most. */
const ARGUMENTS: Partial<Record<FunctionName, readonly [number, number]>> = {
  if: [3, 3],
  abs: [1, 1],
  round: [1, 2],
  'round up': [1, 2],
  'round down': [1, 2],
  workday: [2, 2],
  workdays: [2, 2],
  days: [2, 2],
}

/** Lists stand in functions that make one value of many, and nowhere else. */
function outside(expression: Expression): void {
  const walk = (it: Expression, allowed: boolean): void => {
    if (it.kind === 'list' && !allowed)
      throw new FormulaError(
        `Say what is to be made of these: “sum(… of ${it.scope})”, mean, min, max, median or count.`,
        it.span,
      )
    if (it.kind === 'list') {
      if (it.of) walk(it.of, false)
      return
    }
    const gathers = it.kind === 'call' && (GATHERINGS as readonly string[]).includes(it.name)
    const parts =
      it.kind === 'call' ? it.args : it.kind === 'binary' ? [it.a, it.b] : 'of' in it && it.of ? [it.of] : []
    if (gathers && it.args.some(arg => arg.kind === 'list' && arg.of === null) && it.name !== 'count')
      throw new FormulaError(`Say which measure: “${it.name}(Cost of children)”.`, it.span)
    for (const part of parts) walk(part, gathers)
  }
  walk(expression, false)
}
