import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readSettings, SETTINGS } from '../../server/settings'
import { Allowance } from '../../server/live/allowance'
import { saveAs } from '../../server/files/disposition'
import { freshRecovery, stepOf } from '../../server/access/second-factor'
import { Secret } from 'otpauth'

describe('settings', () => {
  it('hold what is safe when nothing is set', () => {
    expect(readSettings({})).toMatchObject({
      DEMO: false,
      CONFIRM: true,
      TLS: false,
      TRUST_PROXY: false,
      NOTE_MB: 1,
      TOPIC_MB: 2,
      TREE_MB: 48,
      TREE_FILES_GB: 2,
      PERSON_FILES_GB: 5,
    })
    expect(readSettings({ DEMO: 'on' }).CONFIRM).toBe(false)
    expect(readSettings({ DEMO: 'on', SMTP_URL: 'smtp://localhost' }).CONFIRM).toBe(true)
    expect(readSettings({ TLS: '' }).TLS).toBe(false)
  })
  it('that are wrong are all named, in words', () => {
    expect(() =>
      readSettings({ TLS: 'yes', TREE_MB: '-1', DATABASE_URL: 'postgres://x', METRICS_TOKEN: 'short' }),
    ).toThrow(
      [
        'The setting DATABASE_URL is an address that begins with mysql: or mariadb:.',
        'The setting TLS is “on” or “off”.',
        'The setting TREE_MB is 0.1 or more.',
        'The setting METRICS_TOKEN has 16 characters or more.',
      ].join('\n'),
    )
  })
  it('stand in the handbook, each with what it means', () => {
    const handbook = readFileSync('docs/operating.md', 'utf8')
    for (const [name, schema] of Object.entries(SETTINGS.shape))
      expect(handbook).toContain(`| \`${name}\` | ${(schema as { description?: string }).description ?? 'no words'} |`)
  })
})

it('an allowance: so much at once, so much in the long run, and an end to patience', () => {
  let now = 0
  const allowance = new Allowance(3, 1, 2, () => now)
  expect([1, 2, 3, 4].map(() => allowance.spend())).toEqual(['fine', 'fine', 'fine', 'refused'])
  now = 1000
  expect([allowance.spend(), allowance.spend(), allowance.spend(), allowance.spend()]).toEqual([
    'fine',
    'refused',
    'refused',
    'cut',
  ])
  now = 60_000
  expect(allowance.spend(3)).toBe('fine')
})

it('a file name travels as RFC 6266 and RFC 8187 write it', () => {
  // The example of RFC 8187, section 3.2.2: "£ and € rates" as UTF-8.
  expect(saveAs('£ and € rates')).toBe(
    `attachment; filename="_ and _ rates"; filename*=UTF-8''%C2%A3%20and%20%E2%82%AC%20rates`,
  )
  expect(saveAs(`a"b\\c'(d)*!.txt`)).toContain(
    `filename="a_b_c'(d)*!.txt"; filename*=UTF-8''a%22b%5Cc%27%28d%29%2A%21.txt`,
  )
  expect(saveAs('half \ud83d.pdf')).toContain('half%20%EF%BF%BD.pdf')
})

describe('one-time codes', () => {
  // RFC 6238, appendix B: the secret "12345678901234567890", SHA-1. Its codes have 8 digits, of which ours are the last 6.
  const secret = Secret.fromLatin1('12345678901234567890').base32
  it.each([
    [59, '94287082'],
    [1111111109, '07081804'],
    [1111111111, '14050471'],
    [1234567890, '89005924'],
    [2000000000, '69279037'],
    [20000000000, '65353130'],
  ])('at %i s', (seconds, code) => {
    expect(stepOf(secret, code.slice(2), seconds * 1000)).toBe(Math.floor(seconds / 30))
  })
  it('count one step either way, and no more', () => {
    expect(stepOf(secret, '287082', 89_000)).toBe(1)
    expect(stepOf(secret, '287082', 120_000)).toBeNull()
  })
  it('recovery codes are ten and all different', () => {
    expect(new Set(freshRecovery()).size).toBe(10)
  })
})
