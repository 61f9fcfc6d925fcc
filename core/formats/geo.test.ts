import { describe, expect, it } from 'vitest'
import { readGeo, readPosition, writeGeo } from './geo'

describe('geo URIs', () => {
  // RFC 5870, sections 1, 6.1, 6.2, 6.3 and 3.4.4.
  it.each([
    ['geo:13.4125,103.8667', { lat: 13.4125, lon: 103.8667 }],
    ['geo:48.2010,16.3695,183', { lat: 48.201, lon: 16.3695 }],
    ['geo:48.198634,16.371648;crs=wgs84;u=40', { lat: 48.198634, lon: 16.371648 }],
    ['geo:66,30;u=6.500;FOo=this%2dthat', { lat: 66, lon: 30 }],
    ['geo:90,-22.43;crs=WGS84', { lat: 90, lon: 0 }],
    ['geo:22.300,-118.44', { lat: 22.3, lon: -118.44 }],
    ['geo:0,-180', { lat: 0, lon: 180 }],
    ['geo:40.685922,-111.853206,1321;crs=WGS84', { lat: 40.685922, lon: -111.853206 }],
  ])('%s', (uri, position) => expect(readGeo(uri)).toEqual(position))
  it.each(['geo:91,0', 'geo:0,181', 'geo:1', 'geo:,', 'geo:1e3,2', 'geo:48,16;crs=nad27', 'GEO 1,2', 'geo:48,16 x'])(
    '%s is none',
    uri => expect(readGeo(uri)).toBeNull(),
  )
  it('are written so that they are read back', () => {
    for (const position of [
      { lat: 48.2010004, lon: 16.3695 },
      { lat: -0.5, lon: 0 },
      { lat: 12, lon: -77.123456 },
    ]) {
      const back = readGeo(writeGeo(position))!
      expect(back.lat).toBeCloseTo(position.lat, 6)
      expect(back.lon).toBeCloseTo(position.lon, 6)
    }
    expect(writeGeo({ lat: 48.2, lon: 16 })).toBe('geo:48.2,16')
  })
})

describe('coordinates as people write them', () => {
  it.each([
    ['48.2, 16.37', 48.2, 16.37],
    ['-33.9 18.4', -33.9, 18.4],
    ['48°12′30″ N 16°22′ E', 48 + 12 / 60 + 30 / 3600, 16 + 22 / 60],
    ['33.9° S, 18.4° E', -33.9, 18.4],
    ['40° 26\' 46" N 79° 58\' 56" W', 40.446111, -79.982222],
  ])('%s', (text, lat, lon) => {
    const position = readPosition(text)!
    expect(position.lat).toBeCloseTo(lat, 5)
    expect(position.lon).toBeCloseTo(lon, 5)
  })
  it.each(['Vienna', '91, 0', '12', '12, 400', ''])('%s is none', text => expect(readPosition(text)).toBeNull())
})
