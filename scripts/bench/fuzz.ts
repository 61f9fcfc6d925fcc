import { spawnSync } from 'node:child_process'
import { root } from '../machine.mjs'

/* The fuzzed requests and messages of the tests, FUZZ (10,000) of each instead of 200. */

const { status } = spawnSync(
  'npx',
  ['vitest', 'run', '--project', 'server', 'tests/server/fuzz.test.ts', '--testTimeout=7200000'],
  { cwd: root, stdio: 'inherit', env: { ...process.env, FUZZ: process.env.FUZZ ?? '10000' } },
)
process.exitCode = status ?? 1
