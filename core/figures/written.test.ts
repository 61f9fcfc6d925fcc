import { describe, expect, it } from 'vitest'
import { BEGINNINGS, measuresFor } from './beginnings'
import { digitsOf } from './currencies'
import { euros } from './fixtures/growing'
import { fixedOf } from './fixed'
import { readFigure, readNumber, sayFigure, sayNumber } from './numbers'
import { readUnit, unitPer, unitPower, unitTimes } from './units'

describe('numbers as people write them', () => {
  it.each([
    ['1,250.50', 'en-GB', '1250.5'],
    ['1.250,50', 'de-DE', '1250.5'],
    ['1 250,50', 'fr-FR', '1250.5'],
    ['1\u202F250,50', 'fr-FR', '1250.5'],
    ['1.250,50', 'da-DK', '1250.5'],
    ['1’250.50', 'de-CH', '1250.5'],
    ['12,34,567.5', 'en-IN', '1234567.5'],
    ['-3', 'en-GB', '-3'],
    ['−3,5', 'de-DE', '-3.5'],
    ['.5', 'en-GB', '0.5'],
    ['007', 'en-GB', '7'],
    ['-0', 'en-GB', '0'],
    ['2.5', 'fr-FR', '2.5'],
    // A slip is no number: the sign for thousands stands where none belongs.
    ['1.25', 'de-DE', null],
    ['1,25', 'en-GB', null],
    ['1,2500', 'en-GB', null],
    ['1e5', 'en-GB', null],
    ['0x1f', 'en-GB', null],
    ['', 'en-GB', null],
    ['.', 'en-GB', null],
    ['1234567890123456', 'en-GB', null],
    ['0.12345678901', 'en-GB', null],
  ])('%s in %s is %s', (text, locale, numeral) => {
    expect(readNumber(text, locale)).toBe(numeral)
  })
  it('are said with the decimals of the measure, and read back', () => {
    const measure = euros('cost')
    expect(sayFigure(fixedOf('1250.005')!, measure, 'en-GB')).toBe('1,250.00 EUR')
    expect(sayFigure(fixedOf('1250.005')!, { ...measure, rounding: 'half-up' }, 'de-DE')).toBe('1.250,01 EUR')
    expect(sayFigure(fixedOf('0.195')!, euros('r', { unit: '%', decimals: 1 }), 'en-GB')).toBe('19.5 %')
    expect(sayNumber(fixedOf('-0.5')!, 'en-GB')).toBe('−0.5')
    expect(sayNumber(fixedOf('123456789012345.1234567891')!, 'en-GB')).toBe('123,456,789,012,345.1234567891')
    expect(readFigure('EUR 1,250', measure, 'en-GB')).toBe('1250')
    expect(readFigure('1.250 eur', measure, 'de-DE')).toBe('1250')
    expect(readFigure('19.5 %', euros('r', { unit: '%' }), 'en-GB')).toBe('0.195')
    expect(readFigure('12 h', euros('h', { unit: 'h' }), 'en-GB')).toBe('12')
  })
  it('have the decimals of ISO 4217, where browsers have others', () => {
    // ISO 4217, list one: HUF and AFN have two decimals; the machine’s Intl says none.
    expect([digitsOf('EUR'), digitsOf('JPY'), digitsOf('KWD'), digitsOf('HUF'), digitsOf('AFN')]).toEqual([
      2, 0, 3, 2, 2,
    ])
    expect(digitsOf('seats')).toBeNull()
    expect(measuresFor('budget', 'JPY', [], () => 'm')[0]!.decimals).toBe(0)
    for (const { id } of BEGINNINGS)
      expect(measuresFor(id, 'EUR', [euros('a', { order: 'a5' })], () => 'm').every(({ order }) => order > 'a5')).toBe(
        true,
      )
  })
})

describe('units', () => {
  it('multiply and divide, in one way of being written', () => {
    expect(unitTimes('h', 'EUR/h')).toBe('EUR')
    expect(unitPer('EUR', 'h')).toBe('EUR/h')
    expect(unitPer('EUR', 'EUR')).toBe('')
    expect(unitTimes('seats', 'h')).toBe('h·seats')
    expect(unitPower('m', 2)).toBe('m^2')
    expect(unitTimes(unitPer('', 'h'), 'h')).toBe('')
    expect([readUnit(' EUR / h '), readUnit('%'), readUnit('m²'), readUnit('seats × h')]).toEqual([
      'EUR/h',
      '',
      'm²',
      'h·seats',
    ])
    expect([readUnit('1/2/3'), readUnit('/'), readUnit('3h')]).toEqual([null, null, null])
  })
})
