import { expect, openTree, pasteText, test, topic, two, visitor } from './porch'
import type { Page } from '@playwright/test'

/* Being told: one place, the same on every device. */

const rail = (page: Page) => page.getByRole('navigation', { name: 'Main' })
const sheet = (page: Page) => page.getByRole('complementary', { name: 'About the selection' })
const list = (page: Page) => page.getByRole('region', { name: 'What I was told' })
const comments = (page: Page) => page.getByRole('complementary', { name: 'About the selection' }).locator('.comments')

test('a mention is told wherever one is, leads to the comment, and is read on all devices once it’s seen', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await pasteText(ines.page, { 'text/plain': 'Lift' })
  await rana.page.goto('/news')
  // The invitation that she took up.
  await rana.page.getByRole('button', { name: 'I have read all of it' }).click()
  await expect(rana.page.getByText('You have read all of it.')).toBeVisible()
  const second = await rana.context.newPage()
  await openTree(second, id)
  // A fast hand: the comment, her name by two letters, the rest.
  await topic(ines.page, 'Lift').click()
  await ines.page.keyboard.press('u')
  await ines.page.keyboard.press('c')
  await ines.page.keyboard.type('Is it wide enough, @Ra')
  await ines.page.keyboard.press('Enter')
  await ines.page.keyboard.type('?')
  await ines.page.keyboard.press('Enter')
  // In the open tree at once, and where it’s asked for now and then.
  await expect(rail(second).getByRole('link', { name: 'News, 1 unread' })).toBeVisible()
  await rana.page.reload()
  await expect(rail(rana.page).getByRole('link', { name: 'News, 1 unread' })).toBeVisible()
  const row = list(rana.page).getByRole('link', { name: /Ines Brandt mentioned you on “Lift”/ })
  await expect(row).toContainText('Is it wide enough, @Rana Tahiri ?')
  await rana.page.goto('/')
  await rana.page.getByRole('link', { name: /mentioned you on “Lift”/ }).click()
  await expect(comments(rana.page)).toContainText('Is it wide enough')
  await expect(rail(rana.page).getByRole('link', { name: 'News', exact: true })).toBeVisible()
  await expect(rail(second).getByRole('link', { name: 'News', exact: true })).toBeVisible()
  // Seeing the comments of a topic is reading what one was told of them.
  await topic(ines.page, /^Lift/).click()
  await ines.page.keyboard.press('u')
  await ines.page.keyboard.press('c')
  await expect(comments(ines.page).getByRole('article')).toHaveCount(1)
  await rana.page.goto('/news')
  await expect(list(rana.page).getByText('Read before')).toBeVisible()
})

test('a branch is watched by key; what others change there is told together; the choice of how is kept', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await pasteText(ines.page, { 'text/plain': 'Lift\n\tBolts\nLamps' })
  const { page } = rana
  // A slow line: the answer to what is watched comes after the press, which it mustn't undo.
  await page.route('**/watched', async route => {
    await new Promise(done => setTimeout(done, 3000))
    await route.continue()
  })
  await openTree(page, id)
  await topic(page, 'Lift').click()
  await page.keyboard.press('u')
  await page.keyboard.press('w')
  await expect(page.locator('.offer')).toContainText('You are told what others change in “Lift” and below.')
  await expect(sheet(page).getByRole('button', { name: 'You watch this and what is below' })).toBeVisible()
  await page.goto('/news')
  await page.getByRole('button', { name: 'I have read all of it' }).click()
  await expect(page.getByRole('link', { name: 'Lift in Move' })).toBeVisible()
  for (const [from, to] of [
    ['Bolts', 'Bolts, M8'],
    ['Bolts, M8', 'Bolts, M10'],
    ['Lamps', 'All lamps'],
  ] as const) {
    await topic(ines.page, from).click()
    await ines.page.keyboard.press('F2')
    await ines.page.keyboard.press('Control+a')
    await ines.page.keyboard.type(to)
    await ines.page.keyboard.press('Enter')
    await ines.page.keyboard.press('Escape')
  }
  await expect(async () => {
    await page.reload()
    const row = list(page).getByRole('link', { name: /Ines Brandt changed “Lift” (twice|\d times)/ })
    await expect(row).toBeVisible({ timeout: 3000 })
  }).toPass()
  await expect(list(page).getByRole('link', { name: /All lamps/ })).toHaveCount(0)
  // How one is told is kept as it's chosen.
  await page.getByRole('combobox', { name: 'Changes in what I watch' }).click()
  await page.getByRole('option', { name: 'Never' }).click()
  await page.getByLabel('Quiet hours').uncheck()
  await page.reload()
  await expect(page.getByRole('combobox', { name: 'Changes in what I watch' })).toContainText('Never')
  await expect(page.getByLabel('Quiet hours')).not.toBeChecked()
  await page.getByRole('button', { name: 'Lift in Move: watch no more' }).click()
  await expect(page.getByText('Nothing yet. In a tree,')).toBeVisible()
})

test('the browser rings while one looks elsewhere, once, and not in quiet hours', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  const { page, context } = rana
  await context.grantPermissions(['notifications'])
  await context.addInitScript(() => {
    const rung: string[] = []
    Object.assign(window, { rung })
    class Rings {
      static permission = 'granted'
      static requestPermission = (): Promise<string> => Promise.resolve('granted')
      onclick: unknown = null
      constructor(words: string, { tag }: { tag: string }) {
        if (!rung.includes(`${tag} ${words}`)) rung.push(`${tag} ${words}`)
      }
      close(): void {}
    }
    Object.assign(window, { Notification: Rings })
    document.hasFocus = () => false
  })
  await page.goto('/news')
  await page.getByLabel('Quiet hours').uncheck()
  await page.getByLabel('Messages of this browser').check()
  await openTree(page, id)
  const centre = (await ines.caller.open(id)).snapshot.centre
  await ines.caller.edit(id, [{ op: 'put', topic: centre, set: 'people', member: rana.caller.id }])
  const rung = () => page.evaluate(() => (window as unknown as { rung: string[] }).rung)
  await expect.poll(rung).toEqual([expect.stringMatching(/^told-\d+ Ines Brandt put you on “Move”$/)])
  await rana.caller.call('PATCH', '/api/told/ways', { quiet: { from: '00:00', to: '23:59' } })
  await ines.caller.edit(id, [{ op: 'take', topic: centre, set: 'people', member: rana.caller.id }])
  await expect(rail(page).getByRole('link', { name: /News, 3 unread/ })).toBeVisible()
  expect(await rung()).toHaveLength(1)
})

test('somebody who isn’t in the tree can’t be told; whether to invite them is asked', async ({ browser }) => {
  const { ines, rana, id } = await two(browser, 'commenter')
  const nora = await visitor(browser, 'Nora Vik')
  await openTree(ines.page, id)
  await pasteText(ines.page, { 'text/plain': 'Lift' })
  const say = async (page: Page): Promise<void> => {
    await topic(page, /^Lift/).click()
    await page.keyboard.press('u')
    await page.keyboard.press('c')
    await page.keyboard.type(`Ask @${nora.caller.email} `)
    await page.keyboard.press('Enter')
  }
  await openTree(rana.page, id)
  await say(rana.page)
  await expect(rana.page.locator('.offer')).toContainText('isn’t told of it. An owner of the tree can invite them.')
  await say(ines.page)
  await ines.page.locator('.offer').getByRole('button', { name: 'Invite them to comment' }).click()
  await expect(ines.page.locator('.offer')).toContainText(`An invitation is on its way to ${nora.caller.email}.`)
  await nora.page.goto('/news')
  await expect(list(nora.page).getByRole('link', { name: /Ines Brandt invites you to “Move”/ })).toBeVisible()
})

test('whoever has heard of nothing is told what comes here', async ({ browser }) => {
  const { page } = await visitor(browser)
  await page.goto('/news')
  await expect(page.getByText('Nothing yet. Whoever mentions you')).toBeVisible()
  await expect(rail(page).getByRole('link', { name: 'News', exact: true })).toBeVisible()
})
