import { expect, expectTitles, openTree, pour, test, topic, tree, two, type Visitor, visitor } from './porch'

const knob = (page: Visitor['page']) => page.getByRole('button', { name: 'Pull a child out of this topic' })
const hangs = (page: Visitor['page']) => page.locator('.foot .hangs')

/** Pulls the peg of the selected plank to a point beside another plank. */
async function pull(page: Visitor['page'], to: { x: number; y: number }): Promise<void> {
  const from = (await knob(page).boundingBox())!
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2)
  await page.mouse.down()
  await page.mouse.move(to.x, to.y, { steps: 6 })
  await page.mouse.up()
}

test('a child is pulled out of a plank onto empty ground, in its order; onto another plank the two are tied', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  const { page } = ines
  await openTree(page, id)
  await pour(page, ['Rooms', 'Books'])
  await topic(page, 'Rooms').click()
  await page.keyboard.press('Tab')
  await page.keyboard.type('Lift')
  await page.keyboard.press('Enter')
  await page.keyboard.type('Lamps')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await topic(page, 'Rooms').click()
  const lamps = (await topic(page, 'Lamps').boundingBox())!
  // Just above Lamps: between the two.
  await pull(page, { x: lamps.x + lamps.width + 60, y: lamps.y - 2 })
  await page.keyboard.type('Paint')
  await expect(hangs(page)).toContainText('under Rooms, 2nd of 3')
  await page.keyboard.press('Escape')
  await expectTitles(ines.caller, id, [['Rooms', 'Lift', 'Paint', 'Lamps'], 'Books'])
  // Onto another plank: tied, and its label is typed at once.
  await topic(page, 'Lift').click()
  const books = (await topic(page, 'Books').boundingBox())!
  await pull(page, { x: books.x + books.width / 2, y: books.y + books.height / 2 })
  await page.keyboard.type('needs')
  await page.keyboard.press('Enter')
  await expect
    .poll(async () =>
      (await ines.caller.open(id)).snapshot.topics.flatMap(one => one.ties?.map(tie => tie.label) ?? []),
    )
    .toEqual(['needs'])
  // A press alone begins a child, Esc lets go of what is pulled.
  await topic(page, 'Books').click()
  await knob(page).click()
  await page.keyboard.type('Crates')
  await page.keyboard.press('Escape')
  await expectTitles(ines.caller, id, [
    ['Rooms', 'Lift', 'Paint', 'Lamps'],
    ['Books', 'Crates'],
  ])
  await topic(page, 'Books').click()
  const at = (await knob(page).boundingBox())!
  await page.mouse.move(at.x + 7, at.y + 7)
  await page.mouse.down()
  await page.mouse.move(at.x + 200, at.y + 180, { steps: 4 })
  await expect(page.locator('.slot')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.locator('.slot')).toHaveCount(0)
  await page.mouse.up()
  await expect(tree(page)).toBeFocused()
  await page.keyboard.press('Control+z')
  await expectTitles(ines.caller, id, [['Rooms', 'Lift', 'Paint', 'Lamps'], 'Books'])
})

test('a finger pulls a child out too, on a phone and a tablet', async ({ browser }) => {
  for (const width of [390, 820]) {
    const ines = await visitor(browser, 'Ines Brandt', {
      viewport: { width, height: 844 },
      hasTouch: true,
      isMobile: true,
    })
    const { page, context, caller } = ines
    const id = await caller.makeTree('Move')
    const { centre } = (await caller.open(id)).snapshot
    await caller.edit(id, [{ op: 'add', topic: 'rooms', parent: centre, order: 'a0', with: { title: 'Rooms' } }])
    await page.goto(`/trees/${id}`)
    await page.getByRole('tab', { name: 'Canvas' }).tap()
    await topic(page, 'Rooms').tap()
    await expect(knob(page)).toBeVisible()
    const at = (await knob(page).boundingBox())!
    const finger = await context.newCDPSession(page)
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', by = 0) =>
      finger.send('Input.dispatchTouchEvent', {
        type,
        touchPoints: type === 'touchEnd' ? [] : [{ x: at.x + 7 + by / 3, y: at.y + 7 + by }],
      })
    await touch('touchStart')
    for (const by of [10, 40, 80, 110]) await touch('touchMove', by)
    await expect(page.locator('.slot')).toBeVisible()
    await touch('touchEnd')
    await page.keyboard.type('Lift')
    await page.keyboard.press('Escape')
    await expectTitles(caller, id, [['Rooms', 'Lift']])
    await context.close()
  }
})

test('placed by hand a child is born where one let go; whoever may only look has no peg', async ({ browser }) => {
  const { ines, rana, id } = await two(browser, 'commenter')
  const { centre } = (await ines.caller.open(id)).snapshot
  await ines.caller.edit(id, [
    { op: 'tree', field: 'arrangement', value: 'hand' },
    { op: 'add', topic: 'rooms', parent: centre, order: 'a0', with: { title: 'Rooms', x: 220, y: -60 } },
  ])
  const { page } = ines
  await openTree(page, id)
  await topic(page, 'Rooms').click()
  const { x, y } = (await topic(page, 'Rooms').boundingBox())!
  await pull(page, { x: x + 260, y: y + 150 })
  await page.keyboard.type('Lift')
  await page.keyboard.press('Escape')
  const lift = (await topic(page, 'Lift').boundingBox())!
  expect(Math.abs(lift.x + lift.width / 2 - (x + 260))).toBeLessThan(60)
  expect(Math.abs(lift.y + lift.height / 2 - (y + 150))).toBeLessThan(20)
  await openTree(rana.page, id)
  await topic(rana.page, 'Rooms').click()
  await expect(topic(rana.page, 'Rooms')).toHaveAttribute('aria-selected', 'true')
  await expect(knob(rana.page)).toHaveCount(0)
})

test('where a new title will hang is said while it’s typed, and one key turns it from a sibling into a child and back', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  const { page } = ines
  await openTree(page, id)
  await pour(page, ['Rooms', 'Books'])
  await topic(page, 'Rooms').click()
  await page.keyboard.press('Enter')
  await page.keyboard.type('Lif')
  await expect(hangs(page)).toContainText('under Move, 2nd of 3')
  await page.keyboard.press('Alt+Enter')
  await page.keyboard.type('t')
  await expect(hangs(page)).toContainText('under Rooms')
  await page.keyboard.press('Alt+Enter')
  await expect(hangs(page)).toContainText('under Move, 2nd of 3')
  await page.keyboard.press('Alt+Enter')
  await page.keyboard.press('Enter')
  await page.keyboard.type('Lamps')
  await expect(hangs(page)).toContainText('under Rooms, 2nd of 2')
  await page.keyboard.press('Escape')
  await expectTitles(ines.caller, id, [['Rooms', 'Lift', 'Lamps'], 'Books'])
  // A child of the centre has nowhere else to hang.
  await topic(page, 'Move').click()
  await page.keyboard.press('Tab')
  await page.keyboard.type('Day')
  await page.keyboard.press('Alt+Enter')
  await page.keyboard.type('s')
  await page.keyboard.press('Escape')
  await expectTitles(ines.caller, id, [['Rooms', 'Lift', 'Lamps'], 'Books', 'Days'])
})

test('whoever takes away a topic with things below may keep those: by the notice, or by a key; undo brings all back', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  const { page } = ines
  await openTree(page, id)
  const { centre } = (await ines.caller.open(id)).snapshot
  await ines.caller.edit(id, [
    { op: 'add', topic: 'rooms', parent: centre, order: 'a0', with: { title: 'Rooms' } },
    { op: 'add', topic: 'lift', parent: 'rooms', order: 'a0', with: { title: 'Lift' } },
    { op: 'add', topic: 'lamps', parent: 'rooms', order: 'a1', with: { title: 'Lamps' } },
    { op: 'add', topic: 'books', parent: centre, order: 'a1', with: { title: 'Books' } },
  ])
  await topic(page, 'Rooms').click()
  await page.keyboard.press('Delete')
  await expectTitles(ines.caller, id, ['Books'])
  await page.getByRole('button', { name: 'Keep what is below' }).click()
  await expectTitles(ines.caller, id, ['Lift', 'Lamps', 'Books'])
  await page.keyboard.press('Control+z')
  await expectTitles(ines.caller, id, [['Rooms', 'Lift', 'Lamps'], 'Books'])
  // By keys, without a pause.
  await topic(page, 'Rooms').click()
  await page.keyboard.press('Delete')
  await page.keyboard.press('Shift+Delete')
  await expectTitles(ines.caller, id, ['Lift', 'Lamps', 'Books'])
  await page.keyboard.press('Control+z')
  // What has nothing below offers to be brought back, and nothing else.
  await topic(page, 'Books').click()
  await page.keyboard.press('Delete')
  await expect(page.getByRole('button', { name: 'Undo', exact: true }).last()).toBeVisible()
  await expect(page.getByRole('button', { name: 'Keep what is below' })).toHaveCount(0)
  await expectTitles(ines.caller, id, [['Rooms', 'Lift', 'Lamps']])
})

test('a marker pressed on its plank offers its set, for all that are selected; X, then a click, ties', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  const { centre } = (await ines.caller.open(id)).snapshot
  await ines.caller.edit(id, [
    { op: 'add', topic: 'rooms', parent: centre, order: 'a0', with: { title: 'Rooms', markers: ['decision'] } },
    { op: 'add', topic: 'books', parent: centre, order: 'a1', with: { title: 'Books', markers: ['decision'] } },
    { op: 'add', topic: 'days', parent: centre, order: 'a2', with: { title: 'Days' } },
  ])
  const markers = async () =>
    Object.fromEntries((await ines.caller.open(id)).snapshot.topics.map(one => [one.title, one.markers ?? []] as const))
  await openTree(page, id)
  await openTree(rana.page, id)
  const pick = page.getByRole('dialog', { name: /another marker, or none/ })
  await topic(page, 'Rooms').getByRole('img', { name: 'Decision' }).click()
  await expect(pick).toBeVisible()
  await pick.getByRole('button', { name: 'Question' }).click()
  await expect(topic(rana.page, /^Rooms, Question/)).toBeVisible()
  await expect(tree(page)).toBeFocused()
  // Several at once, by keys.
  await topic(page, /^Rooms/).click({ position: { x: 40, y: 10 } })
  await topic(page, /^Books/).click({ modifiers: ['Control'], position: { x: 40, y: 10 } })
  await topic(page, /^Books/)
    .getByRole('img', { name: 'Decision' })
    .click()
  await expect(pick).toContainText('on 2 topics')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Escape')
  await expect(pick).toHaveCount(0)
  await topic(page, /^Books/)
    .getByRole('img', { name: 'Decision' })
    .click()
  await pick.getByRole('button', { name: 'Without “Decision”' }).click()
  await expect.poll(markers).toMatchObject({ Rooms: ['question'], Books: [] })
  await page.keyboard.press('Control+z')
  await expect.poll(markers).toMatchObject({ Rooms: ['question'], Books: ['decision'] })
  // Pointing at what it's tied to.
  await topic(page, 'Days').click()
  await page.keyboard.press('x')
  await expect(page.getByRole('dialog', { name: 'Tie to' })).toBeVisible()
  await topic(page, /^Books/).click({ position: { x: 60, y: 10 } })
  await page.keyboard.type('before')
  await page.keyboard.press('Enter')
  await expect
    .poll(async () =>
      (await ines.caller.open(id)).snapshot.topics.flatMap(one => one.ties?.map(tie => `${tie.to} ${tie.label}`) ?? []),
    )
    .toEqual(['books before'])
  await expect(topic(page, 'Days')).toHaveAttribute('aria-selected', 'true')
  // In the outline too, and where something moves to.
  await page.keyboard.press('v')
  const row = (name: RegExp) => page.getByRole('treeitem', { name })
  await row(/Days/).click()
  await page.keyboard.press('x')
  await expect(page.getByRole('dialog', { name: 'Tie to' })).toBeVisible()
  await row(/Rooms/).click({ position: { x: 60, y: 12 } })
  await expect
    .poll(async () => (await ines.caller.open(id)).snapshot.topics.flatMap(one => one.ties?.map(tie => tie.to) ?? []))
    .toEqual(['books', 'rooms'])
  await page.keyboard.press('Escape')
  await expect(row(/Days/)).toHaveAttribute('aria-selected', 'true')
})
