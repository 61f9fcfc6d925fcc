import { describe, expect, it } from 'vitest'
import { Unreadable } from '../capture/nested'
import { readClosedDays } from './closed-days'

const calendar = (...events: string[]): string =>
  `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n${events.map(lines => `BEGIN:VEVENT\r\nUID:${lines.length}\r\n${lines}\r\nEND:VEVENT\r\n`).join('')}END:VCALENDAR\r\n`
const days = (...events: string[]): string[] =>
  readClosedDays(calendar(...events), '2027-01-01', '2029-12-31').map(({ day, name }) => `${day} ${name}`.trim())

describe('closed days of a calendar file', () => {
  it('are its all-day events: the end isn’t one of the days, without one it’s one day, a duration counts', () => {
    expect(
      days(
        'DTSTART;VALUE=DATE:20271224\r\nDTEND;VALUE=DATE:20271227\r\nSUMMARY:Between the years',
        'DTSTART;VALUE=DATE:20270517\r\nSUMMARY:Whit Monday',
        'DTSTART;VALUE=DATE:20270801\r\nDURATION:P1W\r\nSUMMARY:Works holiday',
      ).map(line => line.slice(0, 10)),
    ).toEqual([
      '2027-05-17',
      ...['01', '02', '03', '04', '05', '06', '07'].map(day => `2027-08-${day}`),
      ...['2027-12-24', '2027-12-25', '2027-12-26'],
    ])
  })

  it('follow rules, with their exceptions; Thanksgiving is the fourth Thursday of November', () => {
    // The first of May every year; 29 February only where there is one. The fourth Thursday: 5 U.S.C. § 6103(a), the days from memory.
    expect(
      days(
        'DTSTART;VALUE=DATE:20200501\r\nRRULE:FREQ=YEARLY\r\nEXDATE;VALUE=DATE:20280501\r\nSUMMARY:Labour Day',
        'DTSTART;VALUE=DATE:20240229\r\nRRULE:FREQ=YEARLY\r\nSUMMARY:Leap',
        'DTSTART;VALUE=DATE:20201126\r\nRRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=4TH\r\nSUMMARY:Thanks',
      ),
    ).toEqual([
      ...['2027-05-01 Labour Day', '2027-11-25 Thanks', '2028-02-29 Leap', '2028-11-23 Thanks'],
      ...['2029-05-01 Labour Day', '2029-11-22 Thanks'],
    ])
  })

  it('leave out what has a time of day and what was cancelled; the same day is closed once', () => {
    expect(
      days(
        'DTSTART:20270517T090000Z\r\nSUMMARY:Dentist',
        'DTSTART;VALUE=DATE:20270518\r\nSTATUS:CANCELLED\r\nSUMMARY:No',
        'DTSTART;VALUE=DATE:20270519\r\nSUMMARY:One',
        'DTSTART;VALUE=DATE:20270519\r\nSUMMARY:Another',
      ),
    ).toEqual(['2027-05-19 One'])
  })

  it('refuse what is no calendar, what closes nothing and what closes too much, in words, and soon', () => {
    expect(() => days()).toThrow('no all-day event')
    for (const text of [
      '',
      ' ',
      'BEGIN:VCARD\r\nEND:VCARD',
      'BEGIN:VEVENT\r\nDTSTART;VALUE=DATE:20270101\r\nEND:VEVENT',
    ])
      expect(() => readClosedDays(text, '2027-01-01', '2029-12-31')).toThrow(/Nothing was changed/)
    for (const line of [
      'DTSTART;VALUE=DATE:2027-99-99',
      'DTSTART;VALUE=DATE:',
      'DTSTART;VALUE=DATE:20270101\r\nRRULE:FREQ=NEVER',
      'DTSTART;VALUE=DATE:20270101\r\nRRULE:FREQ=YEARLY;BYMONTH=13',
      'DTSTART;VALUE=DATE:20270101\r\nDTEND;VALUE=DATE:x',
      'DTSTART;VALUE=DATE:20270101\r\nDURATION:soon',
      'DTSTART;VALUE=DATE:99999999\r\nDTEND;VALUE=DATE:00000000',
    ])
      try {
        days(line)
      } catch (error) {
        expect(error, line).toBeInstanceOf(Unreadable)
      }
    expect(() => readClosedDays('title,due\nA,B', '2027-01-01', '2029-12-31')).toThrow('isn’t a calendar file')
    expect(() => readClosedDays(`BEGIN:VCALENDAR${' '.repeat(600_000)}`, '2027-01-01', '2029-12-31')).toThrow('half a')
    const before = performance.now()
    expect(() => days('DTSTART;VALUE=DATE:19000101\r\nRRULE:FREQ=DAILY\r\nSUMMARY:Never')).toThrow()
    expect(() => days('DTSTART;VALUE=DATE:20270101\r\nRRULE:FREQ=DAILY\r\nSUMMARY:Always')).toThrow('more than 1000')
    expect(performance.now() - before).toBeLessThan(3000)
  })
})
