import { chromium, type Page } from '@playwright/test'
import { CHROMIUM, CHROMIUM_ARGS } from '../chromium.mjs'
import { writeJson } from '../../core/formats/json'
import { planOf } from '../../core/schedule/plan'
import { applyChanges, type Change, childrenOf, type Tree } from '../../core/tree'
import { openHouse } from '../../tests/house'
import { signUp } from '../../tests/caller'
import { sampleTree } from './samples'
import { ms, print, quantile, random } from './table'

/*
 * In Chromium, on the built app: bars of a plan of some 10,000 tasks under the pointer. A bar is pulled, let go, and the rows are run through; the
 * reference is the frame that the same browser manages on an empty tree, standing still.
 */

const COUNT = 17_000

/** A tree in which every end is a task of one to five days, and most wait for one before them. */
function plannedTree(): Tree {
  const tree = sampleTree(COUNT)
  const dice = random(11)
  const ends = [...tree.topics.keys()].filter(id => childrenOf(tree, id).length === 0)
  const changes: Change[] = [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    { op: 'tree', field: 'statusDay', value: '2027-01-11' },
  ]
  ends.forEach((topic, i) => {
    changes.push({ op: 'set', topic, field: 'duration', value: 1 + Math.floor(dice() * 5) })
    const on = ends[Math.floor(dice() * i)]
    if (on && dice() < 0.7)
      changes.push({ op: 'put', topic, set: 'waits', member: { id: 'w', on, kind: 'FS', lag: 0, days: 'working' } })
  })
  applyChanges(tree, changes)
  return tree
}

const house = await openHouse()
const ines = await signUp(house.url)
const browser = await chromium.launch({ executablePath: CHROMIUM, args: [...CHROMIUM_ARGS] })
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: house.url })
const [name, value] = ines.cookie.split(/=(.*)/s)
await context.addCookies([{ name: name!, value: value!, url: house.url }])
const page = await context.newPage()
// What runs the benches names functions by a helper that a page hasn't got.
await page.addInitScript('globalThis.__name = made => made')
const tree = plannedTree()
const plan = planOf(tree, '2027-01-11')
if (typeof plan === 'string') throw new Error(plan)
const { data } = await ines.call<{ id: string }>('POST', '/api/trees/import', {
  format: 'json',
  name: 'bench.json',
  text: writeJson(tree),
})

const open = async (id: string): Promise<void> => {
  await page.goto(`/trees/${id}`)
  await page.getByRole('tree').waitFor()
}
/** Milliseconds between frames while nothing is done. */
const still = (on: Page): Promise<number[]> =>
  on.evaluate(async () => {
    const taken: number[] = []
    let last = await new Promise<number>(done => requestAnimationFrame(done))
    for (let i = 0; i < 120; i++) {
      const now = await new Promise<number>(done => requestAnimationFrame(done))
      taken.push(now - last)
      last = now
    }
    return taken
  })

await open(await ines.makeTree())
const bare = quantile(await still(page), 0.5)
await open(data.id)
await page.keyboard.press('u')
await page.keyboard.press('p')
await page.getByRole('tree', { name: 'Schedule' }).waitFor()
await page.keyboard.press('0')
await page.locator('.bars .bar').first().waitFor()
await page.waitForTimeout(3000)

/** Pulls a bar on a few pixels a frame; what each frame took, and what the frame after it was let go took. */
const pulled = await page.evaluate(async () => {
  const rows = [...document.querySelectorAll<HTMLElement>('.bars .bar')]
  const bar = rows.find(one => one.offsetWidth > 20) ?? rows[0]!
  const face = document.querySelector<HTMLElement>('.bars')!
  const { left, top, height } = bar.getBoundingClientRect()
  const send = (to: HTMLElement, type: string, x: number, buttons: number): void => {
    to.dispatchEvent(
      new PointerEvent(type, {
        ...{ pointerId: 1, clientX: x, clientY: top + height / 2, buttons, button: 0 },
        ...{ bubbles: true, cancelable: true, isPrimary: true, pointerType: 'mouse' },
      }),
    )
  }
  const frame = () => new Promise<number>(done => requestAnimationFrame(done))
  send(bar, 'pointerdown', left + 6, 1)
  const taken: number[] = []
  let last = await frame()
  for (let i = 1; i <= 120; i++) {
    send(face, 'pointermove', left + 6 + i * 2, 1)
    const now = await frame()
    taken.push(now - last)
    last = now
  }
  const words = document.querySelector('.bars')!.textContent.includes('begins ')
  const began = performance.now()
  send(face, 'pointerup', left + 246, 0)
  await frame()
  await new Promise(done => setTimeout(done))
  return { taken, words, dropped: performance.now() - began, bars: rows.length }
})
if (!pulled.words) throw new Error('no bar was pulled')
print({
  what: `pull a bar, ${plan.tasks.size.toLocaleString('en')} tasks, median frame (${pulled.bars} bars drawn)`,
  ours: ms(quantile(pulled.taken, 0.5)),
  reference: ms(bare),
  ratio: quantile(pulled.taken, 0.5) / bare,
  goal: 'a frame',
  met: quantile(pulled.taken, 0.5) <= 17.5,
})
print({
  what: 'the same, p95',
  ours: ms(quantile(pulled.taken, 0.95)),
  reference: ms(bare),
  ratio: quantile(pulled.taken, 0.95) / bare,
  goal: 'two frames',
  met: quantile(pulled.taken, 0.95) <= 34,
})
print({
  what: 'let go → painted, the plan worked out anew',
  ours: ms(pulled.dropped),
  reference: ms(bare),
  ratio: pulled.dropped / bare,
  goal: '< 100 ms',
  met: pulled.dropped < 100,
})

const run = await page.evaluate(async () => {
  const face = document.querySelector<HTMLElement>('.bars')!
  const taken: number[] = []
  const frame = () => new Promise<number>(done => requestAnimationFrame(done))
  let last = await frame()
  for (let i = 0; i < 120; i++) {
    face.scrollBy(0, 40)
    const now = await frame()
    taken.push(now - last)
    last = now
  }
  return { taken, at: face.scrollTop }
})
if (run.at < 2000) throw new Error('the rows weren’t run through')
print({
  what: 'run through the rows, median frame',
  ours: ms(quantile(run.taken, 0.5)),
  reference: ms(bare),
  ratio: quantile(run.taken, 0.5) / bare,
  goal: '60 frames a second',
  met: quantile(run.taken, 0.5) <= 17.5,
})
await browser.close()
await house.close()
