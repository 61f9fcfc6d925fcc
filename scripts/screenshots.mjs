/* Takes one picture of each main view from the demo data into docs/screenshots/. */
import { spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { CHROMIUM, CHROMIUM_ARGS } from './chromium.mjs'
import { freePort, needBuild, needModules, needPackages, root, say, startDatabase } from './machine.mjs'

await needPackages({ mariadbd: 'mariadb-server', chromium: 'chromium' })
await needModules()
await needBuild()
const { chromium } = await import('@playwright/test')
const folder = mkdtempSync(join(tmpdir(), 'sun-porch-shots-'))
const out = join(root, 'docs', 'screenshots')
mkdirSync(out, { recursive: true })
const database = await startDatabase(folder, await freePort())
const port = await freePort()
const url = `http://127.0.0.1:${port}`
const app = spawn(process.execPath, [join(root, '.output', 'server', 'index.mjs')], {
  env: {
    ...process.env,
    NODE_ENV: 'production',
    HOST: '127.0.0.1',
    PORT: String(port),
    NUXT_DATABASE_URL: database.url,
    NUXT_DEMO: 'on',
    NUXT_SESSION_PASSWORD: 'only for pictures, and long enough for them',
  },
  stdio: 'ignore',
})
for (
  let i = 0;
  i < 200 &&
  !(await fetch(`${url}/api/ready`).then(
    response => response.ok,
    () => false,
  ));
  i++
)
  await new Promise(done => setTimeout(done, 100))
await new Promise(done => setTimeout(done, 2500))

const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_ARGS })

async function visit(who, options = {}) {
  const context = await browser.newContext({
    baseURL: url,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    reducedMotion: 'reduce',
    ...options,
  })
  const page = await context.newPage()
  await page.goto('/sign-in')
  await page.getByLabel('Mail address').fill(`${who}@porch.example`)
  await page.getByLabel('Password').fill('tannery porch 2027')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByRole('heading', { name: 'Mine to do' }).waitFor()
  return page
}
async function openMove(page) {
  await page.goto('/trees')
  await page.getByRole('link', { name: /Move to the tannery/ }).click()
  await page.getByRole('tree').waitFor()
  await page
    .getByRole('status')
    .filter({ hasText: /^saved$/ })
    .waitFor()
  await page.waitForTimeout(600)
}
/** The move beside a copy in which somebody has worked, and been worked on meanwhile. */
async function besideCopy(page) {
  const tree = /trees\/([\w-]+)/.exec(page.url())[1]
  const ask = async (path, data) => {
    const answer = await page.request.fetch(`/api/trees/${path}`, data ? { method: 'POST', data } : {})
    return answer.json()
  }
  const { id } = await ask(`${tree}/duplicate`, {
    ...{ notes: true, people: true, dates: true, progress: true, shift: 0 },
    title: 'The move, as the removal firm sees it',
  })
  const { topics } = (await ask(tree)).snapshot
  const of = title => topics.find(one => one.title === title).id
  const edit = (where, n, changes) => ask(`${where}/edits`, { id: `picture-${n}`, changes })
  await edit(id, 1, [
    { op: 'set', topic: of('Window seats, 12 metres'), field: 'title', value: 'Window seats, 12 metres, by crane' },
    { op: 'set', topic: of('Curtains to the river'), field: 'due', value: '2027-01-29' },
    { op: 'add', topic: 'lorry', parent: of('Books'), order: 'b0V', with: { title: 'A second lorry on Thursday' } },
    { op: 'place', topic: of('Big table from the old branch'), parent: of('Books'), order: 'b0W' },
    { op: 'put', topic: of('Crates'), set: 'markers', member: 'risk' },
  ])
  await edit(tree, 2, [
    { op: 'set', topic: of('Window seats, 12 metres'), field: 'title', value: 'Window seats, 14 metres' },
    { op: 'add', topic: 'keys', parent: of('Fit-out'), order: 'b0V', with: { title: 'Keys for the yard' } },
  ])
  await page.goto(`/trees/${tree}/compare?with=${id}`)
  await page.getByRole('button', { name: /^Take over/ }).waitFor()
}
async function shot(page, name) {
  await page.evaluate(() => document.fonts.ready)
  await page.waitForTimeout(500)
  await page.screenshot({ path: join(out, `${name}.png`) })
  say(`docs/screenshots/${name}.png`)
}

try {
  const ines = await visit('ines')
  await shot(ines, 'home')
  await ines.goto('/work')
  await ines.getByRole('treeitem').first().waitFor()
  await shot(ines, 'work')
  const rana = await visit('rana')
  await openMove(rana)
  await rana.getByRole('treeitem', { name: /^Crates/ }).click()
  await openMove(ines)
  await ines.getByRole('treeitem', { name: /^Reading room/ }).click({ position: { x: 8, y: 8 } })
  await shot(ines, 'canvas')
  await ines.keyboard.press('Space')
  await ines.getByRole('dialog', { name: 'What hangs on Reading room' }).waitFor()
  await shot(ines, 'substance')
  await ines.keyboard.press('Escape')
  await openMove(ines)
  await ines.keyboard.press('u')
  await ines.keyboard.press('f')
  const strip = ines.getByRole('region', { name: 'Presenting' })
  await strip.getByRole('button', { name: '3. Shelving' }).click()
  await strip.getByText('3 of').waitFor()
  await shot(ines, 'presenting')
  await strip.getByRole('button', { name: 'End' }).click()
  await openMove(ines)

  await ines.getByRole('treeitem', { name: /^Reading room/ }).click({ position: { x: 8, y: 8 } })
  await ines.keyboard.press('u')
  await ines.keyboard.press('t')
  await ines.getByRole('complementary', { name: 'Talk of the tree' }).getByRole('article').first().waitFor()
  await shot(ines, 'talk')
  await ines.keyboard.press('Escape')
  await ines.keyboard.press('Escape')

  await ines.getByRole('tab', { name: 'Schedule' }).click()
  await ines.getByRole('tree', { name: 'Schedule' }).waitFor()
  await ines.keyboard.press('0')
  await ines.keyboard.press('b')
  await shot(ines, 'schedule')
  await ines.getByRole('tab', { name: 'Calendar' }).click()
  await ines.getByRole('tree', { name: 'Calendar' }).waitFor()
  await shot(ines, 'calendar')
  await ines.getByRole('tab', { name: 'Board' }).click()
  await ines.getByRole('combobox', { name: 'Columns by' }).selectOption('person')
  await ines.getByRole('checkbox', { name: 'a row for each branch' }).check()
  await ines
    .getByRole('tree', { name: 'Board' })
    .getByRole('treeitem')
    .nth(1)
    .click({ position: { x: 60, y: 10 } })
  await shot(ines, 'board')
  await ines.getByRole('tab', { name: 'Figures' }).click()
  await ines.getByRole('row', { name: /Fit-out/ }).waitFor()
  await ines.getByRole('button', { name: 'Of parent' }).click()
  await ines.getByRole('button', { name: 'Against target' }).click()
  await ines.getByRole('row', { name: /Lamps/ }).getByRole('gridcell').first().click()
  await shot(ines, 'figures')
  await ines.getByRole('tab', { name: 'Outline' }).click()
  await shot(ines, 'outline')

  await ines.goto('/meetings')
  await ines.getByRole('link', { name: /Meeting 3/ }).click()
  await ines.getByRole('heading', { name: 'Who must be there' }).waitFor()
  await ines.waitForTimeout(1200)
  await shot(ines, 'brief')
  await ines.getByRole('button', { name: 'Begin', exact: true }).click()
  await ines.getByRole('group', { name: 'Capture' }).waitFor()
  const note = async (key, line) => {
    await ines.keyboard.press(key)
    await ines.keyboard.type(line)
    await ines.keyboard.press('Enter')
    await ines.keyboard.press('Escape')
  }
  const on = async title => {
    await ines.keyboard.press('PageDown')
    await ines.locator('[aria-current="step"]').filter({ hasText: title }).waitFor()
  }
  await ines.getByRole('button', { name: 'Rana Tahiri: not noted' }).click()
  await ines.getByRole('button', { name: 'Oskar Moreau: not noted' }).click()
  await ines.getByRole('button', { name: 'Ines Brandt: not noted' }).click()
  await on('Shelving is late')
  await note('a', 'Confirm the order of the oak // Ines, fri')
  await on('Two offers')
  await note('d', 'Two Rivers moves us, in five days')
  await note('a', 'Sign the offer // Oskar, mon')
  await note('q', 'Do they bring the crates up to the loft?')
  await ines.keyboard.press('a')
  await ines.keyboard.type('Reserve the yard from seven // Rana, in 2 weeks')
  await shot(ines, 'meeting')
  await ines.keyboard.press('Enter')
  await ines.keyboard.press('Escape')
  await ines.getByRole('button', { name: 'End the meeting' }).click()
  // What is open is asked first.
  await ines.getByRole('dialog', { name: 'Before it ends' }).waitFor()
  await ines.keyboard.press('Enter')
  await ines.getByRole('heading', { name: 'Give it out' }).waitFor()
  await shot(ines, 'minutes')

  // The meeting has left its edits behind: a board, and what was done in words.
  await ines.goto('/trees')
  await ines.getByRole('link', { name: /Coordination meetings/ }).click()
  await ines.getByRole('tree').waitFor()
  await ines.getByRole('button', { name: 'History' }).click()
  await ines.getByRole('slider', { name: 'Moment' }).waitFor()
  for (let back = 0; back < 3; back++) await ines.keyboard.press('ArrowLeft')
  await ines.waitForTimeout(500)
  await shot(ines, 'history')

  await openMove(ines)
  await besideCopy(ines)
  await shot(ines, 'compare')
  await openMove(ines)

  const dusk = await visit('oskar', { colorScheme: 'dark' })
  await openMove(dusk)
  await dusk.getByRole('treeitem', { name: /^Sort before packing/ }).click({ position: { x: 8, y: 8 } })
  await shot(dusk, 'dusk')
  await dusk.getByRole('button', { name: 'Hand out' }).click()
  await dusk.getByRole('combobox', { name: 'As what' }).selectOption('png')
  await dusk.getByRole('img', { name: 'The picture as it will be' }).waitFor()
  await shot(dusk, 'hand-out')

  const narrow = await visit('lev', { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })
  await openMove(narrow)
  await shot(narrow, 'narrow')
} finally {
  await browser.close()
  app.kill('SIGTERM')
  await database.stop()
  rmSync(folder, { recursive: true, force: true })
}
