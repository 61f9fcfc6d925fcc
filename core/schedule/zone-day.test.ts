import { expect, it } from 'vitest'
import { dayIn } from './zone-day'

it('is the day on the wall of a zone; none without one, and none where there is no such zone', () => {
  const at = Date.parse('2027-06-05T23:30Z')
  expect(['Europe/Lisbon', 'America/New_York', 'Pacific/Kiritimati', 'UTC'].map(zone => dayIn(zone, at))).toEqual([
    '2027-06-06',
    '2027-06-05',
    '2027-06-06',
    '2027-06-05',
  ])
  expect([dayIn(null, at), dayIn('Nowhere/At_all', at)]).toEqual([null, null])
})
