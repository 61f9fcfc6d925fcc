/*
 * Which of a row of siblings were moved: the fewest that explain the new order. Those that stand in the longest
 * increasing run of old places stayed, the others moved (patience sorting; Fredman 1975, “On computing the length of
 * longest increasing subsequences”, Discrete Mathematics 11, 29–35, from memory). Cost: n log n.
 */

/** The members of `after` that left their place among those that were there `before`. What is new or went counts not. */
export function movedAmong<T>(before: readonly T[], after: readonly T[]): T[] {
  const place = new Map(before.map((one, i) => [one, i]))
  const both = after.filter(one => place.has(one))
  const stayed = longestRise(both.map(one => place.get(one)!))
  return both.filter((_, i) => !stayed.has(i))
}

/** The places of a longest strictly increasing run in a list of different numbers. */
function longestRise(numbers: readonly number[]): ReadonlySet<number> {
  /** For each length, where the run of that length with the lowest end ends. */
  const ends: number[] = []
  const before: number[] = []
  numbers.forEach((number, i) => {
    let [low, high] = [0, ends.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (numbers[ends[middle]!]! < number) low = middle + 1
      else high = middle
    }
    before.push(low > 0 ? ends[low - 1]! : -1)
    ends[low] = i
  })
  const kept = new Set<number>()
  for (let at = ends.at(-1) ?? -1; at >= 0; at = before[at]!) kept.add(at)
  return kept
}
