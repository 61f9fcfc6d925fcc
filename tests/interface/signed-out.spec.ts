import type { Page } from '@playwright/test'
import { bringIn, Caller } from '../caller'
import { expect, expectTitles, houseUrl, openTree, test, topic, visitor } from './porch'

const PASSWORD = 'a long enough one'
const notice = (page: Page) => page.getByRole('status').filter({ hasText: /has signed in|been signed out/ })

/** Another device of somebody. */
async function elsewhere(email: string): Promise<Caller> {
  const caller = new Caller(houseUrl())
  await caller.call('POST', '/api/sign-in', { email, password: PASSWORD })
  return caller
}

async function signIn(page: Page, email: string): Promise<void> {
  await page.getByRole('textbox', { name: 'Mail address' }).fill(email)
  await page.getByRole('textbox', { name: 'Password' }).fill(PASSWORD)
  await page.keyboard.press('Enter')
}

test('who is signed out elsewhere is told, goes on typing, signs in again where they were, and loses nothing', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await page.keyboard.press('Tab')
  await page.keyboard.type('Li')
  await (await elsewhere(caller.email)).call('POST', '/api/sign-out-everywhere')
  await expect(notice(page)).toContainText('You have been signed out. What you change in a tree waits here')
  // The keys are where they were: the notice takes none.
  await page.keyboard.type('ft')
  await page.keyboard.press('Enter')
  await page.keyboard.type('Shelves')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(page.getByText('signed out, 2 edits waiting')).toBeVisible()
  await notice(page).getByRole('button', { name: 'Sign in again' }).click()
  await expect(page).toHaveURL(new RegExp(`/sign-in\\?then=/trees/${id}`))
  await expect(notice(page)).toBeHidden()
  await signIn(page, caller.email)
  await expect(page).toHaveURL(new RegExp(`/trees/${id}$`))
  await expect(topic(page, 'Shelves')).toBeVisible()
  await expectTitles(await elsewhere(caller.email), id, ['Lift', 'Shelves'])
  await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible()
  await expect(notice(page)).toBeHidden()
})

test('a page without a tree hears of it from what it asks, and every way leads to the sign-in and back', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  await page.goto('/work')
  await expect(page.getByRole('navigation', { name: 'Main' })).toBeVisible()
  const device = await elsewhere(caller.email)
  await device.call('POST', '/api/sign-out-everywhere')
  await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: 'Meetings' }).click()
  await expect(notice(page)).toBeVisible()
  await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: 'Letterbox' }).click()
  await expect(page).toHaveURL(/\/sign-in\?then=\/letterbox$/)
  await signIn(page, caller.email)
  await expect(page).toHaveURL(/\/letterbox$/)
  await expect(notice(page)).toBeHidden()
  await page.waitForLoadState('networkidle')
  // Signed in again beside it: the page goes on without a word more.
  await (await elsewhere(caller.email)).call('POST', '/api/sign-out-everywhere')
  await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: 'News' }).click()
  await expect(notice(page)).toBeVisible()
  const beside = await page.context().newPage()
  await beside.goto('/')
  await signIn(beside, caller.email)
  await expect(beside.getByRole('navigation', { name: 'Main' })).toBeVisible()
  await expect(notice(page)).toBeHidden()
})

test('what waits in a page is never sent as somebody else who signs in beside it', async ({ browser }) => {
  const ines = await visitor(browser)
  const rana = await visitor(browser, 'Rana Tahiri')
  const id = await ines.caller.makeTree('Move')
  await bringIn(ines.caller, id, rana.caller, 'editor')
  const { page, context } = ines
  await openTree(page, id)
  const as = (email: string) => context.request.post('/api/sign-in', { data: { email, password: PASSWORD } })
  expect((await as(rana.caller.email)).ok()).toBe(true)
  await expect(notice(page)).toContainText('Somebody else has signed in in this browser.')
  await page.keyboard.press('Tab')
  await page.keyboard.type('What Ines adds')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(page.getByText(/1 edit waiting/)).toBeVisible()
  // A line is tried again and again meanwhile; and again at once, as when the network comes back.
  const refused = page.waitForEvent('console', message => message.text().includes('/live'))
  await page.evaluate(() => window.dispatchEvent(new Event('online')))
  await refused
  await expectTitles(rana.caller, id, [])
  await notice(page).getByRole('button', { name: 'Go on as them' }).click()
  await expect(page.getByRole('button', { name: 'Rana Tahiri: account' })).toBeVisible()
  await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible()
  await expect(topic(page, 'Move')).toBeVisible()
  await expect(topic(page, 'What Ines adds')).toHaveCount(0)
  // She is back: it goes out as hers.
  expect((await as(ines.caller.email)).ok()).toBe(true)
  await page.reload()
  await expectTitles(rana.caller, id, ['What Ines adds'])
  const { data } = await rana.caller.call<{ edits: { user: string }[] }>('GET', `/api/trees/${id}/edits`)
  expect(data.edits.at(-1)!.user).toBe(ines.caller.id)
})

test('who loses their role while there is no line is told when it comes back, not left offline for ever', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const rana = await visitor(browser, 'Rana Tahiri')
  const id = await ines.caller.makeTree('Move')
  await bringIn(ines.caller, id, rana.caller, 'editor')
  await openTree(rana.page, id)
  await rana.context.setOffline(true)
  await expect(rana.page.getByText('offline')).toBeVisible()
  await ines.caller.call('DELETE', `/api/trees/${id}/members/${rana.caller.id}`)
  await rana.context.setOffline(false)
  await expect(rana.page.getByRole('status').filter({ hasText: 'or you have no role in it' })).toBeVisible()
  await rana.page.getByRole('tree').focus()
  await rana.page.keyboard.press('Tab')
  await expect(rana.page.getByRole('treeitem')).toHaveCount(1)
})

test('who owns a tree that was thrown away while there was no line is told so, too', async ({ browser }) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  await openTree(ines.page, id)
  await ines.context.setOffline(true)
  await expect(ines.page.getByText('offline')).toBeVisible()
  await ines.caller.call('DELETE', `/api/trees/${id}`)
  await ines.context.setOffline(false)
  const said = ines.page.getByRole('status').filter({ hasText: 'This tree has been moved to the trash.' })
  await expect(said).toBeVisible()
  // Brought back, it's opened as ever.
  await ines.caller.call('POST', `/api/trees/${id}/restore`)
  await openTree(ines.page, id)
  await expect(said).toBeHidden()
})

test('who signs out without a line is told that they aren’t signed out', async ({ browser }) => {
  const { page, context } = await visitor(browser)
  await page.goto('/')
  await expect(page.getByRole('navigation', { name: 'Main' })).toBeVisible()
  await context.setOffline(true)
  const out = async (): Promise<void> => {
    await page.getByRole('button', { name: /: account/ }).click()
    await page.getByRole('menuitem', { name: 'Sign out', exact: true }).click()
  }
  await out()
  await expect(page.getByText('You aren’t signed out. There is no line to the server just now.')).toBeVisible()
  await context.setOffline(false)
  await out()
  await expect(page).toHaveURL(/\/sign-in$/)
})
