import { bringIn } from '../caller'
import { openHouse } from '../house'
import { expect, expectTitles, openTree, pour, test, titlesOf, topic, two, visitor } from './porch'

const state = (page: import('@playwright/test').Page, words: RegExp) =>
  page.getByRole('status').filter({ hasText: words })

test('both pull the plug, type on, come back, and agree', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await pour(ines.page, ['Fit-out', 'Books'])
  await openTree(rana.page, id)
  await ines.context.setOffline(true)
  await rana.context.setOffline(true)
  await expect(state(ines.page, /^offline$/)).toBeVisible()

  await topic(ines.page, 'Books').click()
  await pour(ines.page, ['Crates', 'Labels'])
  await topic(ines.page, 'Fit-out').click()
  await ines.page.keyboard.press('Delete')
  await expect(state(ines.page, /^offline, 3 edits waiting$/)).toBeVisible()

  await topic(rana.page, 'Fit-out').click()
  await pour(rana.page, ['Shelving'])
  await topic(rana.page, 'Books').click()
  await rana.page.keyboard.press('F2')
  await rana.page.keyboard.type('Books and maps')
  await rana.page.keyboard.press('Enter')

  await ines.context.setOffline(false)
  await expect(state(ines.page, /^saved$/)).toBeVisible()
  await rana.context.setOffline(false)
  await expect(state(rana.page, /^saved$/)).toBeVisible()
  await expectTitles(ines.caller, id, [['Books and maps', 'Crates', 'Labels']])
  for (const { page } of [ines, rana]) {
    await expect(topic(page, 'Books and maps')).toBeVisible()
    await expect(topic(page, 'Labels')).toBeVisible()
    await expect(topic(page, 'Fit-out')).toHaveCount(0)
  }
  // What Rana typed into the branch that Ines removed is kept, and comes back with it.
  await ines.page.keyboard.press('Control+z')
  await expect(topic(rana.page, 'Shelving')).toBeVisible()
})

test('edits that wait survive the browser being closed, and are sent once', async ({ browser }) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  await openTree(ines.page, id)
  await ines.page.evaluate(() => new Promise(done => setTimeout(done, 0)))
  await ines.context.setOffline(true)
  await expect(state(ines.page, /^offline$/)).toBeVisible()
  await pour(ines.page, ['Typed on the train'])
  await expect(state(ines.page, /1 edit waiting/)).toBeVisible()
  await ines.page.close()
  await ines.context.setOffline(false)
  expect(await titlesOf(ines.caller, id)).toEqual([])
  const again = await ines.context.newPage()
  await openTree(again, id)
  await expect(topic(again, 'Typed on the train')).toBeVisible()
  await expectTitles(ines.caller, id, ['Typed on the train'])
  await again.reload()
  await expect(topic(again, 'Typed on the train')).toBeVisible()
  expect((await ines.caller.open(id)).version).toBe(1)
})

test('one goes where another goes until a step of one’s own; all are asked to look, and nobody is moved', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await pour(ines.page, ['Lift', 'Ramp', 'Doors'])
  await openTree(rana.page, id)
  const face = rana.page.getByRole('button', { name: 'Ines Brandt is here' })
  await topic(ines.page, 'Lift').click()
  await expect(topic(rana.page, 'Lift').getByText('Ines', { exact: true })).toBeVisible()
  await face.click()
  await expect(face).toHaveAttribute('aria-pressed', 'true')
  await expect(topic(rana.page, 'Lift')).toHaveAttribute('aria-selected', 'true')
  await topic(ines.page, 'Doors').click()
  await expect(topic(rana.page, 'Doors')).toHaveAttribute('aria-selected', 'true')
  // A step of one’s own ends it: Rana stays where she went.
  await topic(rana.page, 'Ramp').click()
  await expect(face).toHaveAttribute('aria-pressed', 'false')
  await topic(ines.page, 'Lift').click()
  await expect(topic(rana.page, 'Lift').getByText('Ines', { exact: true })).toBeVisible()
  await expect(topic(rana.page, 'Ramp')).toHaveAttribute('aria-selected', 'true')

  await ines.page.keyboard.press('u')
  await ines.page.keyboard.press('a')
  await expect(ines.page.getByRole('status').filter({ hasText: 'Asked the other one' })).toBeVisible()
  const asking = rana.page.getByRole('status').filter({ hasText: 'Ines Brandt asks you to look at “Lift”' })
  await expect(asking).toBeVisible()
  await expect(topic(rana.page, 'Ramp')).toHaveAttribute('aria-selected', 'true')
  await rana.page.getByRole('button', { name: 'Look', exact: true }).click()
  await expect(topic(rana.page, 'Lift')).toHaveAttribute('aria-selected', 'true')
})

test('others see who is here, where, and who is typing; a new topic only once its title is kept', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await pour(ines.page, ['Lift'])
  await openTree(rana.page, id)
  await expect(
    rana.page.getByRole('group', { name: 'Who is here' }).getByRole('button', { name: 'Ines Brandt is here' }),
  ).toBeVisible()
  await topic(ines.page, 'Lift').click()
  await expect(topic(rana.page, 'Lift').getByText('Ines', { exact: true })).toBeVisible()
  await ines.page.keyboard.press('Tab')
  await ines.page.keyboard.type('Shaft dry')
  await expect(topic(rana.page, 'Lift').getByText('Ines is typing')).toBeVisible()
  await expect(topic(rana.page, 'Shaft dry')).toHaveCount(0)
  expect((await ines.caller.open(id)).version).toBe(1)
  await ines.page.keyboard.press('Control+a')
  await ines.page.keyboard.press('Backspace')
  await ines.page.keyboard.press('Escape')
  await ines.page.keyboard.press('Tab')
  await ines.page.keyboard.type('Shaft')
  await ines.page.keyboard.press('Enter')
  await ines.page.keyboard.press('Escape')
  await expect(topic(rana.page, 'Shaft')).toBeVisible()
  // Begun topics that are emptied again leave nothing behind, not even in the trash.
  expect((await ines.caller.open(id)).snapshot.topics).toHaveLength(3)
  await ines.page.close()
  await expect(rana.page.getByRole('button', { name: 'Ines Brandt is here' })).toHaveCount(0)
})

test('the server is killed in the middle; the browser catches up by itself', { tag: '@alone' }, async ({ browser }) => {
  const house = await openHouse()
  try {
    const ines = await visitor(browser, 'Ines Brandt', {}, house.url)
    const id = await ines.caller.makeTree('Move')
    await openTree(ines.page, id)
    await pour(ines.page, ['Before'])
    await expect(state(ines.page, /^saved$/)).toBeVisible()
    await house.killApp('SIGKILL')
    await expect(state(ines.page, /^offline/)).toBeVisible()
    await topic(ines.page, 'Before').click()
    await ines.page.keyboard.press('Enter')
    await ines.page.keyboard.type('Meanwhile')
    await ines.page.keyboard.press('Enter')
    await ines.page.keyboard.press('Escape')
    await expect(state(ines.page, /^offline, 1 edit waiting$/)).toBeVisible()
    await house.startApp()
    await expect(state(ines.page, /^saved$/)).toBeVisible({ timeout: 30_000 })
    await expectTitles(ines.caller, id, ['Before', 'Meanwhile'])

    // MariaDB too: the edit waits until it is back.
    await house.killDatabase()
    await topic(ines.page, 'Meanwhile').click()
    await ines.page.keyboard.press('Enter')
    await ines.page.keyboard.type('Without a database')
    await ines.page.keyboard.press('Enter')
    await ines.page.keyboard.press('Escape')
    await house.startDatabaseAgain()
    await expect(state(ines.page, /^saved$/)).toBeVisible({ timeout: 40_000 })
    await expectTitles(ines.caller, id, ['Before', 'Meanwhile', 'Without a database'])
  } finally {
    await house.close()
  }
})

test('two people in one note lose nothing, also offline', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await openTree(rana.page, id)
  const [hers, his] = [ines, rana].map(({ page }) => page.getByRole('textbox', { name: 'Note' }))
  await hers!.click()
  await ines.page.keyboard.type('The joiner needs a count.')
  await expect(his!).toHaveText('The joiner needs a count.')
  await ines.context.setOffline(true)
  await hers!.press('Control+Home')
  await ines.page.keyboard.type('Ines: ')
  await his!.click()
  await his!.press('Control+End')
  await rana.page.keyboard.type(' Rana has one.')
  await ines.context.setOffline(false)
  for (const note of [hers!, his!]) await expect(note).toHaveText('Ines: The joiner needs a count. Rana has one.')
  await hers!.press('Control+a')
  await ines.page.getByRole('button', { name: 'Bold' }).click()
  await expect(his!.locator('strong')).toHaveText('Ines: The joiner needs a count. Rana has one.')
  await expect(topic(rana.page, 'Move, has a note')).toBeVisible()
  expect((await ines.caller.call<string>('GET', `/api/trees/${id}/export/markdown`)).data).toContain(
    '> **Ines: The joiner needs a count. Rana has one.**',
  )
})

test('a viewer reads and follows, and can’t change anything; a right that goes is said in words', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const lev = await visitor(browser, 'Lev Aalto')
  const id = await ines.caller.makeTree('Move')
  await bringIn(ines.caller, id, lev.caller, 'viewer')
  await openTree(ines.page, id)
  await openTree(lev.page, id)
  await lev.page.keyboard.press('Tab')
  await expect(state(lev.page, /As viewer you can read/)).toBeVisible()
  await pour(ines.page, ['Fit-out'])
  await expect(topic(lev.page, 'Fit-out')).toBeVisible()
  await topic(lev.page, 'Fit-out').click()
  await lev.page.keyboard.press('Delete')
  await expectTitles(ines.caller, id, ['Fit-out'])
  await ines.page.getByRole('button', { name: 'Share' }).click()
  await ines.page.getByRole('button', { name: 'Remove Lev Aalto' }).click()
  await expect(state(lev.page, /You have no role in this tree any more/)).toBeVisible()
})

test('somebody is invited by mail and opens the tree from the Letterbox', async ({ browser }) => {
  const ines = await visitor(browser)
  const rana = await visitor(browser, 'Rana Tahiri')
  const id = await ines.caller.makeTree('Move to the tannery')
  await openTree(ines.page, id)
  await ines.page.getByRole('button', { name: 'Share' }).click()
  await ines.page.getByLabel('Mail address').fill(rana.caller.email)
  await ines.page.getByRole('button', { name: 'Invite' }).click()
  await expect(state(ines.page, /on its way/)).toBeVisible()
  await rana.page.goto('/letterbox')
  await rana.page.getByRole('button', { name: /Ines Brandt invites you/ }).click()
  await rana.page.getByRole('button', { name: 'Open' }).click()
  await expect(topic(rana.page, 'Move to the tannery')).toBeVisible()
})
