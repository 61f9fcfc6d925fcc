import { cityMapping } from 'city-timezones'
import { fold } from '#core/find/text'

/*
 * The list of places that ships with the app: some seven thousand towns from the package `city-timezones` (MIT), which
 * takes them from an open world cities data set.
 */

export interface FoundPlace {
  readonly name: string
  readonly where: string
  readonly lat: number
  readonly lon: number
  readonly zone: string
}

let list: { readonly folded: string; readonly people: number; readonly place: FoundPlace }[] | null = null

function places() {
  return (list ??= cityMapping.map(({ city, province, country, lat, lng, timezone, pop }) => ({
    folded: fold(`${city} ${province} ${country}`),
    people: pop,
    place: {
      name: city,
      where: [province && province !== city ? province : '', country].filter(Boolean).join(', '),
      lat: Math.round(lat * 1e5) / 1e5,
      lon: Math.round(lng * 1e5) / 1e5,
      zone: timezone,
    },
  })))
}

/** Places whose name begins with the words, the largest first, then those that have them anywhere. */
export function findPlaces(text: string, most = 8): FoundPlace[] {
  const words = fold(text)
    .split(/[\s,]+/)
    .filter(Boolean)
  if (words.length === 0) return []
  return places()
    .filter(({ folded }) => words.every(word => folded.includes(word)))
    .sort(
      (a, b) => Number(b.folded.startsWith(words[0]!)) - Number(a.folded.startsWith(words[0]!)) || b.people - a.people,
    )
    .slice(0, most)
    .map(({ place }) => place)
}
