import { demoVisitor, demoTree, expect, openTree, test, topic, two, visitor, type Visitor } from './porch'

/* What eye and ear get besides the words on planks. */

const box = async (page: Visitor['page'], selector: string) => (await page.locator(selector).boundingBox())!

async function grown(browser: Parameters<typeof visitor>[0]): Promise<Visitor & { id: string }> {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  const { centre } = (await ines.caller.open(id)).snapshot
  const add = (at: string, parent: string, order: string, more: object = {}) => ({
    op: 'add' as const,
    topic: at,
    parent,
    order,
    with: { title: at, ...more },
  })
  await ines.caller.edit(id, [
    add('Fit-out', centre, 'a0'),
    add('Lift', 'Fit-out', 'a0', { done: 50, due: '2027-05-12', people: [ines.caller.id] }),
    add('Lamps', 'Fit-out', 'a1', { done: 100 }),
    add('Books', centre, 'a1', { done: 50 }),
    add('Crates', 'Books', 'a0', { done: 50 }),
  ] as never)
  return { ...ines, id }
}

test('half done fills half of the bar, all done all of it, on either side', async ({ browser }) => {
  const { page, id } = await grown(browser)
  await openTree(page, id)
  for (const [at, part] of [
    ['Lift', 0.5],
    ['Lamps', 1],
    ['Crates', 0.5],
  ] as const) {
    await expect(topic(page, at)).toBeVisible()
    const [whole, filled] = await Promise.all([box(page, `#topic-${at} .bar`), box(page, `#topic-${at} .bar u`)])
    expect(filled.width / whole.width, at).toBeCloseTo(part, 2)
    // From where the bracket comes in: on the left side that is the right end.
    const plank = await box(page, `#topic-${at}`)
    const isLeft = plank.x < (await page.locator('[aria-level="1"]').boundingBox())!.x
    const end = isLeft ? whole.x + whole.width - (filled.x + filled.width) : filled.x - whole.x
    expect(Math.abs(end), at).toBeLessThan(1)
  }
})

test('a pointer that rests on the small print shows who, until when and how far, in words', async ({ browser }) => {
  const { page, id } = await grown(browser)
  await openTree(page, id)
  await topic(page, 'Lift').locator('.small').hover()
  await page.mouse.move(0, 0)
  const small = (await topic(page, 'Lift').locator('.small').boundingBox())!
  await page.mouse.move(small.x + 6, small.y + small.height / 2)
  await page.mouse.move(small.x + 9, small.y + small.height / 2)
  const card = page.getByRole('dialog', { name: 'What hangs on Lift' })
  await expect(card).toContainText('Ines Brandt')
  await expect(card).toContainText('12 May 2027')
  await expect(card).toContainText('50 %')
})

test('groups of the menu show that more is in them, and open by a click and by a key', async ({ browser }) => {
  const { page, id } = await grown(browser)
  await openTree(page, id)
  await topic(page, 'Lift').click({ button: 'right' })
  const groups = page.locator('.p-contextmenu-root-list > li[aria-haspopup="menu"]')
  await expect(groups.first()).toBeVisible()
  const count = await groups.count()
  expect(count).toBeGreaterThan(2)
  await expect(
    page.locator(
      '.p-contextmenu-root-list > li[aria-haspopup="menu"] svg, .p-contextmenu-root-list > li[aria-haspopup="menu"] .iconify',
    ),
  ).toHaveCount(count)
  // A click opens one, and a second one doesn't shut it under the pointer.
  await groups.first().click()
  await expect(groups.first().locator('ul li').first()).toBeVisible()
  await groups.first().locator('> .p-contextmenu-item-content').click()
  await expect(groups.first().locator('ul li').first()).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await expect(groups).toHaveCount(0)
  // By key: to the last one, in, and out again.
  await topic(page, 'Lift').click()
  await page.keyboard.press('Shift+F10')
  await expect(groups.first()).toBeVisible()
  await page.keyboard.press('End')
  await page.keyboard.press('ArrowRight')
  await expect(groups.last().locator('ul li').first()).toBeVisible()
  await page.keyboard.press('ArrowLeft')
  await expect(groups.last().locator('ul li').first()).toBeHidden()
})

test('what others do is said politely, when there is a pause; what one does oneself isn’t', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  const { centre } = (await ines.caller.open(id)).snapshot
  const add = (at: string) => ({ op: 'add' as const, topic: at, parent: centre, order: `a${at}`, with: { title: at } })
  await openTree(ines.page, id)
  const said = ines.page.locator('[aria-live="polite"]')
  await expect(said).toHaveCount(1)
  await ines.caller.edit(id, [add('Own')] as never)
  await rana.caller.edit(id, [add('Lift')] as never)
  await rana.caller.edit(id, [{ op: 'set', topic: 'Lift', field: 'due', value: '2027-05-12' }])
  await expect(said).toHaveText('Rana Tahiri added “Lift” under “Move”; set the due date of “Lift” to 12 May 2027.')
  await rana.caller.edit(id, ['a', 'b', 'c', 'd', 'e'].map(add) as never)
  await expect(said).toHaveText(/^Rana Tahiri added “a” under “Move”; .*; and 2 more\.$/)
})

test('the card of what can follow comes for whoever stops to think, and for nobody else', async ({ browser }) => {
  const { page, id } = await grown(browser)
  await openTree(page, id)
  await topic(page, 'Lift').click()
  await page.keyboard.press('u')
  await page.waitForTimeout(150)
  await expect(page.getByText('and then')).toHaveCount(0)
  await expect(page.getByText('and then')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByText('and then')).toHaveCount(0)
})

test('no font is refused by our own rules, and in no panel do two things have one name', async ({ browser }) => {
  const { page, caller } = await demoVisitor(browser)
  const refused: string[] = []
  page.on('console', message => {
    if (/Content Security Policy|Failed to decode downloaded font|OTS parsing/i.test(message.text()))
      refused.push(message.text())
  })
  const { id } = await demoTree(caller)
  await openTree(page, id)
  for (const panel of ['Markers', 'Arrangement', 'Colour and style'] as const) {
    await page.getByRole('button', { name: panel, exact: true }).click()
    const side = page.locator('aside.panel')
    const controls = side.locator('button, [role="radio"], input, select')
    await expect.poll(() => controls.count(), { message: panel }).toBeGreaterThan(3)
    const names = await side
      .getByRole('button')
      .evaluateAll(buttons =>
        buttons.map(one => (one.getAttribute('aria-label') ?? one.textContent ?? '').trim()).filter(Boolean),
      )
    expect(
      names.filter((name, i) => names.indexOf(name) !== i),
      panel,
    ).toEqual([])
    // Swatches stand apart from one another.
    const swatches = await side
      .locator('.swatch, .hue')
      .evaluateAll(all => all.map(one => one.getBoundingClientRect().toJSON() as DOMRect))
    for (const [i, one] of swatches.entries())
      for (const other of swatches.slice(i + 1))
        expect(
          one.right <= other.left || other.right <= one.left || one.bottom <= other.top || other.bottom <= one.top,
        ).toBe(true)
    await page.keyboard.press('Escape')
  }
  await page.evaluate(() => document.fonts.ready)
  expect(await page.evaluate(() => [...document.fonts].filter(({ status }) => status === 'error').length)).toBe(0)
  expect(refused).toEqual([])
})

test('from 1280 on signs in the top bar stand with their word, and the views by their names', async ({ browser }) => {
  const { page, id } = await grown(browser)
  await page.setViewportSize({ width: 1280, height: 800 })
  await openTree(page, id)
  await expect(page.getByRole('tablist', { name: 'Views' }).getByRole('tab')).toHaveText([
    'Canvas',
    'Outline',
    'Schedule',
    'Board',
    'Figures',
    'Meeting',
  ])
  const bar = page.getByRole('banner')
  for (const word of [
    'Find',
    'Undo',
    'Redo',
    'Sheet',
    'Arrange',
    'Markers',
    'Colour',
    'Talk',
    'History',
    'Help',
    'Keys',
  ])
    await expect(bar.getByText(word, { exact: true })).toBeVisible()
})
