import type { Page } from '@playwright/test'
import ExcelJS from 'exceljs'
import { expect, openTree, test, topic, two, visitor } from './porch'
import { sheet, row, cell, give, laid, COST, HOURS, figuresOf } from './figures-stage'

const kindsOf = (page: Page) => page.getByRole('group', { name: 'Kind of chart' })

test('a figure comes again over the years, has a range, and is found by what it comes to', async ({ browser }) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  await laid(ines, id, COST, give('lift', 'cost', '900'), give('crates', 'cost', '40'))
  const { page } = ines
  await openTree(page, id)
  await topic(page, 'Lamps').click()
  const part = page.locator('[data-part="figures"]')
  await part.getByRole('button', { name: 'Over the years …' }).click()
  const keep = async (label: string, said: string) => {
    await part.getByLabel(label).fill(said)
    await part.getByLabel(label).press('Enter')
  }
  await keep('In the first period', '1,000')
  await expect(topic(page, 'Lamps')).toContainText('12,000.00 EUR')
  await part.getByLabel('How often').selectOption('year')
  await keep('How many periods', '3')
  await part.getByLabel('The first period', { exact: true }).fill('2027-05')
  await part.getByLabel('The first period', { exact: true }).blur()
  await part.getByLabel('How it goes on').selectOption('rate')
  await keep('By how much', '-20')
  // 1,000, 800, 640; and 900 of the lift.
  await expect(topic(page, 'Rooms')).toContainText('3,340.00 EUR')
  await part.getByText('All periods: 2,440.00 EUR').click()
  await keep('In 2028-05', '700')
  await expect(topic(page, 'Lamps')).toContainText('2,340.00 EUR')
  // What a sum may come to, from the least and the most of one figure.
  await topic(page, 'Lift').click()
  await keep('The least that Cost may come to', '800')
  await keep('The most that Cost may come to', '1,500')
  await topic(page, 'Move').click()
  await page.getByRole('tab', { name: 'Figures' }).click()
  await page.getByRole('tab', { name: 'Charts' }).click()
  const kinds = page.getByRole('group', { name: 'Kind of chart' })
  await kinds.getByRole('button', { name: 'Over the years' }).click()
  const rows = page.getByRole('table', { name: 'The numbers of the chart' }).getByRole('row')
  await expect(rows).toHaveText([/In.*Cost/, /2027.*1,000\.00/, /2028.*700\.00/, /2029.*640\.00/, /once.*940\.00/])
  await kinds.getByRole('button', { name: 'How sure' }).click()
  await expect(page.getByRole('table', { name: 'What drives it' }).getByRole('row', { name: /Lift/ })).toContainText(
    '100 %',
  )
  // The filter asks for figures, in the person's own signs.
  await page.getByRole('tab', { name: 'Outline' }).click()
  await page.keyboard.press('Shift+Q')
  const filter = page.getByRole('complementary', { name: 'Filter and views' })
  await filter.getByRole('combobox', { name: 'Add a condition', exact: true }).selectOption({ label: 'Figure' })
  await filter.getByLabel('Its figure').selectOption('over')
  await filter.getByLabel('How much').fill('1,000')
  await filter.getByLabel('How much').press('Enter')
  await expect(
    page
      .getByText('3 found')
      .or(page.getByText(/3 of \d+/))
      .first(),
  ).toBeVisible()
})

test('figures are held against a kept moment: what came since stands beside them', async ({ browser }) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  await laid(ines, id, COST, give('lift', 'cost', '900'))
  const { version } = await ines.caller.open(id)
  const kept = await ines.caller.call('PUT', `/api/trees/${id}/moments/${version}/name`, { name: 'As agreed' })
  expect(kept.status).toBeLessThan(300)
  await ines.caller.edit(id, [give('lift', 'cost', '850'), give('lamps', 'cost', '120.5')] as never)
  const { page } = ines
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Figures' }).click()
  await page.getByLabel('Since a kept moment').selectOption({ label: 'As agreed' })
  await expect(cell(page, 'Lift')).toHaveText('850.00−50.00')
  await expect(cell(page, 'Lamps')).toHaveText('120.50+120.50')
  await expect(cell(page, 'Move')).toHaveText('970.50+70.50')
  await page.getByLabel('Since a kept moment').selectOption('')
  await expect(cell(page, 'Move')).toHaveText('970.50')
})

test('a row that goes while one types in it takes neither the number nor the keys; a field left by a click keeps it', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await laid(ines, id, COST, HOURS)
  const { page } = ines
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Figures' }).click()
  await cell(page, 'Lamps').click()
  await page.keyboard.type('12')
  await expect(cell(page, 'Lamps').getByRole('textbox')).toBeFocused()
  // The other one takes the branch away.
  await rana.caller.edit(id, [{ op: 'remove', topic: 'rooms' }] as never)
  await expect(row(page, 'Lamps')).toHaveCount(0)
  await expect(sheet(page)).toBeFocused()
  await cell(page, 'Crates').click()
  await page.keyboard.type('5')
  // Scrolled or folded away counts as left.
  await row(page, 'Books').getByRole('button', { name: 'Fold' }).click()
  await expect(row(page, 'Crates')).toHaveCount(0)
  await expect.poll(() => figuresOf(ines, id, 'crates')).toEqual({ cost: '5' })
  // In the side sheet, another topic clicked.
  await row(page, 'Books').getByRole('rowheader').click()
  await page.keyboard.press('i')
  const field = page.getByRole('textbox', { name: 'Hours of this topic' })
  await field.fill('3')
  await row(page, 'Move').getByRole('rowheader').click()
  await expect.poll(() => figuresOf(ines, id, 'books')).toEqual({ hours: '3' })
})

test('figures come out of a workbook: columns are matched, every difference is seen before it’s taken, as one edit', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await laid(ines, id, COST, HOURS, give('lift', 'cost', '100'), give('crates', 'cost', '7'))
  const { page } = ines
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Figures' }).click()
  const book = new ExcelJS.Workbook()
  book.addWorksheet('About').addRow(['Made by the joiner'])
  const offer = book.addWorksheet('Offer')
  offer.addRow(['What we offer'])
  offer.addRow(['Topic', 'Cost, EUR', 'Days of work'])
  offer.addRow(['Lift', 125.5, 16])
  offer.addRow(['Lamps', 20, 'about 4'])
  offer.addRow(['Crates', 7, null])
  offer.addRow(['Stairs', 900, 3])
  offer.addRow(['Rooms', { formula: 'SUM(B3:B4)', result: 145.5 }, null])
  await page
    .getByLabel('Table with figures')
    .setInputFiles({
      name: 'offer.xlsx',
      mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      buffer: Buffer.from(await book.xlsx.writeBuffer()),
    })
  const dialog = page.getByRole('dialog', { name: 'Figures from a table' })
  await expect(dialog.getByLabel('Sheet')).toHaveValue('1')
  await expect(dialog).toContainText('2 differences')
  await expect(dialog).toContainText('1 cell says what is so, 1 is worked out there and left')
  await expect(dialog).toContainText('1 row has no topic here')
  // A column that wasn't known by its name.
  await dialog.getByLabel(/Days of work/).selectOption({ label: 'Hours' })
  await expect(dialog).toContainText('3 differences')
  await expect(dialog).toContainText('1 cell can’t be taken')
  await dialog.getByText('1 row has no topic here').click()
  await expect(dialog).toContainText('Hours of “Lamps”: “about 4” is no number.')
  // The other one changes one of them meanwhile: what is shown as so is what is so.
  await rana.caller.edit(id, [give('lamps', 'cost', '20')] as never)
  await expect(dialog).toContainText('2 differences')
  await dialog.getByRole('checkbox', { name: 'Hours of Lift' }).uncheck()
  await dialog.getByRole('button', { name: 'Take 1 figure' }).click()
  await expect(dialog).toHaveCount(0)
  await expect(cell(page, 'Lift')).toHaveText('125.50')
  await expect(cell(page, 'Move')).toHaveText('152.50')
  expect(await figuresOf(ines, id, 'lift')).toEqual({ cost: '125.5' })
  await page.keyboard.press('Control+z')
  await expect(cell(page, 'Lift')).toHaveText('100.00')
})

test('a meeting’s brief says what is left of targets, those that are missed first', async ({ browser }) => {
  const ines = await visitor(browser)
  const { page, caller } = ines
  const id = await caller.makeTree('Move')
  const centre = await laid(
    ines,
    id,
    COST,
    give('lift', 'cost', '120', { target: '100' }),
    give('crates', 'cost', '7', { target: '10' }),
    { op: 'put', topic: 'books', set: 'meeting', member: { id: 'why', kind: 'why', text: 'Decide' } },
  )
  await caller.edit(id, [give(centre, 'cost', '', { target: '1000' })] as never)
  await openTree(page, id)
  await topic(page, /^Books/).click()
  await page.keyboard.press('j')
  const left = page.getByRole('region', { name: 'What is left of targets' })
  await expect(left.getByRole('listitem')).toHaveText([
    /Lift\s*Cost: 20.00 EUR over 100.00 EUR/,
    /Move\s*Cost: 873.00 EUR left of 1,000.00 EUR/,
    /Crates\s*Cost: 3.00 EUR left of 10.00 EUR/,
  ])
  await caller.edit(id, [give('lift', 'cost', '90', { target: '100' })] as never)
  await expect(left.getByRole('listitem').first()).toContainText('Move')
  await left.getByRole('button', { name: 'Lift' }).click()
  await expect(sheet(page)).toBeVisible()
  await expect(row(page, 'Lift')).toHaveAttribute('aria-selected', 'true')
})

test('the outline has columns of figures: sums beside parents, typed in place, sorted by, and the other person sees it', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await laid(
    ines,
    id,
    COST,
    HOURS,
    give('lift', 'cost', '48200.5'),
    give('lamps', 'cost', '900'),
    give('crates', 'cost', '12'),
  )
  const { page } = ines
  for (const one of [page, rana.page]) {
    await openTree(one, id)
    await one.keyboard.press('v')
    await one.getByRole('button', { name: 'Choose columns' }).click()
    await one.getByRole('checkbox', { name: 'Cost' }).check()
    await one.keyboard.press('Escape')
  }
  const said = (at: typeof page, title: string) => topic(at, new RegExp(title)).getByRole('button', { name: /^Cost: / })
  await expect(said(page, 'Rooms')).toHaveText('49,100.50')
  await expect(said(page, 'Books')).toHaveText('12.00')
  await said(page, 'Paint').click()
  await page.keyboard.type('2400')
  await page.keyboard.press('Enter')
  await expect(said(page, 'Rooms')).toHaveText('51,500.50')
  await expect(said(rana.page, 'Rooms')).toHaveText('51,500.50')
  // What is no number is said, and the cell stays open with it.
  await said(page, 'Paint').click()
  await page.keyboard.type('a lot')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('status').filter({ hasText: 'is no number' })).toBeVisible()
  await page.keyboard.press('Escape')
  await said(page, 'Paint').click()
  await page.keyboard.type('= {')
  await page.keyboard.press('Escape')
  expect(await figuresOf(ines, id, 'paint')).toEqual({ cost: '2400' })
  await page.getByRole('button', { name: /^Sort by Cost/ }).click()
  await page.getByRole('button', { name: /^Sort by Cost/ }).click()
  const titles = page.getByRole('treeitem')
  await expect(titles.nth(2)).toHaveAccessibleName(/Lift/)
  await expect(titles.nth(3)).toHaveAccessibleName(/Paint/)
  await expect(titles.nth(4)).toHaveAccessibleName(/Lamps/)
  await page.keyboard.press('Control+z')
  await expect(said(page, 'Rooms')).toHaveText('49,100.50')
  // With the measure gone its column goes, and rows stand as the tree has them.
  await rana.caller.edit(id, [{ op: 'tree-take', set: 'measures', member: 'cost' }] as never)
  await expect(page.getByRole('button', { name: /^Sort by Cost/ })).toHaveCount(0)
  await expect(titles.nth(3)).toHaveAccessibleName(/Lamps/)
})

test('a comment on a figure is about that figure, keeps what it was, and has its sign in the cell of the other', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await laid(ines, id, COST, HOURS, give('lift', 'cost', '48200.50'), give('lift', 'hours', '12'))
  const { page } = ines
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Figures' }).click()
  await openTree(rana.page, id)
  await rana.page.getByRole('tab', { name: 'Figures' }).click()
  await cell(page, 'Lift').click()
  await page.keyboard.press('u')
  await page.keyboard.press('c')
  await page.keyboard.type('Too dear?')
  await page.keyboard.press('Enter')
  const said = page.locator('[data-part="comment"]')
  await expect(said.getByRole('article')).toContainText('Too dear?')
  await expect(said).toContainText('On Cost, then 48,200.50')
  await expect(cell(rana.page, 'Lift').getByRole('img', { name: '1 comment' })).toBeVisible()
  await expect(cell(rana.page, 'Lift', 1).getByRole('img')).toHaveCount(0)
  // It keeps what it spoke of.
  await rana.caller.edit(id, [give('lift', 'cost', '39000')] as never)
  await expect(cell(page, 'Lift')).toContainText('39,000.00')
  await expect(said).toContainText('On Cost, then 48,200.50')
  // What it is about can be chosen as well.
  await said.getByRole('combobox', { name: 'What of it the comment is about' }).click()
  await page.getByRole('option', { name: 'Hours, 12.0' }).click()
  await said.getByRole('textbox', { name: 'Comment' }).click()
  await page.keyboard.type('By whom?')
  await page.keyboard.press('Enter')
  await expect(said).toContainText('On Hours, then 12.0')
  await expect(cell(rana.page, 'Lift', 1).getByRole('img', { name: '1 comment' })).toBeVisible()
})

test('a figure has its own story: what it was, and what it was made', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  await laid(ines, id, COST, HOURS, give('lift', 'cost', '48200.50'), give('lift', 'hours', '12'))
  await rana.caller.edit(id, [give('lift', 'cost', '39000')] as never)
  await rana.caller.edit(id, [{ op: 'set', topic: 'lift', field: 'title', value: 'Goods lift' }])
  const { page } = ines
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Figures' }).click()
  await cell(page, 'Goods lift').click()
  await page.getByRole('link', { name: 'The story of Cost' }).click()
  await expect(page).toHaveURL(/kind=figures/)
  await expect(page.getByRole('combobox', { name: 'Kind of change' })).toHaveValue('figures')
  await page.getByRole('slider', { name: 'Moment' }).press('PageUp')
  await expect(page.getByText('changed the Cost of “Lift” from 48,200.50 EUR to 39,000.00 EUR')).toBeVisible()
})

test('a chart hangs on its topic for everybody: a sign, in the card, the side sheet and a kept view; taken off by another', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await laid(
    ines,
    id,
    COST,
    HOURS,
    give('lift', 'cost', '900'),
    give('lamps', 'cost', '100'),
    give('lift', 'hours', '4'),
  )
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await topic(page, 'Rooms').click()
  await page.getByRole('tab', { name: 'Figures' }).click()
  await page.getByRole('tab', { name: 'Charts' }).click()
  const kinds = kindsOf(page)
  await kinds.getByRole('button', { name: 'Rings' }).click()
  await expect(page.getByRole('heading', { name: /Rooms: 1,000/ })).toBeVisible()
  await page.getByRole('button', { name: 'Hang it on its topic' }).click()
  await expect(page.getByRole('button', { name: 'Hangs on its topic' })).toHaveAttribute('aria-pressed', 'true')
  // The chart that is looked at is part of a view that is kept.
  await page.keyboard.press('Shift+Q')
  const filter = page.getByRole('complementary', { name: 'Filter and views' })
  await filter.getByRole('textbox', { name: 'Name of the view' }).fill('What the rooms cost')
  await filter.getByRole('textbox', { name: 'Name of the view' }).press('Enter')
  await expect(filter.getByRole('button', { name: /^What the rooms cost/ })).toBeVisible()
  // The other sees its sign, and the chart small beside the topic.
  const sign = topic(rana.page, /^Rooms/).getByRole('button', { name: 'has a chart: open' })
  await sign.click()
  const card = rana.page.getByRole('dialog', { name: 'What hangs on Rooms' })
  await expect(card.locator('svg').first()).toBeVisible()
  await card.getByRole('button', { name: 'Open the chart Rings: Cost' }).click()
  await expect(rana.page.getByRole('heading', { name: /Rooms: 1,000/ })).toBeVisible()
  await expect(kindsOf(rana.page).getByRole('button', { name: 'Rings' })).toHaveAttribute('aria-pressed', 'true')
  // From elsewhere the view leads back to it.
  await page.getByRole('tab', { name: 'Sheet' }).click()
  await page.getByRole('tab', { name: 'Canvas' }).click()
  await topic(page, 'Books').click()
  await filter.getByRole('button', { name: /^What the rooms cost/ }).click()
  await expect(page.getByRole('heading', { name: /Rooms: 1,000/ })).toBeVisible()
  await expect(kinds.getByRole('button', { name: 'Rings' })).toHaveAttribute('aria-pressed', 'true')
  // Every chart of the tree can be chosen from anywhere.
  await kinds.getByRole('button', { name: 'Parts' }).click()
  await page
    .getByRole('combobox', { name: 'Charts that hang in the tree' })
    .selectOption({ label: 'Rooms: Rings, Cost' })
  await expect(kinds.getByRole('button', { name: 'Rings' })).toHaveAttribute('aria-pressed', 'true')
  // The side sheet takes it off; one step back and it hangs again.
  const part = rana.page.locator('[data-part="figures"]')
  await expect(part.locator('svg').first()).toBeVisible()
  await part.getByRole('button', { name: 'Take the chart Rings: Cost off' }).click()
  await expect(page.getByRole('button', { name: 'Hang it on its topic' })).toBeVisible()
  await rana.page.getByRole('tab', { name: 'Canvas' }).click()
  await expect(topic(rana.page, /^Rooms/)).toBeVisible()
  await expect(sign).toHaveCount(0)
  await rana.page.keyboard.press('Control+z')
  await expect(sign).toBeVisible()
})
