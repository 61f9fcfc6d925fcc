import { expect, expectTitles, intercept, openTree, pasteText, pour, test, topic, two, visitor } from './porch'
import { fieldsOf, topicsOf } from './building-stage'

test('a new tree begins blank in an arrangement, or from a starter; described, tagged and found again', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  await page.goto('/trees')
  await page.getByRole('button', { name: 'New tree' }).click()
  const dialog = page.getByRole('dialog', { name: 'New tree' })
  await expect(dialog.getByLabel('Title of the new tree')).toBeFocused()
  await dialog.getByLabel('Title of the new tree').fill('Opening day')
  await dialog.getByLabel('Search starters').fill('run-sheet')
  await dialog.getByRole('button', { name: /Event with a run-sheet/ }).click()
  await expect(topic(page, 'Opening day')).toBeVisible()
  await expect(topic(page, /^Run-sheet/)).toBeVisible()
  await page.keyboard.press('Control+k')
  await page.getByLabel('Search everything').fill('describe and tag')
  await page.keyboard.press('Enter')
  await page.getByLabel('Description').fill('The day the river branch opens')
  await page.getByLabel('Add a tag').fill('river')
  await page.keyboard.press('Enter')
  await page.getByRole('dialog', { name: 'About this tree' }).getByRole('button', { name: 'Close' }).click()
  await page.goto('/trees')
  await page.getByLabel('Search trees').fill('first aid')
  const listed = page.getByRole('listitem').filter({ hasText: 'Opening day' })
  await expect(listed).toContainText('The day the river branch opens')
  await expect(listed.locator('img')).toHaveJSProperty('naturalWidth', 200)
  await listed.getByRole('button', { name: 'Only trees tagged river' }).click()
  await expect(listed).toBeVisible()
  await page.getByLabel('Search trees').fill('no such words')
  await expect(page.getByText('No tree has these words')).toBeVisible()
  await page.getByRole('button', { name: 'New tree' }).click()
  await expect(page.getByLabel('Title of the new tree')).toBeFocused()
  await page.getByLabel('Title of the new tree').fill('Van')
  await page.getByRole('combobox', { name: 'Arrangement' }).selectOption('down')
  await page.getByRole('button', { name: 'Begin blank' }).click()
  await expect(topic(page, 'Van')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Arrangement of the tree' })).toHaveText('Downward')
  expect((await caller.call<unknown[]>('GET', '/api/trees')).data).toHaveLength(2)
})

test('the tray: lines are written, pasted, filed by a few letters or dragged; a second person sees them', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await openTree(rana.page, id)
  await pour(ines.page, ['Fit-out', 'Books'])
  await ines.page.keyboard.press('l')
  const line = (text: string) => ines.page.getByRole('option', { name: text, exact: true })
  await ines.page.keyboard.type('Order shelves // due 12 May 2027')
  await ines.page.keyboard.press('Enter')
  await ines.page.keyboard.type('Count crates')
  await ines.page.keyboard.press('Enter')
  await pasteText(ines.page, { 'text/plain': 'Tape\nLabels\n' })
  await expect(line('Labels')).toBeVisible()
  await rana.page.getByRole('button', { name: 'Tray' }).click()
  await expect(rana.page.getByRole('option', { name: 'Count crates' })).toBeVisible()
  await expect(topic(rana.page, 'Tape')).toHaveCount(0)
  // Three at once by key: the first letters of the topic they belong under.
  await line('Count crates').click()
  await ines.page.keyboard.press('Shift+ArrowDown')
  await ines.page.keyboard.press('Shift+ArrowDown')
  await ines.page.keyboard.type('boo')
  await ines.page.keyboard.press('Enter')
  await expectTitles(ines.caller, id, ['Fit-out', ['Books', 'Count crates', 'Tape', 'Labels']])
  await rana.page.getByRole('button', { name: 'Close the tray' }).click()
  await rana.page.keyboard.press('f')
  await expect(topic(rana.page, 'Labels')).toBeVisible()
  // The last one by drag: the slot says where.
  const target = (await topic(ines.page, 'Fit-out').boundingBox())!
  await line('Order shelves').dragTo(ines.page.locator('.canvas'), {
    targetPosition: { x: target.x + target.width / 2 - 56 - 264, y: target.y + target.height / 2 - 52 },
  })
  await expectTitles(ines.caller, id, [
    ['Fit-out', 'Order shelves'],
    ['Books', 'Count crates', 'Tape', 'Labels'],
  ])
  expect((await topicsOf(ines.caller, id)).get('Order shelves')).toMatchObject({ due: '2027-05-12' })
  expect((await topicsOf(ines.caller, id)).get('Order shelves')!.tray ?? false).toBe(false)
})

test('a paste over 100 kB is read beside, while the keys go on; it can be given up; what can’t be read is said', async ({
  browser,
}) => {
  const { ines, id } = await two(browser)
  const { page, caller } = ines
  await openTree(page, id)
  const lines = Array.from({ length: 4000 }, (_, i) => `Crate ${i} of the list of the old branch`)
  // The thread never answers: it's given up, and nothing was changed.
  await intercept(page, '**/paste-worker*', () => new Promise(() => {}))
  await pasteText(page, { 'text/plain': lines.join('\n') })
  const notice = page.getByRole('status').filter({ hasText: 'Reading what was pasted' })
  await expect(notice).toBeVisible()
  // The hands aren't held up meanwhile.
  await page.keyboard.press('Tab')
  await page.keyboard.type('Meanwhile')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(topic(page, 'Meanwhile')).toBeVisible()
  await page.getByRole('button', { name: 'Give up' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'Given up. Nothing was changed.' })).toBeVisible()
  await page.unroute('**/paste-worker*')
  await topic(page, 'Meanwhile').click()
  await pasteText(page, { 'text/html': '<ul><li>x'.repeat(20_000) })
  await expect(page.getByRole('status').filter({ hasText: /too many levels deep/ })).toBeVisible()
  await pasteText(page, { 'text/plain': lines.join('\n') })
  await expect(page.getByRole('status').filter({ hasText: 'Pasted 4,000 topics.' })).toBeVisible()
  await expect.poll(async () => (await caller.open(id)).snapshot.topics.length).toBe(4002)
})

test('every arrangement, for the tree and for a branch; places by hand are kept; the space is set; the other person sees it', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  // Places are compared when planks stand, not while they glide.
  await page.emulateMedia({ reducedMotion: 'reduce' })
  await openTree(page, id)
  await openTree(rana.page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\n\tShelving\n\tLift\nBooks\n\tCrates\n\tLabels\nPeople' })
  await expect(topic(rana.page, 'Labels')).toBeVisible()
  const at = async (title: string, on = page) => (await topic(on, title).boundingBox())!
  await page.keyboard.press('r')
  const panel = page.getByRole('complementary', { name: 'Arrangement' })
  await topic(page, 'Move').click()
  await panel.getByRole('button', { name: 'Downward', exact: true }).click()
  await expect
    .poll(async () => (await at('Shelving', rana.page)).y - (await at('Fit-out', rana.page)).y)
    .toBeGreaterThan(30)
  await topic(page, 'Books').click()
  await panel.getByRole('button', { name: '“Books”' }).click()
  await panel.getByRole('button', { name: 'Rightward', exact: true }).click()
  await expect.poll(async () => (await at('Crates')).x - (await at('Books')).x).toBeGreaterThan(30)
  await panel.getByRole('button', { name: 'Like the tree' }).click()
  await expect.poll(async () => (await at('Crates')).y - (await at('Books')).y).toBeGreaterThan(20)
  await panel.getByRole('button', { name: 'The tree', exact: true }).click()
  for (const name of ['Leftward', 'Rightward', 'Around the centre', 'Along a time axis', 'Both sides']) {
    await panel.getByRole('button', { name, exact: true }).click()
    await expect(page.getByRole('button', { name: 'Arrangement of the tree' })).toHaveText(name)
    for (const title of ['Shelving', 'People']) await expect(topic(page, title)).toBeVisible()
  }
  const before = (await at('Crates')).x - (await at('Books')).x
  // One dial for both directions, opened into two.
  await panel.getByRole('button', { name: 'Along and across apart' }).click()
  await panel.getByRole('slider', { name: 'Space along' }).fill('200')
  await expect
    .poll(async () => Math.abs((await at('Crates')).x - (await at('Books')).x))
    .toBeGreaterThan(Math.abs(before) + 20)
  await expect.poll(async () => (await fieldsOf(ines.caller, id)).along).toBe(200)
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await fieldsOf(ines.caller, id)).along).toBe(100)
  // A branch has space of its own, and runs on to the side where it stands.
  for (const title of ['Books', 'Fit-out']) {
    const kid = title === 'Books' ? 'Crates' : 'Shelving'
    const was = (await at(kid)).x - (await at(title)).x
    await topic(page, title).click({ position: { x: 6, y: 8 } })
    await panel.getByRole('button', { name: `“${title}”` }).click()
    await panel.getByRole('button', { name: 'Along and across apart' }).click()
    await panel.getByRole('slider', { name: 'Space along' }).fill('300')
    await expect.poll(async () => Math.sign(was) * ((await at(kid)).x - (await at(title)).x - was)).toBeGreaterThan(20)
    expect((await topicsOf(ines.caller, id)).get(title)).toMatchObject({ spaceAlong: 300 })
    await page.keyboard.press('Control+z')
    await expect.poll(async () => Math.round((await at(kid)).x - (await at(title)).x - was)).toBe(0)
  }
  await panel.getByRole('button', { name: 'The tree', exact: true }).click()
  await topic(page, 'Move').click()
  await page.keyboard.press('f')

  // By hand: everything stays where it is seen; then one is dragged, its branch with it, and keeps its place through
  // another arrangement.
  await topic(page, 'Lift').click({ trial: true })
  const seen = await at('Lift')
  await panel.getByRole('button', { name: 'By hand' }).click()
  await page.waitForFunction(() => document.querySelectorAll('[role=treeitem]').length === 8)
  await expect.poll(async () => Math.round((await at('Lift')).y - seen.y)).toBe(0)
  const books = await at('Books')
  const gap = (await at('Crates')).x - books.x
  await page.mouse.move(books.x + 20, books.y + 10)
  await page.mouse.down()
  await page.mouse.move(books.x + 40, books.y + 60)
  await page.mouse.move(books.x + 53, books.y + 127, { steps: 5 })
  await expect(page.getByText('placed by hand')).toBeVisible()
  await page.mouse.up()
  await expect.poll(async () => Math.round((await at('Books')).y - books.y)).toBeGreaterThan(100)
  expect((await at('Crates')).x - (await at('Books')).x).toBeCloseTo(gap, 0)
  const placed = (await topicsOf(ines.caller, id)).get('Books')!
  await panel.getByRole('button', { name: 'Both sides' }).click()
  await panel.getByRole('button', { name: 'By hand' }).click()
  expect((await topicsOf(ines.caller, id)).get('Books')).toMatchObject({ x: placed.x, y: placed.y })
  // A strip comes when several are selected; they line up with the one that has the focus, and step through layers.
  const strip = page.getByRole('toolbar', { name: 'Line up by hand' })
  await topic(page, 'Shelving').click()
  await expect(topic(page, 'Shelving')).toHaveAttribute('aria-selected', 'true')
  await expect(strip).toHaveCount(0)
  await topic(page, 'Lift').click({ modifiers: ['Control'] })
  await expect(strip.getByText('with “Lift”')).toBeVisible()
  await strip.getByRole('button', { name: 'One layer to the front' }).click()
  await expect.poll(async () => (await topicsOf(ines.caller, id)).get('Lift')?.z).toBe(1)
  await strip.getByRole('button', { name: 'Left edges' }).click()
  await expect.poll(async () => Math.round((await at('Shelving')).x - (await at('Lift')).x)).toBe(0)
})

test('join, split, take apart, sort, reverse, detach and another centre, each undone in one step', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Books\n\tTape, labels, crates\n\tVan\n\tBoxes\n\t\tSmall\nPeople' })
  const undone = async (titles: Parameters<typeof expectTitles>[2]): Promise<void> => {
    await expectTitles(caller, id, titles)
    await page.keyboard.press('Control+z')
    await expectTitles(caller, id, [['Books', 'Tape, labels, crates', 'Van', ['Boxes', 'Small']], 'People'])
  }
  await topic(page, 'Tape, labels, crates').click()
  await page.keyboard.press('Shift+K')
  await undone([['Books', 'Tape', 'labels', 'crates', 'Van', ['Boxes', 'Small']], 'People'])
  await topic(page, 'Van').click()
  await topic(page, /^Boxes/).click({ modifiers: ['Control'] })
  await page.keyboard.press('Shift+J')
  await undone([['Books', 'Tape, labels, crates', ['Van Boxes', 'Small']], 'People'])
  await topic(page, /^Books/).click()
  await page.keyboard.press('Shift+U')
  await undone(['Tape, labels, crates', 'Van', ['Boxes', 'Small'], 'People'])
  await topic(page, /^Books/).click({ button: 'right' })
  // A click opens what the pointer may have opened on its way.
  await page.getByRole('menuitem', { name: 'Move and order' }).click()
  await page.getByRole('menuitem', { name: 'Sort children by title' }).click()
  await undone([['Books', ['Boxes', 'Small'], 'Tape, labels, crates', 'Van'], 'People'])
  await topic(page, 'Van').click()
  await page.keyboard.press('Shift+X')
  await expectTitles(caller, id, [['Books', 'Tape, labels, crates', ['Boxes', 'Small']], 'People'])
  await page.keyboard.press('Control+k')
  await page.getByLabel('Search everything').fill('another centre')
  await page.keyboard.press('Enter')
  await expect
    .poll(async () => (await topicsOf(caller, id)).get('Van'))
    .toMatchObject({ parent: null, arrangement: 'both' })
  await page.keyboard.press('u')
  await page.keyboard.press('y')
  // What is loose is attached by a few letters of its new parent; what isn’t needed yet goes in the tray.
  await page.keyboard.press('g')
  await page.keyboard.type('peo')
  await page.keyboard.press('Enter')
  await expectTitles(caller, id, [
    ['Books', 'Tape, labels, crates', ['Boxes', 'Small']],
    ['People', 'Van'],
  ])
  await page.keyboard.press('Shift+L')
  await expect.poll(async () => (await topicsOf(caller, id)).get('Van')).toMatchObject({ parent: null, tray: true })
  await expectTitles(caller, id, [['Books', 'Tape, labels, crates', ['Boxes', 'Small']], 'People'])
})

test('moving takes on the new branch’s colour; a key while dragging keeps its own, and that choice holds', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\n\tShelving\nBooks\n\tCrates' })
  const hue = (title: string) =>
    topic(page, title).evaluate(element => getComputedStyle(element).getPropertyValue('--hue'))
  const [fitOut, books] = [await hue('Fit-out'), await hue('Books')]
  expect(fitOut).not.toBe(books)
  const drag = async (title: string, onto: string, says: string, key?: string): Promise<void> => {
    const from = (await topic(page, title).boundingBox())!
    const to = (await topic(page, onto).boundingBox())!
    await page.mouse.move(from.x + 20, from.y + 12)
    await page.mouse.down()
    await page.mouse.move(from.x + 40, from.y + 30)
    await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 6 })
    if (key) await page.keyboard.press(key)
    await expect(page.getByText(says)).toBeVisible()
    await page.mouse.up()
  }
  await drag('Crates', 'Fit-out', 'takes its colour (C: keeps its own)')
  await expect.poll(() => hue('Crates')).toBe(fitOut)
  await page.keyboard.press('Control+z')
  await expect.poll(() => hue('Crates')).toBe(books)
  await drag('Crates', 'Fit-out', 'keeps its own colour (C: takes the one there)', 'c')
  await expectTitles(caller, id, [['Fit-out', 'Shelving', 'Crates'], 'Books'])
  await expect.poll(() => hue('Crates')).toBe(books)
  // Esc leaves the choice as it is; so does the next drag.
  await drag('Shelving', 'Books', 'keeps its own colour')
  await expect.poll(() => hue('Shelving')).toBe(fitOut)
})

test('folds are one’s own; one branch alone and back; overview; find goes from one to the next', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\n\tShelving in oak\n\t\tFront room\n\tLift\nBooks\n\tOak crates' })
  await expect(topic(rana.page, 'Front room')).toBeVisible()
  await page.keyboard.press('1')
  await expect(topic(page, /^Shelving/)).toHaveCount(0)
  await expect(topic(rana.page, 'Front room')).toBeVisible()
  await page.keyboard.press('0')
  await topic(page, 'Fit-out').click()
  await page.keyboard.press('o')
  await expect(page.getByText('Only this branch')).toBeVisible()
  await expect(topic(page, 'Books')).toHaveCount(0)
  await expect(topic(rana.page, 'Books')).toBeVisible()
  await page.getByRole('button', { name: 'Back to the whole tree' }).click()
  await expect(topic(page, 'Books')).toBeVisible()
  await page.keyboard.press('/')
  await page.keyboard.type('OAK')
  await expect(page.getByText('2 found')).toHaveCount(2)
  await expect(topic(page, 'Lift')).toHaveClass(/dim/)
  await page.keyboard.press('Enter')
  await expect(topic(page, /^Shelving in oak/)).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('Enter')
  await expect(topic(page, 'Oak crates')).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('Shift+Enter')
  await expect(topic(page, /^Shelving in oak/)).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('Escape')
  await expect(topic(page, 'Lift')).not.toHaveClass(/dim/)
  await page.keyboard.press('w')
  const overview = page.getByRole('img', { name: 'Overview of the tree' })
  const shift = () =>
    page
      .locator('.world')
      .first()
      .evaluate(element => Number(/translate\(([\d.-]+)px/.exec((element as HTMLElement).style.transform)![1]))
  const was = await shift()
  await overview.click({ position: { x: 190, y: 20 } })
  await expect.poll(shift).toBeLessThan(was - 40)
})
