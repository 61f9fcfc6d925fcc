/*
 * Runs the benches. Each prints ratios against a reference measured in the same run. Name one to run it alone: npm run
 * bench arrange
 */
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { needBuild, needModules, needPackages, root, say } from './machine.mjs'

/** `soak` takes an hour, `fuzz` longer, `full-disk` root: by name only. */
const ALL = [
  'arrange',
  'find',
  'compare',
  'rate',
  'live',
  'flood',
  'canvas',
  'bars',
  'substance',
  'talk',
  'history',
  'endure',
  'hand-out',
  'guest',
  'plan',
  'figures',
  'sheet',
]
const chosen = process.argv.slice(2).length > 0 ? process.argv.slice(2) : ALL
await needPackages({ mariadbd: 'mariadb-server', chromium: 'chromium' })
await needModules()
if (chosen.some(name => !['arrange', 'find', 'compare', 'plan', 'figures'].includes(name))) await needBuild()
for (const name of chosen) {
  say(`\n── ${name}`)
  const code = await new Promise(done => {
    spawn(
      'npx',
      ['tsx', '--tsconfig', join(root, 'scripts/bench/tsconfig.json'), join(root, `scripts/bench/${name}.ts`)],
      { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] },
    ).on('exit', done)
  })
  if (code !== 0) say(`${name} ended with code ${code}`)
}
