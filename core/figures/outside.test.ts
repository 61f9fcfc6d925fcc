import { HyperFormula } from 'hyperformula'
import { describe, expect, it } from 'vitest'
import { Planning } from '../derive/planning'
import type { Tree } from '../tree'
import { euros, treeOf } from './fixtures/growing'
import { Figures } from './figures'
import { fixedOf, numeralOf, roundedTo } from './fixed'

/*
 * Figures against reckoning that isn't ours: a general spreadsheet engine (HyperFormula 3.5.0, https://hyperformula.handsontable.com,
 * GPL-3.0, for these tests only), and exact fractions of whole numbers.
 */

/** A linear congruential generator: the same rolls each time (constants of Numerical Recipes, from memory). */
function dice(seed: number): (below: number) => number {
  let state = seed >>> 0
  return below => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return Math.floor((state / 2 ** 32) * below)
  }
}

interface Fraction {
  readonly n: bigint
  readonly d: bigint
}
const gcd = (a: bigint, b: bigint): bigint => (b === 0n ? (a < 0n ? -a : a) : gcd(b, a % b))
function fraction(n: bigint, d: bigint): Fraction {
  const by = gcd(n, d) * (d < 0n ? -1n : 1n)
  return { n: n / by, d: d / by }
}
/** To ten places, half even, written as ours are. */
function rounded({ n, d }: Fraction): string {
  const scaled = n * 10n ** 10n
  const sign = scaled < 0n ? -1n : 1n
  const positive = scaled * sign
  let whole = positive / d
  const twice = (positive % d) * 2n
  if (twice > d || (twice === d && whole % 2n === 1n)) whole++
  return numeralOf(whole * sign)
}

/** An expression by dice over earlier cells, in our words, in the spreadsheet's, and as it's exact. */
interface Both {
  readonly ours: string
  readonly sheet: string
  readonly exact: Fraction | null
}
function expression(
  roll: (below: number) => number,
  values: readonly (Fraction | null)[],
  depth: number,
  divides: boolean,
): Both {
  const kind = depth === 0 ? roll(2) : roll(9)
  if (kind === 0 && values.length > 0) {
    const at = roll(values.length)
    return { ours: `{m:cost} of {t:t${at}}`, sheet: `A${at + 1}`, exact: values[at]! }
  }
  if (kind <= 1) {
    const [whole, half] = [roll(9) - 2, roll(2)]
    const n = Math.abs(whole) + half / 2
    return {
      ours: whole < 0 ? `(0 - ${n})` : `${n}`,
      sheet: whole < 0 ? `(0-${n})` : `${n}`,
      exact: fraction(BigInt(n * 2) * (whole < 0 ? -1n : 1n), 2n),
    }
  }
  const [a, b] = [expression(roll, values, depth - 1, divides), expression(roll, values, depth - 1, divides)]
  const both = (make: (x: Fraction, y: Fraction) => Fraction | null): Fraction | null =>
    a.exact && b.exact ? make(a.exact, b.exact) : null
  const infix = (ours: string, sheet: string, make: (x: Fraction, y: Fraction) => Fraction | null): Both => ({
    ours: `(${a.ours} ${ours} ${b.ours})`,
    sheet: `(${a.sheet}${sheet}${b.sheet})`,
    exact: both(make),
  })
  const less = (x: Fraction, y: Fraction): boolean => x.n * y.d < y.n * x.d
  switch (kind) {
    case 2:
      return infix('+', '+', (x, y) => fraction(x.n * y.d + y.n * x.d, x.d * y.d))
    case 3:
      return infix('−', '-', (x, y) => fraction(x.n * y.d - y.n * x.d, x.d * y.d))
    case 4:
      return infix('×', '*', (x, y) => fraction(x.n * y.n, x.d * y.d))
    case 5:
      return divides
        ? infix('÷', '/', (x, y) => (y.n === 0n ? null : fraction(x.n * y.d, x.d * y.n)))
        : infix('+', '+', (x, y) => fraction(x.n * y.d + y.n * x.d, x.d * y.d))
    case 6: {
      const name = roll(2) === 0 ? 'max' : 'min'
      return {
        ours: `${name}(${a.ours}; ${b.ours})`,
        sheet: `${name.toUpperCase()}(${a.sheet},${b.sheet})`,
        exact: both((x, y) => (less(x, y) === (name === 'max') ? y : x)),
      }
    }
    case 7:
      return {
        ours: `if(${a.ours} < ${b.ours}; ${a.ours}; ${b.ours})`,
        sheet: `IF(${a.sheet}<${b.sheet},${a.sheet},${b.sheet})`,
        exact: both((x, y) => (less(x, y) ? x : y)),
      }
    default:
      return {
        ours: `sum(${a.ours}; ${b.ours})`,
        sheet: `SUM(${a.sheet},${b.sheet})`,
        exact: both((x, y) => fraction(x.n * y.d + y.n * x.d, x.d * y.d)),
      }
  }
}

function figuresOf(tree: Tree): Figures {
  const planning = new Planning(
    () => tree,
    () => '2027-02-01',
  )
  return new Figures(
    () => tree,
    planning,
    () => '2027-02-01',
  )
}
const cost = euros('cost', { unit: '' })

describe('against exact fractions', () => {
  it('1,000 models of eight figures say the same to the tenth place, or both nothing', () => {
    let divided = 0
    for (let seed = 1; seed <= 1000; seed++) {
      const roll = dice(seed)
      const values: (Fraction | null)[] = []
      const lines: string[] = []
      // What is divided keeps ten places where another figure takes it up: only the last one divides.
      for (let i = 0; i < 8; i++) {
        const { ours, exact } = expression(roll, values, 3, i === 7)
        values.push(exact)
        lines.push(`t${i} | cost =${ours}`)
      }
      const figures = figuresOf(treeOf([cost], lines.join('\n')))
      for (const [i, exact] of values.entries()) {
        const { value, fault } = figures.of(`t${i}`, 'cost')
        if (exact === null) expect(fault?.kind).toBe('zero')
        else if (exact.n / exact.d >= 10n ** 15n || exact.n / exact.d <= -(10n ** 15n))
          expect(fault?.kind).toBe('large')
        else expect(fault ?? numeralOf(value!)).toBe(rounded(exact))
        if (exact && exact.d > 2n) divided++
      }
    }
    expect(divided).toBeGreaterThan(100)
  })
})

describe('against a spreadsheet engine', () => {
  it('1,000 models with roll-ups say the same, where it is exact', () => {
    let compared = 0
    for (let seed = 5001; seed <= 6000; seed++) {
      const roll = dice(seed)
      const values: (Fraction | null)[] = []
      const formulas: string[] = []
      const lines: string[] = []
      for (let i = 0; i < 8; i++) {
        const { ours, sheet, exact } = expression(roll, values, 2, false)
        values.push(exact)
        formulas.push(`=${sheet}`)
        lines.push(`${i % 3 === 0 ? '' : '  '}${i % 3 === 0 ? `p${i}\n  ` : ''}t${i} | cost =${ours}`)
      }
      const engine = HyperFormula.buildFromArray([...formulas.map(one => [one]), ['=SUM(A1:A3)'], ['=SUM(A1:A8)']], {
        licenseKey: 'gpl-v3',
        precisionRounding: 14,
      })
      const figures = figuresOf(treeOf([cost], lines.join('\n')))
      const at = (row: number): number => engine.getCellValue({ sheet: 0, col: 0, row }) as number
      const same = (topic: string, theirs: number): void => {
        // Beyond 2^40 a double has no room for the halves of products any more.
        if (!Number.isFinite(theirs) || Math.abs(theirs) > 2 ** 40 || theirs * 1024 !== Math.round(theirs * 1024))
          return
        compared++
        const { value } = figures.of(topic, 'cost')
        expect(value).toBe(fixedOf(String(theirs)))
      }
      for (let i = 0; i < 8; i++) same(`t${i}`, at(i))
      same('p0', at(8))
      same('c', at(9))
      engine.destroy()
    }
    expect(compared).toBeGreaterThan(8000)
  })
})

describe('rounding', () => {
  // IEEE 754-2019, 4.3.1 and 4.3.2: roundTiesToEven, roundTiesToAway; the values are those usual in texts on it, from memory.
  it.each([
    ['0.5', '0', '1'],
    ['1.5', '2', '2'],
    ['2.5', '2', '3'],
    ['-0.5', '0', '-1'],
    ['-1.5', '-2', '-2'],
    ['-2.5', '-2', '-3'],
    ['2.5000000001', '3', '3'],
    ['12.4999999999', '12', '12'],
  ])('%s is %s to the even one, %s away from zero', (value, even, away) => {
    expect(numeralOf(roundedTo(fixedOf(value)!, 0, 'half-even'))).toBe(even)
    expect(numeralOf(roundedTo(fixedOf(value)!, 0, 'half-up'))).toBe(away)
  })
})
