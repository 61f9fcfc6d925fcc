import { describe, expect, it } from 'vitest'
import { addAt, applyChanges, BLANK, childrenOf, emptyTree, reverseChildren, sortChildrenBy, topicOf } from '../tree'
import { kindNamed, placeNamed } from './word-order'

function sorted(titles: string[], locale: string): string[] {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
  titles.forEach((title, i) =>
    applyChanges(tree, addAt(tree, { parent: 'c', index: Infinity }, () => `t${i}`, { title }).changes),
  )
  const kind = kindNamed(titles, locale)!
  applyChanges(tree, sortChildrenBy(tree, 'c', ({ title }) => placeNamed(title, kind, locale)).changes)
  return childrenOf(tree, 'c').map(id => topicOf(tree, id).title)
}

describe('the order that words name', () => {
  it('is that of the week as it begins where the person lives (CLDR)', () => {
    const days = ['Sunday: rest', 'On Friday the lift', 'mon', 'Wednesday', 'Paint']
    expect(sorted(days, 'en-GB')).toEqual(['mon', 'Wednesday', 'On Friday the lift', 'Sunday: rest', 'Paint'])
    expect(sorted(days, 'en-US')[0]).toBe('Sunday: rest')
  })
  it('is that of the year', () => {
    expect(sorted(['September', 'April', 'Dec. opening', 'feb'], 'en-GB')).toEqual([
      'feb',
      'April',
      'September',
      'Dec. opening',
    ])
  })
  it.each([
    [
      'de',
      ['Dritte Lieferung', 'Zweite Lieferung', 'Erste Lieferung', 'Elfte'],
      ['Erste', 'Zweite', 'Dritte', 'Elfte'],
    ],
    ['fr', ['Troisième salle', 'Première salle', 'Deuxième salle'], ['Première', 'Deuxième', 'Troisième']],
    ['en', ['11th crate', '2nd crate', 'first crate', '3rd crate'], ['first', '2nd', '3rd', '11th']],
    ['de', ['12. Kiste', '2. Kiste', '1. Kiste'], ['1.', '2.', '12.']],
    ['sv', ['tredje', 'första', 'andra'], ['första', 'andra', 'tredje']],
  ])('is that of ordinals in %s', (locale, titles, first) => {
    expect(sorted(titles, locale).map(title => title.split(' ')[0])).toEqual(first)
  })
  it.each(['de', 'fr', 'es', 'it', 'nl', 'da', 'sv', 'cs', 'fi', 'el'])(
    'knows the days of %s as Intl names them',
    locale => {
      // 2 August 2027 is a Monday.
      const days = Array.from({ length: 7 }, (_, i) =>
        new Intl.DateTimeFormat(locale, { weekday: 'long', timeZone: 'UTC' }).format(
          new Date(Date.UTC(2027, 7, 2 + i)),
        ),
      )
      expect(sorted([...days].reverse(), locale)).toEqual(days)
      const months = Array.from({ length: 12 }, (_, i) =>
        new Intl.DateTimeFormat(locale, { month: 'long', timeZone: 'UTC' }).format(new Date(Date.UTC(2027, i, 1))),
      )
      expect(sorted([...months].reverse(), locale)).toEqual(months)
    },
  )
  it('is none where one title alone names it, and equal ones keep theirs', () => {
    expect(kindNamed(['Monday', 'Paint'], 'en')).toBeNull()
    expect(kindNamed(['Paint', 'Lift 2'], 'en')).toBeNull()
    expect(sorted(['b second', 'Mon a', 'Mon b', 'a'], 'en')).toEqual(['Mon a', 'Mon b', 'b second', 'a'])
    const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: 'a0', title: 'Move' })
    expect(reverseChildren(tree, 'c').changes).toEqual([])
  })
})
