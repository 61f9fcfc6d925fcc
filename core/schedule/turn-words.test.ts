import { describe, expect, it } from 'vitest'
import { writeRhythm } from '../tree/again'
import { readRhythmWords, rhythmInWords, usualRules } from './turn-words'

describe('how a task comes again', () => {
  it.each([
    ['FREQ=DAILY', 'every working day'],
    ['FREQ=DAILY;INTERVAL=3', 'every 3 days'],
    ['FREQ=WEEKLY;BYDAY=MO', 'every Monday'],
    ['FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,TH', 'every second Monday and Thursday'],
    ['FREQ=WEEKLY;INTERVAL=4;BYDAY=MO,WE,FR', 'every 4 weeks on Monday, Wednesday and Friday'],
    ['FREQ=MONTHLY;BYMONTHDAY=-1', 'on the last day of the month'],
    ['FREQ=MONTHLY;BYMONTHDAY=22', 'on the 22nd of the month'],
    ['FREQ=MONTHLY;BYMONTHDAY=12', 'on the 12th of the month'],
    ['FREQ=MONTHLY;INTERVAL=3;BYDAY=-1FR', 'every 3 months on the last Friday'],
    ['FREQ=YEARLY;BYMONTH=5;BYMONTHDAY=3;UNTIL=20290601', 'every year on 3 May, until 1 Jun 2029'],
    ['FREQ=SECONDLY', ''],
  ])('%s is “%s”', (rule, words) => {
    expect(rhythmInWords(rule, 'en-GB')).toBe(words)
  })

  it('what is usual depends on the day it’s due', () => {
    // 30 April 2027 is a Friday, the last of its month.
    expect(usualRules('2027-04-30').map(rule => rhythmInWords(rule))).toEqual([
      'every working day',
      'every Friday',
      'every second Friday',
      'on the 30th of the month',
      'on the fifth Friday of the month',
      'on the last Friday of the month',
      'on the last day of the month',
      'every 3 months on the 30th',
      'every year on 30 April',
    ])
    expect(usualRules('2027-04-06').map(rule => rhythmInWords(rule))).not.toContain('on the last Tuesday of the month')
  })

  const sense = { today: '2027-03-03', locale: 'de-DE' }
  it.each([
    ['every Monday', 'FREQ=WEEKLY;BYDAY=MO'],
    ['every second fri', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=FR'],
    ['every other friday', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=FR'],
    ['every mon and thu', 'FREQ=WEEKLY;BYDAY=MO,TH'],
    ['every Donnerstag', 'FREQ=WEEKLY;BYDAY=TH'],
    ['every 2 weeks', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=WE'],
    ['every month', 'FREQ=MONTHLY;BYMONTHDAY=3'],
    ['quarterly', 'FREQ=MONTHLY;INTERVAL=3;BYMONTHDAY=3'],
    ['every year', 'FREQ=YEARLY;BYMONTH=3;BYMONTHDAY=3'],
    ['daily', 'FREQ=DAILY'],
    ['Every working day', 'FREQ=DAILY'],
    ['every 3 days', 'FREQ=DAILY;INTERVAL=3'],
  ])('“%s” is read', (text, rule) => {
    const read = readRhythmWords(text, sense)
    expect(read && writeRhythm(read('2027-03-03'))).toBe(rule)
  })
  it.each([
    'every',
    'every 0 days',
    'every thing',
    'every 12 May',
    'every tomorrow',
    'everyday life',
    'every 501 weeks',
  ])('“%s” says nothing of that kind', text => {
    expect(readRhythmWords(text, sense)).toBeNull()
  })
})
