import fc from 'fast-check'
import { expect, it } from 'vitest'
import { nestsDeeper } from './nesting'

const depthOf = (value: unknown): number =>
  typeof value === 'object' && value !== null ? 1 + Math.max(0, ...Object.values(value).map(depthOf)) : 0

it('counts levels as they are, whatever stands in strings', () => {
  fc.assert(
    fc.property(fc.jsonValue({ maxDepth: 8 }), fc.integer({ min: 0, max: 9 }), (value, most) => {
      expect(nestsDeeper(JSON.stringify(value), most)).toBe(depthOf(value) > most)
    }),
  )
})

it('isn’t fooled by brackets, quotes and backslashes in strings', () => {
  for (const text of ['[[[[[[', '"[["', '\\"[[', '\\\\', '{"a":'])
    expect(nestsDeeper(JSON.stringify([text]), 1)).toBe(false)
})

it('says so of text that would overflow what checks it, in a moment', () => {
  expect(nestsDeeper('['.repeat(1_000_000))).toBe(true)
})
