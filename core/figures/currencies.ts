import { code } from 'currency-codes'

/** Digits after the point that a currency has by ISO 4217 (currency-codes’ copy of list one); null where it's no currency. */
export const digitsOf = (currency: string): number | null =>
  /^[A-Z]{3}$/.test(currency) ? (code(currency)?.digits ?? null) : null
