import { flextree } from 'd3-flextree'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { beside, type Branch, rooted } from './tidy'

interface Sample { size: [number, number], children: Sample[] }

function laid(sample: Sample): Branch {
  return rooted(sample.size[1], sample.size[0], beside(sample.children.map(laid)))
}

/** Absolute middles across and near ends along, depth first. */
function places(sample: Sample, branch: Branch, across = 0, along = 0, out: [number, number][] = []): [number, number][] {
  out.push([across, along])
  sample.children.forEach((child, i) => {
    places(child, laidAt(branch, i), across + branch.forest!.offsets[i]! - branch.forest!.middle, along + branch.along, out)
  })
  return out
}

const kids = new WeakMap<Branch, Branch[]>()
function laidAt(branch: Branch, i: number): Branch {
  return kids.get(branch)![i]!
}
function laidWithKids(sample: Sample): Branch {
  const below = sample.children.map(laidWithKids)
  const branch = rooted(sample.size[1], sample.size[0], beside(below))
  kids.set(branch, below)
  return branch
}

const sampleTree: fc.Arbitrary<Sample> = fc.letrec<{ node: Sample }>(tie => ({
  node: fc.record({
    size: fc.tuple(fc.integer({ min: 4, max: 90 }), fc.integer({ min: 5, max: 200 })),
    children: fc.oneof({ maxDepth: 6, depthSize: 'small' }, fc.constant<Sample[]>([]), fc.array(tie('node'), { maxLength: 6 })),
  }),
})).node

describe('the tidy tree', () => {
  it('stands where d3-flextree 2.1.2 puts it, for planks of any size', () => {
    fc.assert(fc.property(sampleTree, (sample) => {
      const layout = flextree<Sample>({ children: d => d.children, nodeSize: node => node.data.size, spacing: 0 })
      const reference = layout(layout.hierarchy(sample))
      const expected: [number, number][] = []
      reference.eachBefore(node => expected.push([node.x, node.y]))
      const got = places(sample, laidWithKids(sample))
      got.forEach(([across, along], i) => {
        expect(across).toBeCloseTo(expected[i]![0], 6)
        expect(along).toBeCloseTo(expected[i]![1], 6)
      })
    }), { numRuns: 1000 })
  })

  it('never lets two planks overlap, keeps order, centres the parent and draws equal branches alike', () => {
    fc.assert(fc.property(sampleTree, (sample) => {
      const flat: { across: number, along: number, size: [number, number] }[] = []
      const walk = (node: Sample, branch: Branch, across: number, along: number): void => {
        flat.push({ across, along, size: node.size })
        const forest = branch.forest
        if (!forest) return
        for (let i = 1; i < forest.offsets.length; i++) expect(forest.offsets[i]!).toBeGreaterThan(forest.offsets[i - 1]!)
        node.children.forEach((child, i) => { walk(child, laidAt(branch, i), across + forest.offsets[i]! - forest.middle, along + branch.along) })
      }
      walk(sample, laidWithKids(sample), 0, 0)
      for (let i = 0; i < flat.length; i++) {
        for (let j = i + 1; j < flat.length; j++) {
          const a = flat[i]!
          const b = flat[j]!
          const apartAcross = Math.abs(a.across - b.across) - (a.size[0] + b.size[0]) / 2
          const apartAlong = Math.max(a.along - b.along - b.size[1], b.along - a.along - a.size[1])
          expect(Math.max(apartAcross, apartAlong)).toBeGreaterThan(-1e-6)
        }
      }
      const twice = beside([laid(sample), laid(sample)])!
      expect(twice.offsets[1]! - twice.offsets[0]!).toBeGreaterThan(0)
      expect([...(laid(sample).forest?.offsets ?? [])]).toEqual([...(laid(sample).forest?.offsets ?? [])])
    }), { numRuns: 300 })
  })

  it('reports the outer edges that its planks really have', () => {
    fc.assert(fc.property(sampleTree, (sample) => {
      const branch = laidWithKids(sample)
      let low = Infinity
      let high = -Infinity
      let reach = -Infinity
      const walk = (node: Sample, at: Branch, across: number, along: number): void => {
        low = Math.min(low, across - node.size[0] / 2)
        high = Math.max(high, across + node.size[0] / 2)
        reach = Math.max(reach, along + node.size[1])
        node.children.forEach((child, i) => { walk(child, laidAt(at, i), across + at.forest!.offsets[i]! - at.forest!.middle, along + at.along) })
      }
      walk(sample, branch, 0, 0)
      expect(branch.low).toBeCloseTo(low, 6)
      expect(branch.high).toBeCloseTo(high, 6)
      expect(branch.reach).toBeCloseTo(reach, 6)
    }), { numRuns: 300 })
  })
})
