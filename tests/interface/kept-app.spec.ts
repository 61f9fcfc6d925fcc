import type { ThreadPage } from '#core/contract'
import { bodyOf } from '../../core/talk/body'
import { BENCH, type Place } from '../../core/talk/saying'
import { Caller, newId } from '../caller'
import { Proxy } from '../proxy'
import { expect, houseUrl, openTree, pour, test, topic, tree, visitor, type Visitor } from './porch'
import type { Browser } from '@playwright/test'

async function behindProxy(browser: Browser): Promise<Visitor & { proxy: Proxy }> {
  const proxy = await Proxy.before(houseUrl())
  const guest = await visitor(browser, 'Ines Brandt', { serviceWorkers: 'allow' }, proxy.url)
  return { ...guest, proxy }
}

const keptApp = (page: Visitor['page']) =>
  expect
    .poll(
      () =>
        page.evaluate(async () => {
          const registration = await navigator.serviceWorker.getRegistration()
          return registration?.active?.state === 'activated' && navigator.serviceWorker.controller !== null
        }),
      { timeout: 60_000 },
    )
    .toBe(true)

test('a closed tab opens again without a line: the app, the tree, and what is typed goes out later', async ({
  browser,
}) => {
  const { page, context, caller, proxy } = await behindProxy(browser)
  const id = await caller.makeTree('Reading room')
  await openTree(page, id)
  await pour(page, ['Lamps', 'Chairs'])
  const lamps = (await caller.open(id)).snapshot.topics.find(({ title }) => title === 'Lamps')!.id
  const [thread, line] = [newId(), newId()]
  const says = (place: Place, comment: string, in_: string, words: string) =>
    caller.call('POST', `/api/trees/${id}/talk`, {
      ...{ id: newId(), op: 'say', comment, thread: in_, place, body: bodyOf(words) },
    })
  await says({ on: 'topic', topic: lamps }, thread, thread, 'Two of them flicker')
  await says({ on: 'tree' }, line, BENCH, 'Who brings the ladder?')
  await expect(topic(page, /^Lamps, has a comment/)).toBeVisible()
  await page.keyboard.press('u')
  await page.keyboard.press('t')
  await expect(page.getByText('Who brings the ladder?')).toBeVisible()
  await page.keyboard.press('Escape')
  // What was read of the talk is kept soon after.
  await page.waitForTimeout(2500)
  await keptApp(page)
  await page.close()
  // The house is away: a proxy says so for one tab, and nobody answers the next.
  proxy.away = true
  const again = await context.newPage()
  await again.goto(`/trees/${id}`)
  await expect(tree(again)).toBeVisible()
  await expect(topic(again, 'Lamps')).toBeVisible()
  await again.close()
  await context.setOffline(true)
  const third = await context.newPage()
  await third.goto('/trees')
  await expect(third.getByRole('alert')).toContainText('no line to the server')
  await third.getByRole('region', { name: 'Kept in this browser' }).getByRole('link', { name: 'Reading room' }).click()
  await expect(topic(third, 'Chairs')).toBeVisible()
  // What was said can be read, looked for and answered; the answer waits.
  await topic(third, /^Lamps, has a comment/).click()
  const part = third.locator('[data-part="comment"]')
  await expect(part.getByRole('article')).toContainText('Two of them flicker')
  await expect(part.getByRole('alert')).toHaveCount(0)
  await part.getByRole('button', { name: 'Answer' }).click()
  await third.keyboard.type('I have spare ones')
  await third.keyboard.press('Enter')
  await expect(part).toContainText('waits')
  await topic(third, 'Chairs').click()
  await third.keyboard.press('u')
  await third.keyboard.press('t')
  await expect(third.getByText('Who brings the ladder?')).toBeVisible()
  await third.keyboard.press('Escape')
  await third.keyboard.press('u')
  await third.keyboard.press('l')
  await third.getByRole('textbox', { name: 'Find in comments' }).fill('FLICKER')
  await expect(third.getByRole('article').filter({ hasText: 'Two of them flicker' })).toHaveCount(1)
  await third.keyboard.press('Escape')
  await topic(third, 'Chairs').click()
  await third.keyboard.press('Enter')
  await third.keyboard.type('Curtains')
  await third.keyboard.press('Enter')
  await third.keyboard.press('Escape')
  await expect(third.getByRole('status').filter({ hasText: /^offline, \d edits? waiting$/ })).toBeVisible()
  proxy.away = false
  await context.setOffline(false)
  const straight = new Caller(houseUrl())
  straight.cookie = caller.cookie
  await expect
    .poll(async () => (await straight.call<string>('GET', `/api/trees/${id}/export/text`)).data)
    .toContain('Curtains')
  await expect
    .poll(async () => (await straight.call<ThreadPage>('GET', `/api/trees/${id}/talk/threads?thread=${thread}`)).data)
    .toMatchObject({ threads: [{ comments: [{}, { body: bodyOf('I have spare ones') }] }] })
  await context.close()
  proxy.close()
})

test('a newer version is announced and comes when it’s taken up, never under typing', async ({ browser }) => {
  const { page, context, caller, proxy } = await behindProxy(browser)
  const id = await caller.makeTree('Reading room')
  await openTree(page, id)
  await keptApp(page)
  proxy.newer = '\n// a newer one\n'
  await pour(page, ['Lamps'])
  await topic(page, 'Lamps').click()
  await page.keyboard.press('F2')
  await page.keyboard.type('Reading la')
  await page.evaluate(() => {
    Object.assign(window, { here: true })
  })
  await page.evaluate(async () => (await navigator.serviceWorker.getRegistration())!.update())
  const said = page.getByRole('status').filter({ hasText: 'A newer Sun Porch is ready' })
  await expect(said).toBeVisible()
  await page.keyboard.type('mps')
  await page.keyboard.press('Enter')
  await expect(topic(page, 'Reading lamps')).toBeVisible()
  expect(await page.evaluate(() => 'here' in window)).toBe(true)
  await said.getByRole('button', { name: 'Take it up now' }).click()
  await expect.poll(() => page.evaluate(() => 'here' in window).catch(() => true)).toBe(false)
  await expect(topic(page, 'Reading lamps')).toBeVisible()
  await context.close()
  proxy.close()
})
