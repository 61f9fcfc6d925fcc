/* Runs every check on a machine that may have nothing but Node, npm and apt. Ends with one line: N passed, N failed. */
import { spawn } from 'node:child_process'
import { existsSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { needBuild, needModules, needPackages, root, say } from './machine.mjs'

const only = process.argv[2]
const began = Date.now()
let passed = 0
let failed = 0
/** What failed, by name: said once more at the end, where somebody looks first. */
const failures = []
function fails(name, times = 1) {
  failed += times
  failures.push(name)
}

function show(command, args, env = {}) {
  return new Promise(done => {
    const child = spawn(command, args, {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, FORCE_COLOR: '0', ...env },
    })
    child.on('exit', code => done(code ?? 1))
  })
}

/** A step that passes or fails as a whole. */
async function step(name, command, args) {
  say(`\n── ${name}`)
  const code = await show(command, args)
  if (code === 0) passed++
  else fails(name)
  say(`${name}: ${code === 0 ? 'passed' : 'FAILED'}`)
}

/** Each test's name and how long it took, in ms, from a report of either runner. */
const took = []
function timesIn(report) {
  if (report.testResults)
    return report.testResults.flatMap(file =>
      file.assertionResults.map(({ fullName, duration }) => ({ name: fullName, ms: duration ?? 0 })),
    )
  const times = []
  const walk = suite => {
    for (const spec of suite.specs ?? [])
      times.push({
        name: `${spec.file}: ${spec.title}`,
        ms: spec.tests.reduce((sum, test) => sum + test.results.reduce((all, result) => all + result.duration, 0), 0),
      })
    for (const inner of suite.suites ?? []) walk(inner)
  }
  report.suites.forEach(walk)
  return times
}

/** The first lines of why, without colours: where only the end of a run is kept, they are all that tells. */
const why = message =>
  `${message ?? ''}`
    // eslint-disable-next-line no-control-regex -- the runners colour their words with it
    .replace(/\u001B\[[\d;]*m/g, '')
    .split('\n')
    .filter(line => line.trim())
    .slice(0, 6)
    .map(line => `\n        ${line.slice(0, 700)}`)
    .join('')

/** The names of what failed and why, from a report of either runner. */
function failedIn(report) {
  if (report.testResults)
    return report.testResults.flatMap(file => {
      const names = file.assertionResults
        .filter(({ status }) => status === 'failed')
        .map(({ fullName, failureMessages }) => `${fullName}${why(failureMessages?.[0])}`)
      return names.length > 0 || file.status !== 'failed' ? names : [`${file.name}: ${file.message.slice(0, 300)}`]
    })
  const names = []
  const walk = suite => {
    for (const spec of suite.specs ?? [])
      if (!spec.ok) {
        const results = spec.tests.flatMap(test => test.results)
        names.push(`${spec.file}: ${spec.title}${why(results.find(({ error }) => error)?.error.message)}`)
      }
    for (const inner of suite.suites ?? []) walk(inner)
  }
  report.suites.forEach(walk)
  return names
}

function count(report, ofFile) {
  const path = join(root, report)
  if (!existsSync(path)) {
    fails(`${report} was not written: the run ended early.`)
    return
  }
  const read = JSON.parse(readFileSync(path, 'utf8'))
  took.push(...timesIn(read))
  failures.push(...failedIn(read))
  const [good, bad] = ofFile(read)
  passed += good
  failed += bad
  rmSync(path)
}

async function vitest(project) {
  say(`\n── Tests: ${project}`)
  const report = `.data/vitest-${project.replace('*', '')}.json`
  const code = await show(
    'npx',
    ['vitest', 'run', '--project', project, '--reporter=default', '--reporter=json', `--outputFile.json=${report}`],
    { LAW_SEED: '2027' },
  )
  const before = failed
  count(report, ({ numPassedTests, numFailedTests, numTotalTestSuites, numFailedTestSuites }) => [
    numPassedTests,
    numFailedTests +
      (numFailedTests === 0 && numFailedTestSuites > 0 ? numFailedTestSuites : 0) +
      (numTotalTestSuites === 0 ? 1 : 0),
  ])
  if (code !== 0 && failed === before) fails(`Tests: ${project} ended with code ${code}`)
}

async function playwright() {
  say('\n── Tests: interface')
  const report = '.data/playwright.json'
  const code = await show('npx', ['playwright', 'test', '--reporter=list,json'], {
    PLAYWRIGHT_JSON_OUTPUT_FILE: report,
  })
  const before = failed
  count(report, ({ stats }) => [stats.expected + stats.flaky, stats.unexpected])
  if (code !== 0 && failed === before) fails(`Tests: interface ended with code ${code}`)
}

await needPackages({ mariadbd: 'mariadb-server', chromium: 'chromium', pdftotext: 'poppler-utils' })
// Quicker for what is tried a thousand times; where it can't be had, the laws run in Chromium itself.
await needPackages({ 'chromium-headless-shell': 'chromium-headless-shell' }, false)
// What the programs of an office make of our files: asked for, since they are large.
const office = process.env.OFFICE === '1' && (!only || only === 'office')
if (office)
  await needPackages({
    '/usr/lib/libreoffice/share/registry/writer.xcd': 'libreoffice-writer-nogui',
    '/usr/lib/libreoffice/share/registry/calc.xcd': 'libreoffice-calc-nogui',
    '/usr/lib/libreoffice/share/registry/impress.xcd': 'libreoffice-impress-nogui',
    qpdf: 'qpdf',
    unzip: 'unzip',
    '/usr/lib/python3/dist-packages/docx': 'python3-docx',
  })
await needModules()
if (only !== 'core') await needBuild()
// Lint and types use one processor; the core's tests and what is quickly looked through run beside them on the other.
await Promise.all([
  only
    ? null
    : (async () => {
        await step('Lint', 'npx', ['eslint', '.', '--max-warnings=0'])
        await step('Types', 'npx', ['nuxt', 'typecheck'])
        await step('Types of tests', 'npx', ['vue-tsc', '--noEmit', '-p', 'tests/tsconfig.json'])
      })(),
  (async () => {
    if (!only || only === 'core') await vitest('core*')
    if (only) return
    await step('Format', 'npx', ['prettier', '--check', '.', '--log-level', 'warn'])
    await step('Nothing unused, nothing undeclared', 'npx', ['knip'])
  })(),
])
if (!only || only === 'server') {
  await vitest('server')
  await vitest('alone')
}
if (office) await vitest('office')
if (!only || only === 'interface') await playwright()
say('\nThe ten slowest:')
for (const { name, ms } of took.sort((a, b) => b.ms - a.ms).slice(0, 10))
  say(`${(ms / 1000).toFixed(1).padStart(7)} s  ${name.slice(0, 150)}`)
say(`\nTook ${Math.round((Date.now() - began) / 1000)} s.`)
for (const name of failures) say(`FAILED  ${name}`)
say(`${passed} passed, ${failed} failed`)
process.exit(failed === 0 ? 0 : 1)
