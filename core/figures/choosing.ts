import type { ChoicePart, Criterion, Measure } from '../tree/figure'
import { inOrder } from '../tree/substance'
import type { Topic, TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { nearly } from './fixed'
import type { Figures } from './figures'

/*
 * Choosing among a topic's children by criteria with weights: the weighted sum (simple additive weighting; common practice, no source).
 * Marks without a unit count as they are, from 0 to 10. What has a unit is put on that scale: the best has 10, the others in proportion
 * to it (twice the best price has 5).
 */

export const FULL_MARK = 10

export interface Option {
  readonly id: TopicId
  readonly title: string
  /** Marks on the scale to 10, criterion by criterion; null where there's none, which counts as 0. */
  readonly marks: readonly (number | null)[]
  /** The weighted sum, 0 to 10. */
  readonly score: number
  /** From 1; those with the same score share one. */
  readonly rank: number
}
export interface Choice {
  readonly criteria: readonly { readonly criterion: Criterion; readonly measure: Measure; readonly weight: number }[]
  /** In reading order. */
  readonly options: readonly Option[]
  /** Marks that aren't there yet. */
  readonly missing: number
}

export const criteriaOf = (topic: Topic): Criterion[] =>
  inOrder(topic.choice.filter((part): part is Criterion => part.kind === 'criterion'))

/** What was compared two by two. */
export const pairsOf = (topic: Topic) => topic.choice.flatMap(part => (part.kind === 'pair' ? [part] : []))

/** What a choice comes to. Weights are parts of one; all the same where none has any. */
export function choiceOf(tree: Tree, topic: TopicId, figures: Figures, measures: readonly Measure[]): Choice {
  const found = criteriaOf(topicOf(tree, topic)).flatMap(criterion => {
    const measure = measures.find(({ id }) => id === criterion.id)
    return measure ? [{ criterion, measure }] : []
  })
  const all = found.reduce((sum, { criterion }) => sum + criterion.weight, 0)
  const criteria = found.map(one => ({ ...one, weight: all === 0 ? 1 / found.length : one.criterion.weight / all }))
  const ids = childrenOf(tree, topic).filter(id =>
    criteria.some(({ measure }) => figures.of(id, measure.id).value !== null),
  )
  let missing = 0
  const columns = criteria.map(({ criterion, measure }) => {
    const values = ids.map(id => {
      const { value } = figures.of(id, measure.id)
      if (value === null) missing++
      return value === null ? null : nearly(value)
    })
    return onScale(values, criterion.better, measure.unit.trim() === '')
  })
  const scored = ids.map((id, row) => ({
    id,
    title: topicOf(tree, id).title,
    marks: columns.map(column => column[row]!),
    score: criteria.reduce((sum, { weight }, i) => sum + weight * (columns[i]![row] ?? 0), 0),
  }))
  return {
    criteria,
    missing,
    options: scored.map(one => ({ ...one, rank: 1 + scored.filter(other => other.score > one.score + 1e-9).length })),
  }
}

function onScale(
  values: readonly (number | null)[],
  better: Criterion['better'],
  asTheyAre: boolean,
): (number | null)[] {
  if (asTheyAre) return values.map(value => (value === null ? null : better === 'more' ? value : FULL_MARK - value))
  const there = values.filter((value): value is number => value !== null && value >= 0)
  const best = better === 'more' ? Math.max(...there) : Math.min(...there)
  return values.map(value => {
    if (value === null) return null
    if (value < 0) return 0
    if (better === 'more') return best === 0 ? 0 : (FULL_MARK * value) / best
    return value === 0 ? FULL_MARK : (FULL_MARK * best) / value
  })
}

/** How far a criterion's weight may fall or rise, the others keeping their proportions, before another option leads. */
export interface Leeway {
  readonly criterion: string
  readonly weight: number
  /** The weights at which another leads; null where none ever does. */
  readonly below: { readonly weight: number; readonly leads: TopicId } | null
  readonly above: { readonly weight: number; readonly leads: TopicId } | null
}

export function leewaysOf({ criteria, options }: Choice): Leeway[] {
  const first = options.find(({ rank }) => rank === 1)
  if (!first) return []
  return criteria.map(({ criterion, weight }, j) => {
    // Without this criterion the others have all the weight.
    const rest = ({ marks }: Option): number =>
      weight === 1
        ? 0
        : criteria.reduce((sum, other, i) => (i === j ? sum : sum + other.weight * (marks[i] ?? 0)), 0) / (1 - weight)
    let [below, above]: [Leeway['below'], Leeway['above']] = [null, null]
    for (const other of options) {
      if (other === first) continue
      const [r, s] = [rest(first) - rest(other), (first.marks[j] ?? 0) - (other.marks[j] ?? 0)]
      if (r === s) continue
      const at = r / (r - s)
      if (at < 0 || at > 1) continue
      if (at <= weight && (below === null || at > below.weight)) below = { weight: at, leads: other.id }
      if (at >= weight && (above === null || at < above.weight)) above = { weight: at, leads: other.id }
    }
    return { criterion: criterion.id, weight, below, above }
  })
}

/**
 * Mean consistency of random reciprocal matrices of so many criteria (T. Saaty, “The Analytic Hierarchy Process”, 1980; the values from
 * memory).
 */
const RANDOM_INDEX = [0, 0, 0, 0.58, 0.9, 1.12, 1.24, 1.32, 1.41, 1.45, 1.49]
/** Ratios that contradict one another by more than this are to be looked at again (the same source). */
export const MOST_INCONSISTENT = 0.1
export const MOST_PAIRED = 10

/** Weights from ratios of pairs. */
export interface Paired {
  /** Parts of one, in the order of the criteria. */
  readonly weights: readonly number[]
  /** The largest eigenvalue of the matrix of ratios. */
  readonly eigenvalue: number
  /** The consistency ratio; 0 where two or fewer can't contradict. */
  readonly inconsistency: number
}

/**
 * Weights as the principal eigenvector of the matrix of ratios (Saaty, as above), by powers of the matrix. A pair that nobody compared
 * counts as alike.
 */
export function weightsOf(criteria: readonly string[], parts: readonly ChoicePart[]): Paired {
  const n = criteria.length
  const ratios = criteria.map(() => new Array<number>(n).fill(1))
  for (const part of parts) {
    if (part.kind !== 'pair') continue
    const [a, b] = [criteria.indexOf(part.a), criteria.indexOf(part.b)]
    if (a < 0 || b < 0 || a === b) continue
    ratios[a]![b] = part.ratio
    ratios[b]![a] = 1 / part.ratio
  }
  let weights = new Array<number>(n).fill(1 / Math.max(1, n))
  let eigenvalue = n
  for (let round = 0; round < 200; round++) {
    const next = ratios.map(row => row.reduce((sum, ratio, i) => sum + ratio * weights[i]!, 0))
    const sum = next.reduce((all, value) => all + value, 0)
    eigenvalue = sum
    weights = next.map(value => value / sum)
  }
  const index = RANDOM_INDEX[n] ?? 1.49
  return {
    weights,
    eigenvalue,
    inconsistency: n < 3 || index === 0 ? 0 : Math.max(0, (eigenvalue - n) / (n - 1) / index),
  }
}
