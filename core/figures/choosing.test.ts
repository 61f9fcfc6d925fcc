import { describe, expect, it } from 'vitest'
import { applyChanges, type ChoicePart, topicOf, type Tree } from '../tree'
import { choiceOf, criteriaOf, leewaysOf, pairsOf, weightsOf } from './choosing'
import { compared, criterionTurned } from './choosing-changes'
import type { Figures } from './figures'
import { euros, give, treeOf } from './fixtures/growing'
import { figuresAt } from './told'
import { assumedIn, takenOver, withoutWhatIf } from './what-ifs'

const TODAY = '2027-02-01'
const figuresOf = (tree: Tree, whatIf: string | null = null): Figures => figuresAt(tree, TODAY, whatIf)

describe('choosing', () => {
  const criteria = ['price', 'care', 'near']
  const pair = (a: string, b: string, ratio: number): ChoicePart => ({ id: `${a}-${b}`, kind: 'pair', a, b, ratio })

  it('weighs two by two, with the consistency ratio', () => {
    // K. Teknomo, “Analytic Hierarchy Process Tutorial” (2006), the matrix of three fruits, from memory. Its largest eigenvalue is known in
    // closed form for three: 1 + c + 1/c, where c is the cube root of a13 ÷ (a12 × a23).
    const parts = [pair('price', 'care', 1 / 3), pair('price', 'near', 5), pair('care', 'near', 7)]
    const { weights, eigenvalue, inconsistency } = weightsOf(criteria, parts)
    const c = Math.cbrt(5 / ((1 / 3) * 7))
    expect(eigenvalue).toBeCloseTo(1 + c + 1 / c, 9)
    // And its weights as geometric means of rows, which for three are the eigenvector itself.
    const means = [Math.cbrt((1 / 3) * 5), Math.cbrt(3 * 7), Math.cbrt((1 / 5) * (1 / 7))]
    const all = means.reduce((sum, one) => sum + one, 0)
    means.forEach((mean, i) => expect(weights[i]).toBeCloseTo(mean / all, 9))
    expect(weights.map(one => one.toFixed(2))).toEqual(['0.28', '0.65', '0.07'])
    expect(inconsistency).toBeCloseTo((eigenvalue - 3) / 2 / 0.58, 9)
  })
  it('says that ratios fit together, and that they contradict one another', () => {
    expect(
      weightsOf(criteria, [pair('price', 'care', 2), pair('care', 'near', 3), pair('price', 'near', 6)]).inconsistency,
    ).toBeCloseTo(0, 9)
    expect(
      weightsOf(criteria, [pair('price', 'care', 5), pair('care', 'near', 5), pair('price', 'near', 1 / 5)])
        .inconsistency,
    ).toBeGreaterThan(0.1)
    expect(weightsOf([], []).weights).toEqual([])
  })
  it('comes to the scores of a published example of the weighted sum', () => {
    // E. Triantaphyllou, “Multi-Criteria Decision Making Methods: A Comparative Study” (2000), the example of the weighted sum model, its
    // first two alternatives, from memory: weights .20, .15, .40, .25; scores 21.50 and 22.00.
    const weights = [20, 15, 40, 25]
    const ids = ['c1', 'c2', 'c3', 'c4']
    const measures = ids.map(id => euros(id, { unit: '' }))
    const tree = treeOf(
      measures,
      'Plants\n  First | c1 25 | c2 20 | c3 15 | c4 30\n  Second | c1 10 | c2 30 | c3 20 | c4 30',
    )
    applyChanges(
      tree,
      ids.map((id, i) => ({
        op: 'put' as const,
        topic: 'Plants',
        set: 'choice' as const,
        member: { id, kind: 'criterion' as const, order: `a${i}`, weight: weights[i]!, better: 'more' as const },
      })),
    )
    const { options } = choiceOf(tree, 'Plants', figuresOf(tree), measures)
    expect(options.map(({ score, rank }) => [score.toFixed(2), rank])).toEqual([
      ['21.50', 2],
      ['22.00', 1],
    ])
  })
  it('ranks options by the weighted sum, and says how far a weight may go', () => {
    const measures = [euros('cost'), euros('mark', { unit: '' })]
    const tree = treeOf(measures, 'Firms\n  Ash | cost 100 | mark 4\n  Birch | cost 200 | mark 8\n  Note')
    applyChanges(tree, [
      {
        op: 'put',
        topic: 'Firms',
        set: 'choice',
        member: { id: 'cost', kind: 'criterion', order: 'a0', weight: 1, better: 'less' },
      },
      {
        op: 'put',
        topic: 'Firms',
        set: 'choice',
        member: { id: 'mark', kind: 'criterion', order: 'a1', weight: 3, better: 'more' },
      },
    ])
    const choice = choiceOf(tree, 'Firms', figuresOf(tree), measures)
    // By hand: ¼ × 10 + ¾ × 4, ¼ × 5 + ¾ × 8.
    expect(choice.options.map(({ id, marks, score, rank }) => [id, marks, score, rank])).toEqual([
      ['Ash', [10, 4], 5.5, 2],
      ['Birch', [5, 8], 7.25, 1],
    ])
    // 5x + 8(1 − x) = 10x + 4(1 − x) where x, the price's part, is 4⁄9.
    const [price, mark] = leewaysOf(choice)
    expect(price!.above).toMatchObject({ leads: 'Ash' })
    expect(price!.above!.weight).toBeCloseTo(4 / 9, 9)
    expect(price!.below).toBeNull()
    expect(mark!.below!.weight).toBeCloseTo(5 / 9, 9)
    // At that very weight both have the same.
    const at = (x: number): number => 10 * x + 4 * (1 - x) - (5 * x + 8 * (1 - x))
    expect(at(price!.above!.weight)).toBeCloseTo(0, 9)
  })
})

describe('the changes of a choice', () => {
  const measures = [euros('cost'), euros('mark', { unit: '' }), euros('near', { unit: '' })]
  const begun = (): Tree => {
    const tree = treeOf(measures, 'Firms\n  Ash | cost 100 | mark 4 | near 1\n  Birch | cost 200 | mark 8 | near 2')
    for (const measure of measures) applyChanges(tree, criterionTurned(tree, 'Firms', measure))
    return tree
  }
  const criteria = (tree: Tree) => criteriaOf(topicOf(tree, 'Firms'))

  it('make a measure a criterion behind the others, of money the less the better, and take it away with what compared it', () => {
    const tree = begun()
    expect(criteria(tree).map(({ id, better, weight }) => [id, better, weight])).toEqual([
      ['cost', 'less', 10],
      ['mark', 'more', 10],
      ['near', 'more', 10],
    ])
    applyChanges(tree, compared(tree, 'Firms', criteria(tree), ['cost', 'mark'], 2))
    applyChanges(tree, compared(tree, 'Firms', criteria(tree), ['mark', 'near'], 3))
    applyChanges(tree, criterionTurned(tree, 'Firms', measures[1]!))
    expect(criteria(tree).map(({ id }) => id)).toEqual(['cost', 'near'])
    expect(pairsOf(topicOf(tree, 'Firms'))).toEqual([])
  })
  it('let the weights follow from what is compared, the last word on two counting, either way round', () => {
    const tree = begun()
    applyChanges(tree, compared(tree, 'Firms', criteria(tree), ['mark', 'cost'], 5))
    for (const [a, b, ratio] of [
      ['cost', 'mark', 2],
      ['mark', 'near', 3],
      ['cost', 'near', 6],
    ] as const)
      applyChanges(tree, compared(tree, 'Firms', criteria(tree), [a, b], ratio))
    expect(pairsOf(topicOf(tree, 'Firms'))).toHaveLength(3)
    // Ratios that fit together: 6 to 3 to 1.
    expect(criteria(tree).map(({ weight }) => weight)).toEqual([60, 30, 10])
  })
  it('score as the weighted sum of a published example', () => {
    // E. Triantaphyllou, “Multi-Criteria Decision Making Methods: A Comparative Study” (2000), the example of the weighted sum model (its
    // first two alternatives, from memory), a tenth of its marks, as ours go to 10: 21.50 and 22.00 there.
    const weights = [20, 15, 40, 25]
    const four = weights.map((_, i) => euros(`m${i}`, { unit: '' }))
    const row = (marks: number[]): string => marks.map((mark, i) => `m${i} ${mark / 10}`).join(' | ')
    const tree = treeOf(four, `Firms\n  One | ${row([25, 20, 15, 30])}\n  Two | ${row([10, 30, 20, 30])}`)
    for (const measure of four) applyChanges(tree, criterionTurned(tree, 'Firms', measure))
    applyChanges(
      tree,
      criteria(tree).map((member, i) => ({
        op: 'put',
        topic: 'Firms',
        set: 'choice',
        member: { ...member, weight: weights[i]! },
      })),
    )
    const { options } = choiceOf(tree, 'Firms', figuresOf(tree), four)
    expect(options.map(({ score }) => score.toFixed(2))).toEqual(['2.15', '2.20'])
    expect(options.map(({ rank }) => rank)).toEqual([2, 1])
  })
})

describe('assumptions', () => {
  const laid = (): Tree => {
    const tree = treeOf([euros('cost')], 'Rooms\n  Lift | cost 100\n  Lamps | cost 20\n  Paint')
    const member = (id: string) => ({ id, order: 'a0', name: id })
    applyChanges(tree, [
      { op: 'tree-put', set: 'whatIfs', member: member('offer') },
      { op: 'tree-put', set: 'whatIfs', member: member('other') },
      give('Lift', 'cost', '80', 'offer'),
      give('Paint', 'cost', '={m:cost} of parent', 'other'),
      give('Paint', 'cost', '7', 'offer'),
    ])
    return tree
  }
  const sums = (tree: Tree, whatIf: string | null = null) =>
    ['c', 'Rooms', 'Lift', 'Lamps', 'Paint'].map(id => figuresOf(tree, whatIf).of(id, 'cost').value)

  it('that are taken over are what is so, and the others are what they were', () => {
    const tree = laid()
    const assumed = sums(tree, 'offer')
    applyChanges(tree, takenOver(tree, 'offer'))
    expect(sums(tree)).toEqual(assumed)
    expect(assumedIn(tree, 'offer')).toEqual([])
    expect(tree.fields.whatIfs.map(({ id }) => id)).toEqual(['other'])
    expect(assumedIn(tree, 'other')).toHaveLength(1)
  })
  it('that are taken away leave nothing behind, and what is so as it was', () => {
    const tree = laid()
    const before = sums(tree)
    applyChanges(tree, withoutWhatIf(tree, 'offer'))
    expect(sums(tree)).toEqual(before)
    expect([...tree.topics.values()].flatMap(({ figures }) => figures.filter(one => one.whatIf === 'offer'))).toEqual(
      [],
    )
  })
})
