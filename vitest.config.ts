import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const alias = {
  '#core': fileURLToPath(new URL('./core', import.meta.url)),
  '#demo': fileURLToPath(new URL('./demo', import.meta.url)),
  '~': fileURLToPath(new URL('./app', import.meta.url)),
}

/** What looks at the clock, or starts the whole product, runs with nothing beside it. */
const TIMED = ['tests/server/jobs.test.ts', 'tests/server/start-command.test.ts', 'tests/server/operation.test.ts']

/** What puts other modules in the place of ours. */
const APART = ['core/tree/one-entry.test.ts']

export default defineConfig({
  resolve: { alias },
  test: {
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'core',
          include: ['core/**/*.test.ts', 'demo/**/*.test.ts'],
          exclude: APART,
          setupFiles: ['tests/seed.ts'],
          testTimeout: 120_000,
          // It keeps nothing of its own between two calls, so its modules are read once and not for each file.
          isolate: false,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'core-apart',
          include: [...APART, 'app/**/*.test.ts'],
          setupFiles: ['tests/seed.ts'],
          testTimeout: 120_000,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'server',
          include: ['tests/server/**/*.test.ts'],
          exclude: TIMED,
          globalSetup: 'tests/server/start.ts',
          setupFiles: ['tests/server/why.ts'],
          testTimeout: 120_000,
          hookTimeout: 120_000,
          // They share one house, and some count what is in it.
          fileParallelism: true,
          maxWorkers: 3,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'office',
          include: ['tests/office/**/*.test.ts'],
          globalSetup: 'tests/server/start.ts',
          testTimeout: 300_000,
          hookTimeout: 120_000,
          fileParallelism: false,
          sequence: { groupOrder: 2 },
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'alone',
          include: TIMED,
          globalSetup: 'tests/server/start.ts',
          setupFiles: ['tests/server/why.ts'],
          testTimeout: 120_000,
          hookTimeout: 120_000,
          fileParallelism: false,
          maxWorkers: 1,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
})
