import { describe, expect, it } from 'vitest'
import { layerFor } from './arranging'

describe('layers by hand', () => {
  const others = [0, 0, 1, 5]
  it('go to the front or the back of all, in the order they lie', () => {
    expect([0, 1].map(i => layerFor('front', 0, others, i, 2))).toEqual([6, 7])
    expect([0, 1].map(i => layerFor('back', 3, others, i, 2))).toEqual([-2, -1])
  })
  it('go past the next one, step by step, until there is none', () => {
    let z = 0
    const way: number[] = []
    for (let i = 0; i < 6; i++) way.push((z = layerFor('forward', z, others)))
    expect(way).toEqual([1, 2, 6, 6, 6, 6])
    z = 6
    const back: number[] = []
    for (let i = 0; i < 6; i++) back.push((z = layerFor('backward', z, others)))
    expect(back).toEqual([4, 0, -1, -1, -1, -1])
  })
})
