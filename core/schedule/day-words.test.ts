import { execFileSync } from 'node:child_process'
import { describe, expect, it } from 'vitest'
import { readDay, readLength, startOfWeek, weekStart } from './day-words'

const TODAY = '2027-03-03' // a Wednesday, ISO 8601 week 9

describe('days in words', () => {
  it.each([
    ['fri', '2027-03-05'],
    ['wed', TODAY],
    ['Wednesday', TODAY],
    ['next fri', '2027-03-12'],
    ['on friday', '2027-03-05'],
    ['thurs', '2027-03-04'],
    ['3 Mar', TODAY],
    ['2 Mar', '2028-03-02'],
    ['15 Dec', '2027-12-15'],
    ['Dec 15', '2027-12-15'],
    ['15. Dec', '2027-12-15'],
    ['15.12.', '2027-12-15'],
    ['15.12.2028', '2028-12-15'],
    ['Dec 15, 2028', '2028-12-15'],
    ['the 15th of December', '2027-12-15'],
    ['tue, 12 May', '2027-05-12'],
    ['29 Feb', '2028-02-29'],
    ['2027-05-12', '2027-05-12'],
    ['today', TODAY],
    ['tomorrow', '2027-03-04'],
    ['the day after tomorrow', '2027-03-05'],
    ['in 3 days', '2027-03-06'],
    ['in two weeks', '2027-03-17'],
    ['in 1 month', '2027-04-03'],
    ['next month', '2027-04-03'],
    ['next week', '2027-03-08'],
    ['end of month', '2027-03-31'],
    ['end of May', '2027-05-31'],
    ['end of next month', '2027-04-30'],
    ['end of the week', '2027-03-07'],
    ['2 days ago', '2027-03-01'],
    ['someday', null],
    ['may', null],
    ['last friday', null],
    ['2 hours', null],
    ['in 2 hours', null],
    ['30 Feb', null],
    ['2027-02-30', null],
    ['31.4.', null],
    ['2 sat navs', null],
    ['3 days', null],
    ['in 3000000 days', null],
    ['', null],
  ])('%s', (phrase, day) => {
    expect(readDay(phrase, { today: TODAY })).toBe(day)
  })

  it('a month on from its last day is the last of the next', () => {
    expect(readDay('in 1 month', { today: '2027-01-31' })).toBe('2027-02-28')
    expect(readDay('end of month', { today: '2028-02-10' })).toBe('2028-02-29')
  })

  // Names come from Unicode CLDR through Intl; what people of these languages write for them, from memory.
  it.each([
    ['da', 'fredag', '2027-03-05'],
    ['da', 'i morgen', '2027-03-04'],
    ['da', '15. dec', '2027-12-15'],
    ['da', 'om 2 uger', '2027-03-17'],
    ['da', '3. maj', '2027-05-03'],
    ['de', 'Fr', '2027-03-05'],
    ['de', 'übermorgen', '2027-03-05'],
    ['de', '15. Dez', '2027-12-15'],
    ['de', '3. März 2028', '2028-03-03'],
    ['de', 'in 2 Wochen', '2027-03-17'],
    ['de', 'Ende des Monats', '2027-03-31'],
    ['fr', 'vendredi', '2027-03-05'],
    ['fr', 'demain', '2027-03-04'],
    ['fr', '1er avril', '2027-04-01'],
    ['fr', '15 déc.', '2027-12-15'],
    ['fr', 'dans 2 semaines', '2027-03-17'],
    ['es', 'viernes', '2027-03-05'],
    ['es', 'mañana', '2027-03-04'],
    ['es', '3 de mayo', '2027-05-03'],
    ['es', '15 de diciembre de 2028', '2028-12-15'],
    ['es', 'dentro de 2 semanas', '2027-03-17'],
    ['it', 'venerdì', '2027-03-05'],
    ['it', 'domani', '2027-03-04'],
    ['it', '15 dicembre', '2027-12-15'],
    ['it', 'tra 2 settimane', '2027-03-17'],
    ['nl', 'vrijdag', '2027-03-05'],
    ['nl', 'morgen', '2027-03-04'],
    ['nl', '15 december', '2027-12-15'],
    ['nl', 'over 2 weken', '2027-03-17'],
    ['sv', 'fredag', '2027-03-05'],
    ['sv', 'i morgon', '2027-03-04'],
    ['sv', '15 dec', '2027-12-15'],
    ['sv', 'om 2 veckor', '2027-03-17'],
    ['de', 'in 2 weeks', '2027-03-17'],
    ['xx-nonsense-locale-tag', 'fri', '2027-03-05'],
    ['not a locale', 'fri', '2027-03-05'],
  ])('%s: %s', (locale, phrase, day) => {
    expect(readDay(phrase, { today: TODAY, locale })).toBe(day)
  })

  it('3/4 is read in the locale’s order; what can’t be a month is a day', () => {
    expect(readDay('3/4', { today: TODAY, locale: 'en-US' })).toBe('2027-03-04')
    expect(readDay('3/4', { today: TODAY, locale: 'en-GB' })).toBe('2027-04-03')
    for (const locale of ['en-US', 'en-GB']) expect(readDay('31/12', { today: TODAY, locale })).toBe('2027-12-31')
  })

  it('weeks begin where the locale says', () => {
    // CLDR supplemental data, weekData: Sunday in the US, Monday in Denmark, Saturday in Egypt.
    expect([weekStart('en-US'), weekStart('da-DK'), weekStart('ar-EG')]).toEqual([0, 1, 6])
    expect(startOfWeek(TODAY, 'en-US')).toBe('2027-02-28')
    expect(startOfWeek(TODAY, 'da-DK')).toBe('2027-03-01')
    expect(readDay('next week', { today: TODAY, locale: 'en-US' })).toBe('2027-03-07')
  })

  it('reads the same in every zone, at every hour', () => {
    const script = `import { readDay } from './core/schedule/day-words'; console.log(JSON.stringify(['3 Mar', 'wed', 'tomorrow', 'in 1 month', 'end of month', '15.12.', 'next fri', '29 Feb'].map(one => readDay(one, { today: '2027-03-03' }))))`
    const said = new Set(
      [
        'UTC',
        'America/Los_Angeles',
        'America/St_Johns',
        'Pacific/Kiritimati',
        'Pacific/Apia',
        'Asia/Kolkata',
        'Europe/Copenhagen',
        'Pacific/Pago_Pago',
      ].map(TZ =>
        execFileSync(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', script], {
          env: { ...process.env, TZ },
          encoding: 'utf8',
        }).trim(),
      ),
    )
    expect([...said]).toEqual([
      JSON.stringify([
        '2027-03-03',
        '2027-03-03',
        '2027-03-04',
        '2027-04-03',
        '2027-03-31',
        '2027-12-15',
        '2027-03-12',
        '2028-02-29',
      ]),
    ])
  })

  it('lengths are working days, in the words of the locale too', () => {
    expect([
      readLength('3 days'),
      readLength('2,5 d'),
      readLength('2 weeks'),
      readLength('3 Tage', 'de'),
      readLength('2 semaines', 'fr'),
      readLength('2001 weeks'),
      readLength('3 oaks'),
    ]).toEqual([3, 2.5, 10, 3, 10, null, null])
  })

  it('lengths may be hours where it’s known how many a working day has', () => {
    expect([
      readLength('6 h', 'en-GB', 8),
      readLength('1,5 Stunden', 'de', 7.5),
      readLength('2 h', 'en-GB', 6),
      readLength('90000 h', 'en-GB', 8),
      readLength('6 h', 'en-GB'),
      readLength('2 weeks', 'en-GB', 8),
    ]).toEqual([0.75, 0.2, 0.3333, null, null, 10])
  })
})
