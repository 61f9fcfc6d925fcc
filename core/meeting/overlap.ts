/** A stretch of time with a name. Instants are ms since 1970 UTC. */
export interface Stretch {
  readonly key: string
  readonly title: string
  readonly start: number
  readonly minutes: number
}

/**
 * For each that overlaps with another: the titles of those, in order of their start. One that begins when another ends
 * doesn't. Cost: n log n and the overlaps.
 */
export function overlapsOf(stretches: readonly Stretch[]): Map<string, string[]> {
  const sorted = [...stretches].sort((a, b) => a.start - b.start || (a.key < b.key ? -1 : 1))
  const found = new Map<string, string[]>()
  const note = (key: string, title: string): void => {
    found.set(key, [...(found.get(key) ?? []), title])
  }
  sorted.forEach((one, i) => {
    const end = one.start + one.minutes * 60_000
    for (let j = i + 1; j < sorted.length && sorted[j]!.start < end; j++) {
      note(one.key, sorted[j]!.title)
      note(sorted[j]!.key, one.title)
    }
  })
  return found
}
