import { defineConfig } from '@playwright/test'
import { existsSync } from 'node:fs'
import { CHROMIUM, CHROMIUM_ARGS } from './scripts/chromium.mjs'

/** Debian's Chromium without a window: the same engine, which paints in three quarters of the time. */
const SHELL = '/usr/bin/chromium-headless-shell'
/** Many trials each, of keys and focus alone: nothing glides there. */
const LAWS = /focus\.spec|fast-hand\.spec/

const launchOptions = (executablePath: string) => ({
  executablePath,
  args: [
    ...CHROMIUM_ARGS,
    // Letters as wide as the font says, as in a browser with a window: the shell fits them to whole dots otherwise.
    '--font-render-hinting=none',
  ],
})

export default defineConfig({
  testDir: 'tests/interface',
  globalSetup: './tests/interface/start.ts',
  outputDir: '.data/playwright',
  timeout: 360_000,
  expect: { timeout: Number(process.env.EXPECT_MS ?? 30_000) },
  workers: 2,
  projects: [
    {
      name: 'laws',
      testMatch: LAWS,
      use: {
        launchOptions: launchOptions(existsSync(SHELL) ? SHELL : CHROMIUM),
        contextOptions: { reducedMotion: 'reduce' },
      },
    },
    {
      name: 'together',
      testIgnore: LAWS,
      grepInvert: /@alone/,
      use: { launchOptions: launchOptions(existsSync(SHELL) ? SHELL : CHROMIUM) },
    },
    // What times or kills something runs alone, after the rest.
    { name: 'alone', grep: /@alone/, dependencies: ['laws', 'together'], workers: 1 },
  ],
  retries: 0,
  use: {
    actionTimeout: 40_000,
    viewport: { width: 1280, height: 800 },
    // A service worker would answer before the tests' own answers do; the test of opening without a line lets it.
    serviceWorkers: 'block',
    locale: 'en-GB',
    timezoneId: 'Europe/Copenhagen',
    launchOptions: launchOptions(CHROMIUM),
  },
})
