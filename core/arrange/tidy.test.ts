import { flextree } from 'd3-flextree'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { layOut, newPlot, type Plot } from './tidy'

interface Sample {
  size: [number, number]
  children: Sample[]
}

function laid(sample: Sample): Plot {
  return layOut({ ...newPlot(''), along: sample.size[1], across: sample.size[0] }, sample.children.map(laid))
}

/** Absolute middles across and near ends along, depth first. */
function places(
  at: Plot,
  across = 0,
  along = 0,
  out: { across: number; along: number; plot: Plot }[] = [],
): typeof out {
  out.push({ across, along, plot: at })
  for (const kid of at.kids) places(kid, across + kid.offset, along + at.along, out)
  return out
}

const sampleTree: fc.Arbitrary<Sample> = fc.letrec<{ node: Sample }>(tie => ({
  node: fc.record({
    size: fc.tuple(fc.integer({ min: 4, max: 90 }), fc.integer({ min: 5, max: 200 })),
    children: fc.oneof(
      { maxDepth: 6, depthSize: 'small' },
      fc.constant<Sample[]>([]),
      fc.array(tie('node'), { maxLength: 6 }),
    ),
  }),
})).node

describe('the tidy tree', () => {
  it('stands where d3-flextree 2.1.2 puts it, for planks of any size', () => {
    fc.assert(
      fc.property(sampleTree, sample => {
        const layout = flextree<Sample>({ children: d => d.children, nodeSize: node => node.data.size, spacing: 0 })
        const reference = layout(layout.hierarchy(sample))
        const expected: [number, number][] = []
        reference.eachBefore(node => expected.push([node.x, node.y]))
        places(laid(sample)).forEach(({ across, along }, i) => {
          expect(across).toBeCloseTo(expected[i]![0], 6)
          expect(along).toBeCloseTo(expected[i]![1], 6)
        })
      }),
      { numRuns: 1000 },
    )
  })

  it('never lets two planks overlap, keeps order, centres the parent and draws equal branches alike', () => {
    fc.assert(
      fc.property(sampleTree, sample => {
        const flat = places(laid(sample))
        for (const { plot: at } of flat) {
          for (let i = 1; i < at.kids.length; i++) expect(at.kids[i]!.offset).toBeGreaterThan(at.kids[i - 1]!.offset)
          const [first, last] = [at.kids[0], at.kids.at(-1)]
          if (first && last) expect(first.offset - first.across / 2).toBeCloseTo(-(last.offset + last.across / 2), 6)
        }
        for (let i = 0; i < flat.length; i++) {
          for (let j = i + 1; j < flat.length; j++) {
            const a = flat[i]!
            const b = flat[j]!
            const apartAcross = Math.abs(a.across - b.across) - (a.plot.across + b.plot.across) / 2
            const apartAlong = Math.max(a.along - b.along - b.plot.along, b.along - a.along - a.plot.along)
            expect(Math.max(apartAcross, apartAlong)).toBeGreaterThan(-1e-6)
          }
        }
        // Two equal branches beside each other stand alike.
        const [one, two] = layOut({ ...newPlot(''), along: 10, across: 10 }, [laid(sample), laid(sample)]).kids
        expect(places(one!).map(place => place.across)).toEqual(places(two!).map(place => place.across))
      }),
      { numRuns: 300 },
    )
  })

  it('reports the outer edges that its planks really have', () => {
    fc.assert(
      fc.property(sampleTree, sample => {
        const branch = laid(sample)
        const flat = places(branch)
        const low = Math.min(...flat.map(place => place.across - place.plot.across / 2))
        const high = Math.max(...flat.map(place => place.across + place.plot.across / 2))
        const reach = Math.max(...flat.map(place => place.along + place.plot.along))
        expect(branch.low).toBeCloseTo(low, 6)
        expect(branch.high).toBeCloseTo(high, 6)
        expect(branch.reach).toBeCloseTo(reach, 6)
      }),
      { numRuns: 300 },
    )
  })
})
