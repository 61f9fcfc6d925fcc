import type { Page } from '@playwright/test'
import PDFDocument from 'pdfkit'
import { fromSnapshot, isLive } from '../../core/tree'
import { wordDocument } from '../office-files'
import { seriousViolations } from './accessibility'
import { expect, openTree, test, two, visitor } from './porch'
import type { Caller } from '../caller'

/* A document beside the tree: its passages become topics that lead back to them. */

const OFFER = `# Offer of the carriers

We move the library in two days. The piano stays.

## What is in it

It has:
- crates for 14,000 books
- a lift on the street side
  - with two people

## Price

4,200 euros, if it is before April.
`

async function hang(
  page: Page,
  caller: Caller,
  tree: string,
  at: string,
  name: string,
  data: Uint8Array,
): Promise<void> {
  const sent = await page.request.post(`/api/trees/${tree}/attachments?name=${name}`, {
    headers: { 'content-type': 'application/octet-stream' },
    data: Buffer.from(data),
  })
  const member = { id: name.replaceAll('.', '-'), name, ...((await sent.json()) as object) }
  await caller.edit(tree, [{ op: 'put', topic: at, set: 'files', member } as never])
}
function printed(): Promise<Buffer> {
  const document = new PDFDocument({ size: 'A4', margin: 60 })
  const pieces: Buffer[] = []
  document.on('data', (piece: Buffer) => pieces.push(piece))
  document.fontSize(22).text('Fire inspection').moveDown()
  document.fontSize(11).text('The reading room needs a second way out. '.repeat(6)).moveDown()
  document
    .text('The hall is fine.')
    .addPage()
    .fontSize(22)
    .text('Dates')
    .moveDown()
    .fontSize(11)
    .text('Again on 3 May.')
  document.end()
  return new Promise(done => document.on('end', () => done(Buffer.concat(pieces))))
}
const panelOf = (page: Page) => page.getByRole('complementary', { name: 'Beside the tree' })

test('passages become topics by keys alone, are ticked off on both screens, lead back, and undo takes all of it away', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(id, [
    { op: 'add', topic: 'lift', parent: centre, order: 'a0', with: { title: 'Lift' } },
    { op: 'add', topic: 'carriers', parent: centre, order: 'a1', with: { title: 'Carriers' } },
  ])
  await hang(page, caller, id, 'carriers', 'offer.txt', Buffer.from(OFFER))
  await openTree(page, `${id}?topic=carriers`)
  await openTree(rana.page, `${id}?topic=carriers`)
  // No delay between the keys: what is typed narrows the passages.
  await page.keyboard.press('u')
  await page.keyboard.press('r')
  await page.keyboard.type('lift')
  const panel = panelOf(page)
  await expect(panel.getByLabel('Find in the document')).toHaveValue('lift')
  await expect(panel.getByRole('listbox').getByRole('option')).toHaveCount(1)
  // A key acts on what is seen: what was narrowed away isn't stood on.
  await page.keyboard.press('ArrowDown')
  await expect(panel.getByRole('listbox')).toHaveAttribute(
    'aria-activedescendant',
    (await panel.getByRole('listbox').getByRole('option').getAttribute('id'))!,
  )
  await panel.getByLabel('Find in the document').fill('')
  await panel.getByLabel('Find in the document').focus()
  await expect(panel.getByRole('listbox').getByRole('option')).toHaveCount(9)
  await expect(panel.getByText('0 of 9 used')).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await expect(panel.getByRole('listbox')).toBeFocused()
  // The second heading with all under it.
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Control+Enter')
  await expect(panel.getByText('5 of 9 used')).toBeVisible()
  const titles = async (): Promise<string[]> => {
    const { snapshot } = await caller.open(id)
    const [grown, { topics }] = [fromSnapshot(snapshot), snapshot]
    return topics
      .filter(one => (one.links ?? []).length > 0 && isLive(grown, one.id))
      .map(({ title, parent }) => `${topics.find(({ id: at }) => at === parent)?.title} / ${title}`)
  }
  await expect
    .poll(titles)
    .toEqual([
      'Carriers / What is in it',
      'What is in it / It has:',
      'It has: / crates for 14,000 books',
      'It has: / a lift on the street side',
      'a lift on the street side / with two people',
    ])
  // The next that wasn't used has the place; two at once, and letters aren't commands here.
  await page.keyboard.type('dx')
  await page.keyboard.press('Shift+ArrowDown')
  await expect(panel.getByRole('listbox').getByRole('option', { selected: true })).toHaveCount(2)
  await page.keyboard.press('Enter')
  await expect(panel.getByText('7 of 9 used')).toBeVisible()
  await expect
    .poll(async () => (await titles()).slice(5))
    .toEqual(['Carriers / Price', 'Price / 4,200 euros, if it is before April.'])
  // The other one reads the same, and sees what was used.
  await rana.page.keyboard.press('u')
  await rana.page.keyboard.press('r')
  await expect(panelOf(rana.page).getByText('7 of 9 used')).toBeVisible()
  await panelOf(rana.page).getByLabel('only what is left').check()
  await expect(panelOf(rana.page).getByRole('listbox').getByRole('option')).toHaveCount(2)
  // Back in the tree: a link leads to its passage, and one undo takes one act away.
  await page.keyboard.press('Escape')
  await expect(page.getByRole('tree')).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(panel).toBeHidden()
  await page.keyboard.press('/')
  await page.keyboard.type('Price')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'offer.txt: Price', exact: true }).click()
  await expect(
    panelOf(page)
      .getByRole('listbox')
      .getByRole('option', { name: /Price$/ }),
  ).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await titles()).length).toBe(5)
  await expect(panelOf(rana.page).getByText('5 of 9 used')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await titles()).length).toBe(0)
})

test('pages of a PDF and a Word document are read too; the tray takes what has no place yet; a viewer reads and makes nothing', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  const { centre } = (await caller.open(id)).snapshot
  await hang(page, caller, id, centre, 'fire.pdf', await printed())
  await hang(page, caller, id, centre, 'plan.docx', await wordDocument())
  await openTree(page, id)
  await page.keyboard.press('u')
  await page.keyboard.press('r')
  const panel = panelOf(page)
  await expect(panel.getByRole('listbox').getByRole('option')).toHaveText([
    /Fire inspection\s*page 1/,
    /^The reading room needs a second way out\..*way out\.$/,
    'The hall is fine.',
    /Dates\s*page 2/,
    'Again on 3 May.',
  ])
  await panel.getByRole('listbox').getByRole('option', { name: 'Again on 3 May.' }).click()
  await page.keyboard.press('Shift+Enter')
  await expect
    .poll(async () => (await caller.open(id)).snapshot.topics.filter(one => one.tray).map(({ title }) => title))
    .toEqual(['Again on 3 May.'])
  // A long passage has a title, and all of it as a note.
  await panel
    .getByRole('listbox')
    .getByRole('option', { name: /^The reading room/ })
    .click()
  await panel.getByRole('button', { name: 'Make a topic' }).click()
  await expect
    .poll(async () => (await caller.open(id)).snapshot.topics.filter(one => one.note).map(({ title }) => title))
    .toEqual(['The reading room needs a second way out.'])
  await panel.getByRole('combobox', { name: 'Document' }).selectOption({ index: 1 })
  await expect(panel.getByRole('listbox').getByRole('option').first()).toHaveText('The move')
  await caller.call('PUT', `/api/trees/${id}/members/${rana.caller.id}`, { role: 'viewer' })
  await openTree(rana.page, id)
  await rana.page.keyboard.press('u')
  await rana.page.keyboard.press('r')
  await expect(panelOf(rana.page).getByRole('listbox').getByRole('option')).toHaveCount(5)
  await expect(panelOf(rana.page).getByRole('button', { name: 'Make a topic' })).toHaveCount(0)
  await panelOf(rana.page).getByRole('listbox').focus()
  await rana.page.keyboard.press('Enter')
  await expect(rana.page.getByText(/As viewer you can read/)).toBeVisible()
})

for (const scheme of ['light', 'dark'] as const)
  test(`from the viewer it goes beside the tree, and everybody can read it, ${scheme}`, async ({ browser }) => {
    const { page, caller } = await visitor(browser, 'Ines Brandt', { colorScheme: scheme })
    const tree = await caller.makeTree('Fit-out')
    const { centre } = (await caller.open(tree)).snapshot
    await hang(page, caller, tree, centre, 'offer.txt', Buffer.from(OFFER))
    await openTree(page, tree)
    await page.keyboard.press('Alt+Enter')
    await page
      .getByRole('complementary', { name: 'About the selection' })
      .getByRole('button', { name: 'offer.txt', exact: true })
      .click()
    await page.getByRole('button', { name: 'Beside the tree' }).click()
    const panel = panelOf(page)
    await panel.getByRole('listbox').getByRole('option', { name: 'Price' }).click()
    await page.keyboard.press('Enter')
    await expect(panel.getByText('1 of 9 used')).toBeVisible()
    await expect.poll(() => seriousViolations(page)).toEqual([])
    // By touch on a phone: a press chooses, a second one more, a button makes topics of them.
    await page.setViewportSize({ width: 390, height: 780 })
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
    await expect.poll(() => seriousViolations(page)).toEqual([])
  })
