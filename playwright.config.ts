import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: 'tests/interface',
  globalSetup: './tests/interface/start.ts',
  outputDir: '.data/playwright',
  timeout: 360_000,
  expect: { timeout: Number(process.env.EXPECT_MS ?? 30_000) },
  // What times or kills something runs alone, after the rest.
  workers: 2,
  projects: [
    { name: 'together', grepInvert: /@alone/ },
    { name: 'alone', grep: /@alone/, dependencies: ['together'], workers: 1 },
  ],
  retries: 0,
  use: {
    actionTimeout: 40_000,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/Copenhagen',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
