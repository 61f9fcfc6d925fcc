import { type Expression, MOST_DEEP, type Operator } from './formula'
import { type FormulaNames, FormulaError, type Named, type Piece } from './reading'
import type { Span } from './values'

export const LETTER = /[\p{L}\p{N}_]/u
const BLANKS: ReadonlySet<string> = new Set([' ', '\t', '\n', '\r', '\u00A0', '\u202F'])
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

/** The characters of a formula, gone through from left to right, with what was found in them. */
export class Scanner {
  protected at = 0
  protected deep = 0
  private signedAt = -1
  private operator: Operator | null = null
  private signLength = 1
  protected readonly pieces: Piece[] = []
  protected readonly swaps: { readonly from: number; readonly to: number; readonly by: string }[] = []
  protected readonly lower: string
  protected readonly called: readonly { readonly text: string; readonly kind: 'm' | 'v'; readonly id: string }[]

  constructor(
    protected readonly text: string,
    protected readonly names: FormulaNames | null,
    /** Whether pieces are kept, for colour and names; to work a formula out nobody needs them. */
    private readonly keeps = true,
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

  protected space(): void {
    for (let sign = this.text[this.at]; sign !== undefined && BLANKS.has(sign); sign = this.text[this.at]) this.at++
  }
  /** Whether a word begins here and ends where it ends. */
  protected stands(word: string): boolean {
    return this.lower.startsWith(word, this.at) && !LETTER.test(this.text[this.at + word.length] ?? '')
  }
  protected word(word: string): boolean {
    if (!this.stands(word)) return false
    this.at += word.length
    this.space()
    return true
  }
  /** Each level of binding asks for its own signs at the same place: what stands there is looked up once. */
  protected sign(wanted: readonly Operator[]): Operator | null {
    if (this.signedAt !== this.at) {
      this.signedAt = this.at
      const first = this.text[this.at]!
      this.operator = null
      if (SIGN_STARTS.has(first)) {
        const two = SIGNS[first + (this.text[this.at + 1] ?? '')]
        this.operator = two ?? SIGNS[first] ?? null
        this.signLength = two && this.at + 1 < this.text.length ? 2 : 1
      }
    }
    const { operator } = this
    if (operator === null || !wanted.includes(operator)) return null
    this.at += this.signLength
    this.space()
    return operator
  }
  protected semicolon(): boolean {
    if (this.text[this.at] !== ';') return false
    this.at++
    this.space()
    return true
  }
  protected close(open: number): void {
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
  protected quoted(plain: string, curly: string): string {
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
  protected match(pattern: RegExp): RegExpExecArray | null {
    pattern.lastIndex = this.at
    const found = pattern.exec(this.text)
    if (found) this.at += found[0].length
    return found
  }
  /** Goes deeper, but not without end. */
  protected inside<T>(read: () => T): T {
    if (++this.deep > MOST_DEEP)
      this.fail(`More than ${MOST_DEEP} brackets and functions stand in one another.`, this.rest())
    const it = read()
    this.deep--
    return it
  }
  protected binary(operator: Operator, a: Expression, b: Expression): Expression {
    return { kind: 'binary', operator, a, b, span: { from: a.span.from, to: b.span.to } }
  }
  protected ended(it: Expression): Expression {
    this.space()
    return it
  }
  protected span(from: number): Span {
    return { from, to: this.at }
  }
  /** The word that stands here. */
  protected rest(): Span {
    const found = /^(?:[\p{L}\p{N}_’-]+|["“][^"”]*["”]?|.)/u.exec(this.text.slice(this.at))
    return { from: this.at, to: this.at + (found?.[0].length ?? 0) }
  }
  protected piece(kind: Piece['kind'], from: number, id?: string): void {
    this.pieceTo(this.at, kind, from, id)
  }
  protected pieceTo(to: number, kind: Piece['kind'], from: number, id?: string): void {
    if (this.keeps) this.pieces.push({ from, to, kind, ...(id === undefined ? {} : { id }) })
  }
  protected swap(from: number, by: string): void {
    this.swaps.push({ from, to: this.at, by })
  }
  protected fail(message: string, span: Span): never {
    throw new FormulaError(message, span)
  }
}
