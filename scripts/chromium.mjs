/* How Debian's Chromium is started, for tests, benches and pictures alike. */

export const CHROMIUM = '/usr/bin/chromium'
/** It looks nothing up outside, and paints without a graphics card. */
export const CHROMIUM_ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]
