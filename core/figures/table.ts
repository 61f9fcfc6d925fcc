/* A table that another program made, as it was read. It needs nothing else, so that a thread that reads one stands at once. */

/** A cell as it was read. `number`: as the table holds it, stored form; null where it's words. `formula`: it's worked out there. */
export interface ReadCell {
  readonly text: string
  readonly number: string | null
  readonly formula: boolean
}
export interface ReadTable {
  readonly name: string
  readonly rows: readonly (readonly (ReadCell | null)[])[]
  /** What of it wasn't read, in words. */
  readonly left: readonly string[]
}

/** A double as a stored numeral, with the 15 digits that it holds for certain; null beyond what a figure may be. */
export function numeralOfDouble(value: number): string | null {
  if (!Number.isFinite(value) || Math.abs(value) >= 1e15) return null
  const [mantissa, exponent = '0'] = value.toExponential(14).split('e')
  const places = Math.max(0, Math.min(10, 14 - Number(exponent)))
  const said = Number(`${mantissa}e${exponent}`).toFixed(places)
  const trimmed = said.includes('.') ? said.replace(/\.?0+$/, '') : said
  return /^-0?$/.test(trimmed) ? '0' : trimmed
}

/** Columns are named as in any sheet, from 0: A to Z, AA … */
export function columnName(index: number): string {
  let name = ''
  for (let n = index; n >= 0; n = Math.floor(n / 26) - 1) name = String.fromCharCode(65 + (n % 26)) + name
  return name
}
