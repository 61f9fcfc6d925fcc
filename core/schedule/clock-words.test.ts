import { describe, expect, it } from 'vitest'
import { readMoment, readTime, timesAtTheEnd } from './clock-words'
import { minuteOf, momentInWords } from './times'

const SENSE = { today: '2027-03-03', locale: 'en-GB' }

describe('a time in words', () => {
  it.each([
    ['14:30', '14:30'],
    ['7:05', '07:05'],
    ['00:00', '00:00'],
    ['23:59', '23:59'],
    ['2:30 pm', '14:30'],
    ['2.30 uhr', '02:30'],
    ['9am', '09:00'],
    ['9 a.m.', '09:00'],
    // Common practice of twelve-hour clocks: noon is 12 pm, midnight 12 am.
    ['12 pm', '12:00'],
    ['12 am', '00:00'],
    ['12:15am', '00:15'],
    ['14h30', '14:30'],
    ['9 Uhr', '09:00'],
    ['07:30:00', '07:30'],
    ['noon', '12:00'],
  ])('%s is %s', (said, time) => {
    expect(readTime(said)).toBe(time)
  })

  it.each(['24:00', '7:60', '13 pm', '0 am', '7', '730', '', 'four', '-1:00', '7:5', '1 2:30', '٣:٣٠'])(
    '%j is none',
    said => {
      expect(readTime(said)).toBeNull()
    },
  )
})

describe('times at the end', () => {
  it.each([
    ['fri 9:30', { before: 'fri', from: '09:30', to: null }],
    ['fri, 9:30 to 11:00', { before: 'fri', from: '09:30', to: '11:00' }],
    ['12 May at 9am – 11am', { before: '12 May', from: '09:00', to: '11:00' }],
    ['freitag um 9 uhr bis 10:30', { before: 'freitag', from: '09:00', to: '10:30' }],
    ['22:00-2:00', { before: '', from: '22:00', to: '02:00' }],
    ['2027-06-05T07:30', { before: '2027-06-05', from: '07:30', to: null }],
    ['2027-06-05T07:30:15', { before: '2027-06-05', from: '07:30', to: null }],
  ])('%s', (said, found) => {
    expect(timesAtTheEnd(said)).toEqual(found)
  })

  it.each([
    'fri',
    '12 May 2027',
    '15.12.',
    '3 to 8 days',
    '4 h',
    'room12:30',
    '9:30 to lunch',
    'lift 25:00',
    '9:30 11:99',
  ])('none in %s', said => {
    expect(timesAtTheEnd(said)).toBeNull()
  })

  it('takes no time over a long line of what looks like times', () => {
    const began = performance.now()
    expect(timesAtTheEnd(`${'9:30 '.repeat(50_000)}x`)).toBeNull()
    expect(timesAtTheEnd(`${'at '.repeat(50_000)}9:30 to`)).toBeNull()
    expect(performance.now() - began).toBeLessThan(2_000)
  })
})

describe('a moment', () => {
  it('is a day, a day with its time, or a time of the day that is there', () => {
    expect(readMoment('5 jun', SENSE)).toEqual({ day: '2027-06-05', time: null })
    expect(readMoment('5 jun 7:30', SENSE)).toEqual({ day: '2027-06-05', time: '07:30' })
    expect(readMoment('5 Jun 2027, 7:30', SENSE)).toEqual({ day: '2027-06-05', time: '07:30' })
    expect(readMoment('7:30', SENSE, '2027-06-05')).toEqual({ day: '2027-06-05', time: '07:30' })
    expect(readMoment('7:30', SENSE)).toBeNull()
    expect(readMoment('the lift 7:30', SENSE)).toBeNull()
    expect(readMoment('5 jun 7:30 to 8:00', SENSE)).toBeNull()
  })

  it.each(['en-GB', 'en-US', 'de-DE', 'fr-FR', 'pt-PT', 'es-ES', 'cs-CZ', 'sv-SE'])(
    'that was said is read back in %s',
    locale => {
      for (const time of [null, '00:00', '07:30', '23:59'])
        expect(readMoment(momentInWords('2027-06-05', time, locale), { today: '2027-03-03', locale })).toEqual({
          day: '2027-06-05',
          time,
        })
    },
  )

  it('counts minutes from midnight', () => {
    expect([minuteOf('00:00'), minuteOf('07:30'), minuteOf('23:59')]).toEqual([0, 450, 1439])
  })
})
