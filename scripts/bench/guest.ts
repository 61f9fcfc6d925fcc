import { chromium } from '@playwright/test'
import { CHROMIUM, CHROMIUM_ARGS } from '../chromium.mjs'
import { writeJson } from '../../core/formats/json'
import { openHouse } from '../../tests/house'
import { signUp } from '../../tests/caller'
import { sampleTree } from './samples'
import { ms, print, quantile } from './table'

/*
 * In Chromium, on the built app: how long a guest who has a link waits for the first of the tree, and for all of the page, against a
 * member who opens the same tree, each in a browser that has met neither.
 */

/** How often each is opened: the middle counts. */
const TIMES = 5
const house = await openHouse()
const ines = await signUp(house.url)
const browser = await chromium.launch({ executablePath: CHROMIUM, args: [...CHROMIUM_ARGS] })
const [name, value] = ines.cookie.split(/=(.*)/s)

/** ms from asking until the first plank is drawn, and until the page has all it asked for. */
async function open(address: string, first: string, member: boolean): Promise<{ first: number; all: number }> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: house.url })
  if (member) await context.addCookies([{ name: name!, value: value!, url: house.url }])
  const page = await context.newPage()
  // Seen from within, in the frame in which it's drawn: asked from without, the answer waits for all that is read after it.
  await page.addInitScript(
    `(function look() { document.querySelector('${first}') ? (window.seen = performance.now()) : requestAnimationFrame(look) })()`,
  )
  await page.goto(address)
  await page.waitForFunction(() => 'seen' in window)
  const [seen, all] = await page.evaluate(
    () =>
      [
        (window as unknown as { seen: number }).seen,
        (performance.getEntriesByType('navigation')[0] as PerformanceNavigationTiming).loadEventEnd,
      ] as const,
  )
  await context.close()
  return { first: seen, all }
}

for (const count of [1000, 10_000]) {
  const { data } = await ines.call<{ id: string }>('POST', '/api/trees/import', {
    format: 'json',
    name: 'bench.json',
    text: writeJson(sampleTree(count)),
  })
  const { data: link } = await ines.call<{ address: string }>('POST', `/api/trees/${data.id}/links`, {
    part: { kind: 'tree' },
    with: ['notes', 'tasks'],
  })
  const [guests, members] = [[], []] as { first: number; all: number }[][]
  for (let i = 0; i < TIMES; i++) {
    guests!.push(await open(link.address, 'svg.drawn :is(text, use)', false))
    members!.push(await open(`/trees/${data.id}`, '[role=treeitem]', true))
  }
  const middle = (from: readonly { first: number; all: number }[], what: 'first' | 'all'): number =>
    quantile(
      from.map(one => one[what]),
      0.5,
    )
  for (const [what, ours] of [
    ['the first of', middle(guests!, 'first')],
    ['all of', middle(guests!, 'all')],
  ] as const) {
    const reference = middle(members!, 'first')
    print({
      what: `a guest sees ${what} a tree of ${count.toLocaleString('en')}`,
      ours: ms(ours),
      reference: `${ms(reference)} to a member’s first planks`,
      ratio: ours / reference,
      goal: what === 'the first of' ? 'as quick as a member' : 'told',
      met: what !== 'the first of' || ours <= reference,
    })
  }
}
await browser.close()
await house.close()
