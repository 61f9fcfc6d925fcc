import { describe, expect, it } from 'vitest'
import { instantOf, isZone, offsetAt, transitionsOf, wallTime } from './zones'

/*
 * Values made once by Python's zoneinfo (IANA data 2024a or later), for instance
 *   python3 -c "from datetime import *; from zoneinfo import *;
 * print(datetime(2027,3,28,1,59,tzinfo=ZoneInfo('Europe/Copenhagen')).timestamp())"
 */
const FIXTURE = [
  ['2027-03-28', '01:59', 'Europe/Copenhagen', 1806195540],
  ['2027-03-28', '03:00', 'Europe/Copenhagen', 1806195600],
  ['2027-10-31', '01:59', 'Europe/Copenhagen', 1824940740],
  ['2027-10-31', '03:00', 'Europe/Copenhagen', 1824948000],
  ['2027-03-14', '01:59', 'America/New_York', 1805007540],
  ['2027-03-14', '03:00', 'America/New_York', 1805007600],
  ['2027-11-07', '02:00', 'America/New_York', 1825570800],
  ['2027-04-04', '03:00', 'Australia/Sydney', 1806771600],
  ['2027-10-03', '03:00', 'Australia/Sydney', 1822492800],
  ['2027-06-15', '09:30', 'Asia/Kolkata', 1813032000],
  ['2027-01-15', '09:30', 'Pacific/Auckland', 1799958600],
  ['2027-12-24', '16:00', 'America/Sao_Paulo', 1829674800],
] as const

describe('a time on the wall', () => {
  it.each(FIXTURE)('%s %s in %s', (day, time, zone, seconds) => {
    const read = instantOf(day, time, zone)
    expect(read.kind).toBe('once')
    expect(read.kind === 'once' && read.instant / 1000).toBe(seconds)
    expect(wallTime(seconds * 1000, zone)).toEqual({ day, time })
  })
  it('in the gap of spring there is no such time; in the doubled hour of autumn there are two', () => {
    // Directive 2000/84/EC: the change is at 01:00 UTC on the last Sunday of March and October.
    expect(instantOf('2027-03-28', '02:30', 'Europe/Copenhagen')).toEqual({
      kind: 'gap',
      after: Date.parse('2027-03-28T01:30Z'),
    })
    expect(instantOf('2027-10-31', '02:30', 'Europe/Copenhagen')).toEqual({
      kind: 'twice',
      instant: Date.parse('2027-10-31T00:30Z'),
      second: Date.parse('2027-10-31T01:30Z'),
    })
    expect(
      transitionsOf('Europe/Copenhagen', Date.parse('2027-01-01T00:00Z'), Date.parse('2027-12-31T00:00Z')),
    ).toEqual([
      { at: Date.parse('2027-03-28T01:00Z'), from: 60, to: 120, daylight: true },
      { at: Date.parse('2027-10-31T01:00Z'), from: 120, to: 60, daylight: false },
    ])
    expect(transitionsOf('UTC', 0, Date.parse('2027-12-31T00:00Z'))).toEqual([])
    expect(offsetAt(Date.parse('2027-07-01T00:00Z'), 'Asia/Kathmandu')).toBe(345)
  })
  it('what is no day, time or zone is refused', () => {
    for (const [day, time, zone] of [
      ['2027-02-30', '09:00', 'UTC'],
      ['2027-02-03', '25:00', 'UTC'],
      ['2027-02-03', '9:00', 'UTC'],
      ['2027-02-03', '09:00', 'Mars/Olympus'],
    ] as const)
      expect(() => instantOf(day, time, zone)).toThrow(RangeError)
    expect([isZone('Europe/Vienna'), isZone('UTC'), isZone('Nowhere'), isZone('../etc')]).toEqual([
      true,
      true,
      false,
      false,
    ])
  })
})
