import { MOST_FORMULA } from '../tree/figure'
import { type Expression, partsOf, type Place } from './formula'
import { expressionStored } from './parse'
import { Exact, type Span } from './values'

/*
 * Formulas that differ only in whom they name and in their numbers are read once: a column of a budget has one shape and ten thousand
 * formulas. What is left open in a shape is filled with a formula's own ids and numbers, and parts that are alike are the same object;
 * where there's any doubt whether two formulas would be read alike (days, quotes, lists, a digit behind a letter, a number that is too
 * long) each is read by itself.
 */

/** A number or an id in a stored formula; `as`: what it names, null for a number. */
interface Hole {
  readonly text: string
  readonly as: 'm' | 'v' | 't' | null
}
interface Shape {
  readonly key: string
  /** What stands before each hole, and behind the last. */
  readonly parts: readonly string[]
  readonly holes: readonly Hole[]
}
type Filling<T = Expression> = (holes: readonly Hole[]) => T

/** Shapes kept at most; a tree has a handful. */
const MOST_SHAPES = 500
/** Formulas of no shape that were read, by their text, at most; many topics have the same one. */
const MOST_READ = 5000
/** More digits than this are looked at by the reader itself. */
const MOST_DIGITS = 10
const [ZERO, NINE, POINT, MINUS, BRACE] = [0x30, 0x39, 0x2e, 0x2d, 0x7b] as const
const isDigit = (code: number): boolean => code >= ZERO && code <= NINE
/** What may stand right before a number, so that it's surely one of its own. */
const BEFORE: ReadonlySet<number> = new Set([...' +-−–*×·/÷^(;<>=≤≥≠'].map(sign => sign.charCodeAt(0)))
/** What names no condition: those stand in lists. */
const REFERENCE = /\{([mvt]):([\w-]{1,40})\}/y
const QUOTES: ReadonlySet<number> = new Set([...`"“‘'`].map(sign => sign.charCodeAt(0)))

/** What a formula is without its ids and numbers; null where that isn't certain. */
export function shapeOf(text: string): Shape | null {
  if (text.length > MOST_FORMULA) return null
  const holes: Hole[] = []
  const parts: string[] = []
  let key = ''
  let done = 0
  for (let at = 0; at < text.length;) {
    const code = text.charCodeAt(at)
    let end = at
    let as: Hole['as'] = null
    let said: string
    if (code === BRACE) {
      REFERENCE.lastIndex = at
      const found = REFERENCE.exec(text)
      if (!found) return null
      as = found[1] as 'm' | 'v' | 't'
      said = found[2]!
      end = at + found[0].length
    } else if (isDigit(code)) {
      if (at > 0 && !BEFORE.has(text.charCodeAt(at - 1))) return null
      end = endOfNumber(text, at)
      if (end < 0) return null
      said = text.slice(at, end)
    } else if (QUOTES.has(code)) return null
    else {
      at++
      continue
    }
    holes.push({ text: said, as })
    const part = text.slice(done, at)
    parts.push(part)
    key += `${part}{${as ?? ''}}`
    at = done = end
  }
  const rest = text.slice(done)
  parts.push(rest)
  return { key: key + rest, parts, holes }
}

/** Where a number ends that begins at a digit; -1 where it may be something else, or is too long. */
function endOfNumber(text: string, at: number): number {
  let end = at
  while (isDigit(text.charCodeAt(end))) end++
  if (text.charCodeAt(end) === POINT && isDigit(text.charCodeAt(end + 1))) {
    end++
    while (isDigit(text.charCodeAt(end))) end++
  }
  // A day begins like this.
  return text.charCodeAt(end) === MINUS || end - at > MOST_DIGITS ? -1 : end
}

/** What a formula has in place of the holes of a shape that it's likely to have; null where it has another. */
function holesIn(text: string, { parts, holes }: Shape): readonly Hole[] | null {
  if (text.length > MOST_FORMULA) return null
  const found: Hole[] = []
  let at = 0
  for (let i = 0; i < holes.length; i++) {
    const part = parts[i]!
    if (!text.startsWith(part, at)) return null
    at += part.length
    const { as } = holes[i]!
    if (as === null) {
      const end = isDigit(text.charCodeAt(at)) ? endOfNumber(text, at) : -1
      if (end < 0) return null
      found.push({ text: text.slice(at, end), as })
      at = end
    } else {
      REFERENCE.lastIndex = at
      const reference = REFERENCE.exec(text)
      if (reference?.[1] !== as) return null
      found.push({ text: reference[2]!, as })
      at += reference[0].length
    }
  }
  return text.slice(at) === parts[holes.length] ? found : null
}

/** Reads formulas of the same shape once. */
export class Shapes {
  private readonly known = new Map<string, Filling | null>()
  private readonly texts = new Map<string, Expression>()
  /** In a column one comes after the other. */
  private last: { readonly shape: Shape; readonly filling: Filling } | null = null

  /** What `expressionStored` gives, but with the places of the first formula of its shape: see `placeIn`. Throws FormulaError. */
  read(text: string): Expression {
    const holes = this.last && holesIn(text, this.last.shape)
    if (holes) return this.last!.filling(holes)
    const shape = shapeOf(text)
    const filling = shape && this.known.get(shape.key)
    if (filling) {
      this.last = { shape, filling }
      return filling(shape.holes)
    }
    if (!shape || filling === null) return this.byText(text)
    const read = this.byText(text)
    if (shape && filling === undefined) {
      if (this.known.size >= MOST_SHAPES) this.known.clear()
      this.known.set(shape.key, new Mould(shape.holes).of(read))
    }
    return read
  }
  private byText(text: string): Expression {
    const before = this.texts.get(text)
    if (before) return before
    const read = expressionStored(text)
    if (this.texts.size >= MOST_READ) this.texts.clear()
    this.texts.set(text, read)
    return read
  }
}

/** Where in a formula's own text the part stands that has this very span in what was read by its shape. Throws FormulaError. */
export function placeIn(read: Expression, span: Span, text: string): Span {
  const found = (a: Expression, b: Expression): Span | null => {
    if (a.span === span) return b.span
    const theirs = partsOf(b)
    for (const [i, part] of partsOf(a).entries()) {
      const there = found(part, theirs[i]!)
      if (there) return there
    }
    return null
  }
  return found(read, expressionStored(text)) ?? span
}

/** Makes a filling of a formula that was read, and the holes that it has. */
class Mould {
  private at = 0
  constructor(private readonly holes: readonly Hole[]) {}

  /** Null where it has a part that may differ in another way. */
  of(it: Expression): Filling | null {
    try {
      const filling = this.make(it)
      return this.at === this.holes.length ? filling : null
    } catch (error) {
      if (error === UNLIKE) return null
      throw error
    }
  }
  private make(it: Expression): Filling {
    switch (it.kind) {
      case 'number': {
        const [hole, said] = this.next(null, null)
        return holes => {
          const { text } = holes[hole]!
          return text === said ? it : { ...it, n: new Exact(text) }
        }
      }
      case 'measure':
      case 'value': {
        const [hole] = this.next(it.kind === 'measure' ? 'm' : 'v', it.id)
        return holes => {
          const { text } = holes[hole]!
          return text === it.id ? it : { kind: it.kind, id: text, span: it.span }
        }
      }
      case 'property':
      case 'truth':
      case 'today':
        return () => it
      case 'minus':
      case 'not':
      case 'percent': {
        const make = this.make(it.of)
        return holes => {
          const of = make(holes)
          return of === it.of ? it : { kind: it.kind, of, span: it.span }
        }
      }
      case 'at': {
        // In writing, what is asked stands before whom it's asked of.
        const make = this.make(it.of)
        const makePlace = this.place(it.place)
        return holes => {
          const [of, place] = [make(holes), makePlace(holes)]
          return of === it.of && place === it.place ? it : { kind: 'at', place, of, span: it.span }
        }
      }
      case 'binary': {
        const { operator, span } = it
        const [makeA, makeB] = [this.make(it.a), this.make(it.b)]
        return holes => {
          const a = makeA(holes)
          const b = makeB(holes)
          return a === it.a && b === it.b ? it : { kind: 'binary', operator, a, b, span }
        }
      }
      case 'call': {
        const { name, span } = it
        const makes = it.args.map(arg => this.make(arg))
        return holes => {
          const args = makes.map(make => make(holes))
          return args.every((arg, i) => arg === it.args[i]) ? it : { kind: 'call', name, args, span }
        }
      }
      default:
        throw UNLIKE
    }
  }
  /** Holes are come upon in the order in which they stand. */
  private next(as: Hole['as'], id: string | null): readonly [hole: number, text: string] {
    const hole = this.holes[this.at]
    if (hole?.as !== as || (id !== null && hole.text !== id)) throw UNLIKE
    return [this.at++, hole.text]
  }
  private place(it: Place): Filling<Place> {
    if (it.kind !== 'topic') return () => it
    const [hole] = this.next('t', it.id)
    return holes => (holes[hole]!.text === it.id ? it : { kind: 'topic', id: holes[hole]!.text })
  }
}
const UNLIKE = new Error('unlike')
