import { expect, openTree, pasteText, test, topic, two, visitor } from './porch'
import { sheet, row, cell, measure, give, laid, COST, HOURS, figuresOf } from './figures-stage'

test('a budget is begun, typed without a pause and adds up, for the other person too; undo takes it back', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await laid(ines, id)
  const { page } = ines
  await openTree(page, id)
  await page.keyboard.press('u')
  await page.keyboard.press('i')
  await page.getByRole('button', { name: 'A budget' }).click()
  await expect(sheet(page)).toBeVisible()
  await openTree(rana.page, id)
  await rana.page.getByRole('tab', { name: 'Figures' }).click()
  await cell(page, 'Lift').click()
  // Typed at once, one after the other, no delay between keys.
  await page.keyboard.type('48200.50')
  await page.keyboard.press('Enter')
  await page.keyboard.type('0.10')
  await page.keyboard.press('Enter')
  await page.keyboard.type('0.2')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'Rooms')).toHaveText('48,200.80')
  await expect(cell(page, 'Move')).toHaveText('48,200.80')
  await expect(cell(rana.page, 'Move')).toHaveText('48,200.80')
  // A formula of the other's: its words go on by themselves, what it comes to is seen before it's kept.
  await cell(rana.page, 'Crates').click()
  await rana.page.keyboard.type('=2 × Cost of "Lamps" + su')
  await expect(rana.page.getByRole('list', { name: 'What may stand here' }).getByRole('button')).toHaveText([/^sum/])
  await rana.page.keyboard.press('Tab')
  await rana.page.keyboard.type('Cost of all below)')
  await expect(rana.page.getByText('= 0.20 GBP')).toBeVisible()
  await rana.page.keyboard.press('Enter')
  await expect(cell(page, 'Crates')).toHaveText('ƒ0.20')
  await expect(cell(page, 'Move')).toHaveText('48,201.00')
  // What it stands on changes, and so does it.
  await cell(page, 'Lamps').click()
  await page.keyboard.type('5')
  await page.keyboard.press('Tab')
  await expect(cell(rana.page, 'Crates')).toHaveText('ƒ10.00')
  await page.keyboard.press('Control+z')
  await expect(cell(page, 'Crates')).toHaveText('ƒ0.20')
})

test('what can’t be understood is underlined and said, Esc drops it; letters stay commands beside the cells', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  await laid(ines, id, COST, HOURS, give('lift', 'cost', '100'))
  const { page } = ines
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Figures' }).click()
  await cell(page, 'Lamps').dblclick()
  await page.keyboard.type('=Cost of "Lift" + Hours')
  await expect(page.getByText('“EUR” and “h” can’t be added up.')).toBeVisible()
  await page.keyboard.type(' of "Elevator"')
  await expect(page.getByText('There is no topic “Elevator”.')).toBeVisible()
  await expect(page.locator('.formula mark')).toHaveText('"Elevator"')
  await page.keyboard.press('Enter')
  expect(await figuresOf(ines, id, 'lamps')).toEqual({})
  await page.keyboard.press('Escape')
  await expect(sheet(page)).toBeFocused()
  await expect(cell(page, 'Lamps')).toHaveText('')
  // A cell, then a letter: the letter does what it does in every view.
  await page.keyboard.press('e')
  await page.keyboard.type('Lights')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(row(page, 'Lights')).toBeVisible()
  // A loop shows what is in it, and goes when one has a number.
  await cell(page, 'Lift').click()
  await page.keyboard.type('=Cost of "Paint"')
  await page.keyboard.press('Enter')
  await cell(page, 'Paint').click()
  await page.keyboard.type('=Cost of "Lift"')
  await expect(page.getByText('It would stand on itself.')).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(cell(page, 'Lift')).toHaveText('loop')
  await expect(cell(page, 'Move')).toHaveText('loop')
  await cell(page, 'Paint').click()
  await page.keyboard.type('7')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'Rooms')).toHaveText('14.00')
})

test('blocks of cells come from and go to other programs, are filled down and cleared; in the person’s own signs', async ({
  browser,
}) => {
  const ines = await visitor(browser, 'Ines Brandt', { locale: 'de-DE' })
  const id = await ines.caller.makeTree('Move')
  await laid(ines, id, COST, HOURS)
  const { page } = ines
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Figures' }).click()
  await cell(page, 'Lift').click()
  await pasteText(page, { 'text/plain': '1.250,50\t3\r\n0,5\tnone\r\n7\t1\r\n1\t1\r\n1\t1\r\n1\t1\r\n' })
  await expect(page.getByText(/^10 cells are pasted\. 1 lay beyond|^9 cells are pasted\. 2 lay beyond/)).toBeVisible()
  await expect(cell(page, 'Lift')).toHaveText('1.250,50')
  await expect(cell(page, 'Lamps', 1)).toHaveText('')
  expect(await figuresOf(ines, id, 'lift')).toEqual({ cost: '1250.5', hours: '3' })
  // The range of two columns and three rows, as it goes to other programs.
  await cell(page, 'Lift').click()
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('Shift+ArrowDown')
  const copied = await page.evaluate(() => {
    const transfer = new DataTransfer()
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('copy', { clipboardData: transfer, bubbles: true, cancelable: true }),
    )
    return [transfer.getData('text/plain'), transfer.getData('text/html')]
  })
  expect(copied[0]).toBe('1250,5\t3\n0,5\t')
  expect(copied[1]).toContain('<td>1250,5</td>')
  await page.keyboard.press('Control+d')
  await expect(cell(page, 'Lamps')).toHaveText('1.250,50')
  await page.keyboard.press('Control+z')
  await expect(cell(page, 'Lamps')).toHaveText('0,50')
  await page.keyboard.press('Delete')
  await expect(cell(page, 'Lift')).toHaveText('')
  await page.keyboard.press('Control+z')
  await expect(cell(page, 'Lift')).toHaveText('1.250,50')
})

test('figures stand on planks, over their target by a sign too, come after //, and roll up as one types', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  await laid(ines, id, COST, give('lift', 'cost', '900'), give('rooms', 'cost', '', { target: '1000' }))
  const { page } = ines
  await openTree(page, id)
  await expect(topic(page, 'Rooms')).toContainText('900.00 of 1,000 EUR')
  await topic(page, 'Lamps').click()
  await page.keyboard.press('Enter')
  await page.keyboard.type('Curtains // cost 1,250')
  await expect(page.getByText('Cost 1,250.00 EUR')).toBeVisible()
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(topic(page, 'Curtains')).toContainText('1,250.00 EUR')
  await expect(topic(page, 'Rooms')).toContainText('↑ 2,150.00 of 1,000 EUR')
  // In the side sheet: its own field, and what is left of a target.
  await topic(page, 'Paint').click()
  const part = page.locator('[data-part="figures"]')
  await part.getByLabel('Cost of this topic').fill('= 3 × 20')
  await part.getByLabel('Cost of this topic').press('Enter')
  await expect(topic(page, 'Paint')).toContainText('60.00 EUR')
  await part.getByLabel('Target of Cost').fill('50')
  await part.getByLabel('Target of Cost').press('Enter')
  await expect(part.getByText('10.00 EUR over')).toBeVisible()
})

test('assumptions stand side by side and one is taken over as one edit', async ({ browser }) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  await laid(
    ines,
    id,
    COST,
    give('lift', 'cost', '900'),
    give('lamps', 'cost', '100'),
    give('crates', 'cost', '={m:cost} of {t:lift}'),
  )
  const { page } = ines
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Figures' }).click()
  await row(page, 'Lift').getByRole('rowheader').click()
  await page.getByRole('tab', { name: 'What if' }).click()
  await page.getByRole('button', { name: 'Assume something else' }).click()
  await page.getByRole('button', { name: 'Cost of Lift in Offer B: 900.00' }).click()
  await page.keyboard.type('700')
  await page.keyboard.press('Enter')
  const line = page.getByRole('table', { name: 'Assumptions side by side' }).getByRole('row')
  await expect(line.filter({ hasText: 'Move' }).getByRole('cell')).toHaveText(['1,900.00', '1,500.00', '−400.00'])
  await expect(line.filter({ hasText: 'Crates' }).getByRole('cell')).toHaveText(['900.00', '700.00', '−200.00'])
  expect(await figuresOf(ines, id, 'lift')).toMatchObject({ cost: '900' })
  await page.getByRole('button', { name: 'Take over' }).click()
  await expect(page.getByText('“Offer B” is what is so now: one figure taken over.')).toBeVisible()
  await expect.poll(() => figuresOf(ines, id, 'lift')).toEqual({ cost: '700' })
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await figuresOf(ines, id, 'lift')).cost).toBe('900')
})

test('one of a few is chosen by marks and weights; how sure that is, and the reason is kept', async ({ browser }) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  await laid(
    ines,
    id,
    COST,
    measure('mark', 'Care', { unit: '', decimals: 0, rollUp: 'none', limit: 'least' }),
    give('lift', 'cost', '100'),
    give('lamps', 'cost', '200'),
    give('lift', 'mark', '4'),
    give('lamps', 'mark', '8'),
  )
  const { page } = ines
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Figures' }).click()
  await row(page, 'Rooms').getByRole('rowheader').click()
  await page.getByRole('tab', { name: 'Choosing' }).click()
  await page.getByRole('group', { name: 'Criteria' }).getByRole('button', { name: 'Cost' }).click()
  await page.getByRole('group', { name: 'Criteria' }).getByRole('button', { name: 'Care' }).click()
  const line = page.getByRole('table', { name: 'Options and what they come to' }).getByRole('row')
  // The best price has 10, twice as much has 5; half and half with the marks.
  await expect(line.filter({ hasText: 'Lift' }).getByRole('cell').nth(2)).toHaveText('7.00')
  await expect(line.filter({ hasText: 'Lamps' }).getByRole('cell').nth(3)).toHaveText('2')
  await page.getByLabel('Weight of Care').fill('30')
  await page.getByLabel('Weight of Care').press('Enter')
  // 5 × ¼ + 8 × ¾.
  await expect(line.filter({ hasText: 'Lamps' }).getByRole('cell').nth(2)).toHaveText('7.25')
  await expect(page.getByText('under 56 % Lift leads')).toBeVisible()
  await page.getByRole('button', { name: 'Keep as a decision’s reason' }).click()
  await expect
    .poll(async () => (await ines.caller.open(id)).snapshot.topics.map(one => one.title))
    .toContain('Lamps: 7.25 of 10, before Lift with 5.50 (Cost 25 %, Care 75 %)')
})

test('whoever may only look sees figures and changes none', async ({ browser }) => {
  const { ines, rana, id } = await two(browser, 'commenter')
  await laid(ines, id, COST, give('lift', 'cost', '900'))
  await openTree(rana.page, id)
  await rana.page.getByRole('tab', { name: 'Figures' }).click()
  await cell(rana.page, 'Lift').click()
  await rana.page.keyboard.type('5')
  await expect(rana.page.getByText(/can read this tree but not change it|may not change/)).toBeVisible()
  await rana.page.keyboard.press('Delete')
  await expect(cell(rana.page, 'Move')).toHaveText('900.00')
  expect(await figuresOf(ines, id, 'lift')).toEqual({ cost: '900' })
})

test('the sheet in groups: each says what its rows come to, keys pass over their heads, and the tree’s order comes back', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await laid(ines, id, COST, give('lift', 'cost', '100'), give('lamps', 'cost', '20.50'), give('crates', 'cost', '3'), {
    op: 'put',
    topic: 'lamps',
    set: 'people',
    member: rana.caller.id,
  })
  const { page } = ines
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Figures' }).click()
  const by = page.getByRole('combobox', { name: 'Group the rows' })
  await by.selectOption('person')
  const heads = sheet(page).locator('.row.group')
  await expect(heads).toHaveText([/^Rana.*1.*20\.50/, /^Nobody.*2.*103\.00/])
  // Down from the last row of a group leads to the first of the next; a number is typed there at once.
  await cell(page, 'Lamps').click()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.type('200')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'Lift')).toHaveText('200.00')
  await expect(heads).toHaveText([/20\.50/, /203\.00/])
  // What the other gives somebody moves its row, and both sums.
  await rana.caller.edit(id, [{ op: 'put', topic: 'lift', set: 'people', member: rana.caller.id }])
  await expect(heads).toHaveText([/^Rana.*2.*220\.50/, /^Nobody.*1.*3\.00/])
  // A block over a head takes the rows alone.
  await cell(page, 'Lift').click()
  await page.keyboard.press('Shift+ArrowDown')
  await page.keyboard.press('Shift+ArrowDown')
  await pasteText(page, { 'text/plain': '1\n2\n3' })
  await expect(heads).toHaveText([/^Rana.*2.*3\.00/, /^Nobody.*1.*3\.00/])
  // A title is typed where it's seen.
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Enter')
  await page.keyboard.type('Ramp')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(row(page, 'Ramp')).toBeVisible()
  await expect(by).toHaveValue('')
})
