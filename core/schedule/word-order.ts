import { namesOfDays, weekStart } from './day-words'

/*
 * The order that words name: days of the week, months, and ordinals, so that "Monday", "Tuesday" or "second", "third" stand as they follow
 * one another and not by the alphabet. Names of days and months come from Intl (Unicode CLDR); ordinals as words from memory.
 */

const ORDINALS: readonly (readonly string[])[] = [
  'first second third fourth fifth sixth seventh eighth ninth tenth eleventh twelfth',
  'erste zweite dritte vierte fünfte sechste siebte achte neunte zehnte elfte zwölfte',
  'erster zweiter dritter vierter fünfter sechster siebter achter neunter zehnter elfter zwölfter',
  'erstes zweites drittes viertes fünftes sechstes siebtes achtes neuntes zehntes elftes zwölftes',
  'premier deuxième troisième quatrième cinquième sixième septième huitième neuvième dixième onzième douzième',
  'première seconde troisième quatrième cinquième sixième septième huitième neuvième dixième onzième douzième',
  'primero segundo tercero cuarto quinto sexto séptimo octavo noveno décimo undécimo duodécimo',
  'primera segunda tercera cuarta quinta sexta séptima octava novena décima undécima duodécima',
  'primo secondo terzo quarto quinto sesto settimo ottavo nono decimo undicesimo dodicesimo',
  'prima seconda terza quarta quinta sesta settima ottava nona decima undicesima dodicesima',
  'eerste tweede derde vierde vijfde zesde zevende achtste negende tiende elfde twaalfde',
  'første anden tredje fjerde femte sjette syvende ottende niende tiende ellevte tolvte',
  'första andra tredje fjärde femte sjätte sjunde åttonde nionde tionde elfte tolfte',
].map(words => words.split(' '))
const ORDINAL_WORDS = new Map(ORDINALS.flatMap(words => words.map((word, i) => [word, i + 1] as const)))
/** 1st, 2nd, 3rd, 4th; 1., 2.; 1º, 1ª, 1er, 2e, 2ème, 3:e. */
const ORDINAL_FIGURE = /^(\d{1,6})(?:st|nd|rd|th|\.|º|ª|°|er|ère|e|ème|:a|:e)$/u

export type WordKind = 'weekday' | 'month' | 'ordinal'
const KINDS: readonly WordKind[] = ['weekday', 'month', 'ordinal']

/** What place a title's words name of a kind: its first such word's, counted up; null for none. A week begins as the locale's does. */
export function placeNamed(title: string, kind: WordKind, locale: string): number | null {
  const words =
    title
      .toLocaleLowerCase()
      .normalize('NFKC')
      .match(/[\p{L}\p{N}]+(?:[.:’'][\p{L}]*|[º°ª])?/gu) ?? []
  for (const said of words) {
    const word = said.replace(/[.:’']$/, '')
    if (kind === 'ordinal') {
      const place = ORDINAL_WORDS.get(word) ?? Number(ORDINAL_FIGURE.exec(said)?.[1] ?? NaN)
      if (!Number.isNaN(place)) return place
      continue
    }
    for (const names of namesOfDays(locale)) {
      const place = (kind === 'weekday' ? names.weekdays : names.months).get(word)
      if (place !== undefined) return kind === 'month' ? place : (place - weekStart(locale) + 7) % 7
    }
  }
  return null
}

/** The kind that most of some titles name; null where no two of them name one and the same. */
export function kindNamed(titles: readonly string[], locale: string): WordKind | null {
  const counts = KINDS.map(kind => titles.filter(title => placeNamed(title, kind, locale) !== null).length)
  const most = Math.max(...counts)
  return most < 2 ? null : KINDS[counts.indexOf(most)]!
}
