import { nanoid } from 'nanoid'

/** An address for a measure, a what-if or a named value: two of them make a figure's. */
export const newShortId = (): string => nanoid(10)

/** Regions whose currency isn't the euro, as far as the app's languages reach; by ISO 3166 and ISO 4217, from memory. */
const CURRENCIES: Readonly<Record<string, string>> = {
  GB: 'GBP',
  US: 'USD',
  CH: 'CHF',
  DK: 'DKK',
  SE: 'SEK',
  NO: 'NOK',
}

/** The currency that somebody most likely reckons in, by the region of their locale. */
export const ownCurrency = (): string => CURRENCIES[new Intl.Locale(ownLocale()).maximize().region ?? ''] ?? 'EUR'
