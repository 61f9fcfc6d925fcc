import type { Browser, Locator, Page } from '@playwright/test'
import sharp from 'sharp'
import { bringIn, signUp } from '../caller'
import { expect, expectTitles, houseUrl, openTree, test, visitor, type Visitor } from './porch'
import { put } from '../meeting-parts'
import { staged } from './meeting-stage'

/* What practitioners missed, by a thumb alone on a phone: no key is pressed but to write words. */

const PHONE = { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true }
const topic = (page: Page, title: string) => page.getByRole('treeitem').filter({ hasText: title }).first()
const bar = (page: Page) => page.getByRole('toolbar', { name: 'The selected topic' })
const sheet = (page: Page) => page.getByRole('complementary', { name: 'About the selection' })

/** A command of the menu, below its heading. */
async function choose(page: Page, heading: string, name: string): Promise<void> {
  await bar(page).getByRole('button', { name: 'More for this topic' }).tap()
  await page.getByRole('menuitem', { name: heading, exact: true }).tap()
  await page.getByRole('menuitem', { name, exact: true }).tap()
}
/** The sheet of a topic, raised. */
async function details(page: Page, title: string): Promise<Locator> {
  await topic(page, title).tap()
  if (!(await sheet(page).isVisible())) await bar(page).getByRole('button', { name: 'Task details' }).tap()
  const raise = page.getByRole('button', { name: 'Raise the sheet' })
  if (await raise.isVisible()) await raise.tap()
  return sheet(page)
}
const closeSheet = (page: Page) => page.getByRole('button', { name: 'Close the sheet' }).tap()

async function planted(browser: Browser): Promise<Visitor & { id: string }> {
  const ines = await visitor(browser, 'Ines Brandt', PHONE)
  const id = await ines.caller.makeTree('Move to the tannery')
  const { centre } = (await ines.caller.open(id)).snapshot
  await ines.caller.edit(id, [
    { op: 'add', topic: 'lift', parent: centre, order: 'a0', with: { title: 'Lift' } },
    { op: 'add', topic: 'week', parent: centre, order: 'a1', with: { title: 'Opening week' } },
    { op: 'add', topic: 'w2', parent: 'week', order: 'a0', with: { title: 'Wednesday' } },
    { op: 'add', topic: 'w1', parent: 'week', order: 'a1', with: { title: 'Monday' } },
  ])
  await openTree(ines.page, id)
  return { ...ines, id }
}
const one = async ({ caller, id }: Visitor & { id: string }, which: string) =>
  (await caller.open(id)).snapshot.topics.find(each => each.id === which)!

test('a thumb sorts, keeps what’s below, marks on the plank, and chooses letters and a language', async ({
  browser,
}) => {
  const ines = await planted(browser)
  const { page, caller, id } = ines
  await topic(page, 'Opening week').tap()
  await choose(page, 'Move and order', 'Sort children by weekday, month or “first, second”')
  await expectTitles(caller, id, ['Lift', ['Opening week', 'Monday', 'Wednesday']])
  await topic(page, 'Opening week').tap()
  await bar(page).getByRole('button', { name: 'Remove the branch' }).tap()
  await page.getByRole('button', { name: 'Keep what is below' }).tap()
  await expectTitles(caller, id, ['Lift', 'Monday', 'Wednesday'])

  // The marker on the plank opens its set: another, for all that are selected.
  await caller.edit(id, [{ op: 'put', topic: 'lift', set: 'markers', member: 'question' }])
  await page.getByRole('tab', { name: 'Canvas' }).tap()
  // Where its name is put up, since it's too small to be read, nothing that stands under it takes a press.
  await expect(page.locator('.post').filter({ hasText: 'Lift' })).toBeVisible()
  const sign = (await topic(page, 'Lift').getByRole('img', { name: 'Question' }).boundingBox())!
  await page.touchscreen.tap(sign.x + sign.width / 2, sign.y + sign.height / 2)
  await expect(topic(page, 'Lift')).toHaveAttribute('aria-selected', 'true')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Zoom in' }).tap()
  await expect(page.locator('.post')).toHaveCount(0)
  await topic(page, 'Lift').getByRole('img', { name: 'Question' }).tap()
  const pick = page.getByRole('dialog', { name: /another marker, or none/ })
  await pick.getByRole('button', { name: 'Idea' }).tap()
  await expect.poll(async () => (await one(ines, 'lift')).markers).toEqual(['idea'])

  await topic(page, 'Lift').getByText('Lift').tap()
  await bar(page).getByRole('button', { name: 'More for this topic' }).tap()
  await page.getByRole('menuitem', { name: 'Colour and style' }).tap()
  const dress = page.getByRole('complementary', { name: 'Colour and style' })
  await dress.getByRole('group', { name: 'Letters of the titles' }).getByRole('button', { name: 'Hand' }).tap()
  await expect.poll(async () => (await one(ines, 'lift')).typeface).toBe('hand')
  await dress.getByRole('combobox', { name: 'Language of what is selected' }).selectOption('de')
  await expect.poll(async () => (await one(ines, 'lift')).language).toBe('de')
})

test('a thumb takes a picture from the shelf, a marker, and one that hangs beside; and reads what a page says', async ({
  browser,
}) => {
  const ines = await planted(browser)
  const { page, caller, id } = ines
  await caller.call('PUT', `/api/trees/${id}/pages`, { on: true })
  const shelf = page.getByRole('dialog', { name: 'Shelf of pictures' })
  const part = await details(page, 'Lift')
  await part.getByRole('button', { name: 'From the shelf …' }).tap()
  await page.keyboard.type('key')
  await shelf.locator('.grid button').first().tap()
  await expect.poll(async () => Boolean((await one(ines, 'lift')).picture)).toBe(true)
  await part.getByRole('button', { name: 'Beside it: from the shelf' }).tap()
  await page.keyboard.type('truck')
  await shelf.locator('.grid button').first().tap()
  await expect
    .poll(async () => (await caller.open(id)).snapshot.topics.find(({ parent, picture }) => !parent && picture)?.ties)
    .toMatchObject([{ to: 'lift', ends: 'none' }])

  // A finger rests on nothing: the sign before the link says what its page is.
  await details(page, 'Lift')
  await part.getByRole('textbox', { name: 'Add a link' }).fill('https://haven.example/loft')
  await page.keyboard.press('Enter')
  const sign = part.getByRole('button', { name: /^What the page of / })
  await sign.tap()
  await expect(part.getByRole('figure')).toContainText('Where hides dried, and books will be read.')
  await expect(sign).toHaveAttribute('aria-pressed', 'true')
  await sign.tap()
  await expect(part.getByRole('figure')).toHaveCount(0)
  await closeSheet(page)

  await topic(page, 'Monday').tap()
  await bar(page).getByRole('button', { name: 'Markers' }).tap()
  await page.getByRole('button', { name: 'From the shelf of pictures …' }).tap()
  await page.keyboard.type('books')
  await shelf.locator('.grid button').first().tap()
  await expect.poll(async () => (await one(ines, 'w1')).markers?.length).toBe(1)
})

test('a thumb reads a document beside the tree, chooses several passages, and makes topics of them', async ({
  browser,
}) => {
  const ines = await planted(browser)
  const { page, caller, id } = ines
  const sent = await page.request.post(`/api/trees/${id}/attachments?name=offer.txt`, {
    headers: { 'content-type': 'application/octet-stream' },
    data: Buffer.from('# Offer\n\nTwo days.\n\nThe piano stays.\n\n# Price\n\n4,200 euros.\n\nBefore April.\n'),
  })
  const member = { id: 'f', name: 'offer.txt', ...((await sent.json()) as object) }
  await caller.edit(id, [{ op: 'put', topic: 'lift', set: 'files', member } as never])
  const part = await details(page, 'Lift')
  await part.getByRole('button', { name: 'offer.txt', exact: true }).tap()
  await page.getByRole('button', { name: 'Beside the tree' }).tap()
  const panel = page.getByRole('complementary', { name: 'Beside the tree' })
  const passage = (name: string) => panel.getByRole('option', { name, exact: true })
  // Each press adds one, and takes it out again.
  await passage('Two days.').tap()
  await passage('4,200 euros.').tap()
  await passage('The piano stays.').tap()
  await passage('The piano stays.').tap()
  await panel.getByRole('button', { name: 'Make 2 topics' }).tap()
  await expect(panel.getByText('2 of 6 used')).toBeVisible()
  await expectTitles(caller, id, [
    ['Lift', 'Two days.', '4,200 euros.'],
    ['Opening week', 'Wednesday', 'Monday'],
  ])
  await passage('Before April.').tap()
  await panel.getByRole('button', { name: 'Into the tray' }).tap()
  await expect(panel.getByText('3 of 6 used')).toBeVisible()
  await page.getByRole('button', { name: 'Undo', exact: true }).first().tap()
  await expect(panel.getByText('2 of 6 used')).toBeVisible()
})

test('a thumb makes a group, lets it in, gives it something, names it in what it says, and filters by it', async ({
  browser,
}) => {
  const ines = await planted(browser)
  const { page, caller, id } = ines
  const [rana, oskar] = [await signUp(houseUrl(), 'Rana Tahiri'), await signUp(houseUrl(), 'Oskar Lind')]
  await bringIn(caller, id, rana, 'editor')
  await page.getByRole('button', { name: 'Share' }).tap()
  const part = page.getByRole('dialog', { name: 'Share' }).getByRole('region', { name: 'Groups' })
  await part.getByRole('button', { name: 'New group' }).tap()
  const editor = part.getByRole('form', { name: 'New group' })
  await editor.getByLabel('Name').fill('Volunteers')
  await editor.getByRole('button', { name: 'Rana Tahiri' }).tap()
  await editor.getByLabel('Mail addresses of others').fill(oskar.email)
  await editor.getByRole('button', { name: 'Keep' }).tap()
  await part.getByRole('button', { name: 'Let Volunteers in: they may edit' }).tap()
  await expect.poll(async () => (await oskar.call<unknown[]>('GET', '/api/letters')).data.length).toBe(1)
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
  const { data: letters } = await oskar.call<{ link: string }[]>('GET', '/api/letters')
  await oskar.call('POST', `/api/invitations/${letters[0]!.link.split('/').at(-1)}`)
  await page.getByRole('dialog', { name: 'Share' }).getByRole('button', { name: 'Close' }).tap()

  const lift = await details(page, 'Lift')
  await lift.getByRole('button', { name: 'Add a person' }).tap()
  await page.getByRole('button', { name: 'Everybody in Volunteers' }).tap()
  await expect.poll(async () => (await one(ines, 'lift')).people?.length).toBe(2)

  // Named in a comment: those who are in it just now are told.
  await lift.getByRole('textbox', { name: 'Comment' }).tap()
  await page.keyboard.type('Who has the key, @vol')
  await page
    .getByRole('listbox', { name: 'People' })
    .getByRole('option', { name: /Volunteers/ })
    .tap()
  await lift.getByRole('button', { name: 'Comment', exact: true }).tap()
  await expect(lift).toContainText('Who has the key, @Volunteers')
  for (const person of [rana, oskar])
    await expect
      .poll(async () =>
        (await person.call<{ all: { kind: string }[] }>('GET', '/api/told')).data.all.map(({ kind }) => kind),
      )
      .toContain('mention')
  await closeSheet(page)

  await page.getByRole('button', { name: 'Find' }).tap()
  await page.getByRole('button', { name: 'Filter and views' }).tap()
  const filter = page.getByRole('complementary', { name: 'Filter and views' })
  const raise = page.getByRole('button', { name: 'Raise the sheet' })
  if (await raise.isVisible()) await raise.tap()
  await filter.getByRole('combobox', { name: 'Add a condition' }).selectOption({ label: 'Group of people' })
  await filter.getByRole('combobox', { name: 'Group of people' }).selectOption({ label: 'Volunteers' })
  await expect(filter).toContainText('of somebody in Volunteers')
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
})

test('a meeting from reading to what was delivered, by a thumb', async ({ browser }) => {
  const { ines, rana, id } = await staged(browser)
  const phone = await visitor(browser, 'Lev Orlow', PHONE)
  await bringIn(ines.caller, id, phone.caller, 'editor')
  await ines.caller.edit(id, [
    put('m', { id: 'p3', kind: 'person', user: phone.caller.id, mail: null, name: '', needed: true, role: null }),
    put('m', { id: 'm2', kind: 'must', order: 'a1', text: 'Which week' }),
    { op: 'put', topic: 'i1', set: 'item', member: { id: 'ready', kind: 'ready', at: 1, by: ines.caller.id } },
  ])
  await ines.caller.call('POST', `/api/trees/${id}/meetings/m/invitation`, {})
  await ines.page.goto(`/trees/${id}?topic=m&view=meeting`)
  const finding = ines.page
    .getByRole('complementary', { name: 'How ready it is' })
    .getByRole('listitem')
    .filter({ hasText: 'have read “Two offers”' })
  await expect(finding).toContainText('0 of 2 have read')
  // Read beforehand on the phone: the other screen hears of it at once.
  const { page } = phone
  await page.goto(`/trees/${id}?topic=i1`)
  await expect(finding).toContainText('1 of 2 have read', { timeout: 8000 })
  expect(rana.caller.id).not.toBe(phone.caller.id)

  // Held on the phone.
  await page.goto(`/trees/${id}?topic=m&view=meeting`)
  await page.getByRole('button', { name: 'Begin', exact: true }).tap()
  const musts = page.getByRole('region', { name: 'What must be settled' })
  await expect(musts).toContainText('0 of 2 reached, 2 open')
  await musts.getByRole('group', { name: 'Which week' }).getByRole('button', { name: 'partly reached' }).tap()
  await musts.getByLabel('Why “Which week” is partly reached').fill('the lift isn’t sure')
  await musts.getByLabel('Why “Which week” is partly reached').blur()
  await expect(musts).toContainText('0 of 2 reached, 1 partly, 1 open')
  await page.getByRole('button', { name: 'End the meeting' }).tap()
  const box = page.getByRole('dialog', { name: 'Before it ends' })
  await box.getByRole('group', { name: 'Which firm' }).getByRole('button', { name: 'reached', exact: true }).tap()
  await box.getByRole('button', { name: 'End the meeting' }).tap()
  await expect(page.getByRole('heading', { name: 'Give it out' })).toBeVisible()
  await expect(page.locator('main')).toContainText('Which week: partly reached: the lift isn’t sure')
  await page.getByRole('tab', { name: 'Series' }).tap()
  await expect(page.getByRole('cell', { name: '1 of 2 reached, 1 partly' })).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
})

test('a portrait by a thumb, cut square, on the planks of what is theirs', async ({ browser }) => {
  const ines = await planted(browser)
  const { page, caller, id } = ines
  await caller.edit(id, [{ op: 'put', topic: 'lift', set: 'people', member: caller.id }])
  await page.goto('/account')
  const you = page.getByRole('region', { name: 'You' })
  const chosen = page.waitForEvent('filechooser')
  await you.getByText('Add a picture').tap()
  const face = await sharp({ create: { width: 60, height: 60, channels: 3, background: '#2a7' } })
    .png()
    .toBuffer()
  await (await chosen).setFiles({ name: 'face.png', mimeType: 'image/png', buffer: face })
  await you.getByRole('group', { name: 'How your picture is cut' }).getByRole('button', { name: 'Square' }).tap()
  await expect(you.getByText('Kept.')).toBeVisible()
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Canvas' }).tap()
  await expect(topic(page, 'Lift').locator('.people img')).toBeVisible()
})
