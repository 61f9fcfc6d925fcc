/** The value below which `part` of the numbers lie. */
export function quantile(numbers: readonly number[], part: number): number {
  const sorted = [...numbers].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * part))] ?? Number.NaN
}

export const ms = (value: number): string => `${value.toFixed(value < 10 ? 2 : 1)} ms`

export interface Line {
  readonly what: string
  readonly ours: string
  readonly reference: string
  readonly ratio: number
  readonly goal: string
  readonly met: boolean
}

export function print(line: Line): void {
  process.stdout.write(
    `${line.met ? 'ok  ' : 'OVER'} ${line.what.padEnd(44)} ${line.ours.padStart(12)}  against ${line.reference.padStart(12)}  ratio ${line.ratio.toFixed(2).padStart(6)}  goal ${line.goal}\n`,
  )
}

/** A seeded generator (mulberry32). */
export function random(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32
  }
}
