import sharp from 'sharp'
import { bringIn } from '../caller'
import {
  expect,
  expectTitles,
  intercept,
  openTree,
  pasteText,
  pour,
  test,
  titlesOf,
  topic,
  tree,
  two,
  visitor,
} from './porch'

const fieldsOf = async (caller: import('../caller').Caller, id: string) => (await caller.open(id)).snapshot.fields
const topicsOf = async (caller: import('../caller').Caller, id: string) =>
  new Map((await caller.open(id)).snapshot.topics.map(one => [one.title ?? '', one]))

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

test('an emoji is drawn in colour, on a machine without a font for it too', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pour(page, ['Van'])
  await topic(page, 'Van').click()
  await page.keyboard.press('m')
  const sheet = page.getByRole('complementary', { name: 'Markers' })
  // Whether there is ink is only to be seen in the picture: a glyph without any is as wide as one with it.
  const inked = async (): Promise<boolean> => {
    const { channels } = await sharp(await sheet.getByRole('button', { name: 'Books' }).screenshot()).stats()
    return channels.some(channel => channel.stdev > 8)
  }
  await expect.poll(inked).toBe(true)
  const { data } = await sharp(await sheet.getByRole('button', { name: 'Love it' }).screenshot())
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
  // A heart is red where it's drawn in colour: far more red than blue.
  let red = 0
  for (let i = 0; i < data.length; i += 3) if (data[i]! - data[i + 2]! > 100) red++
  expect(red).toBeGreaterThan(40)
})

test('moved under what one has folded, a topic stays in sight, and nobody else’s folds move', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pasteText(page, { 'text/plain': 'Books\n\tCrates\n\t\tSmall\nVan' })
  await expect(topic(rana.page, 'Small')).toBeVisible()
  for (const [on, title] of [
    [page, 'Crates'],
    [page, 'Books'],
    [rana.page, 'Crates'],
  ] as const) {
    await topic(on, new RegExp(`^${title}`)).click()
    await on.keyboard.press('.')
  }
  await topic(page, 'Van').click()
  await page.keyboard.press('g')
  await page.keyboard.type('crates')
  await page.keyboard.press('Enter')
  await expect(topic(page, 'Van')).toHaveAttribute('aria-selected', 'true')
  await expectTitles(ines.caller, id, [['Books', ['Crates', 'Small', 'Van']]])
  await expect(topic(rana.page, /^Crates, 2 folded away/)).toBeVisible()
  // By key, one level in: the sibling before it is folded again.
  await page.keyboard.press('Alt+ArrowLeft')
  await topic(page, 'Crates').click()
  await page.keyboard.press('.')
  await topic(page, 'Van').click()
  await page.keyboard.press('Alt+ArrowRight')
  await expectTitles(ines.caller, id, [['Books', ['Crates', 'Small', 'Van']]])
  await expect(topic(page, 'Van')).toBeVisible()
})

test('markers: one at a time in a set, dragged onto a topic, a set of our own, the key counts and filters', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pour(page, ['Lift', 'Lamps', 'Doors'])
  await topic(page, 'Lift').click()
  await page.keyboard.press('m')
  const sheet = page.getByRole('complementary', { name: 'Markers' })
  await sheet.getByRole('button', { name: 'At risk' }).click()
  await sheet.getByRole('button', { name: 'Stuck' }).click()
  await expect(topic(rana.page, 'Lift').getByRole('img', { name: 'Stuck' })).toBeVisible()
  await expect(topic(rana.page, 'Lift').getByRole('img', { name: 'At risk' })).toHaveCount(0)
  await sheet.getByRole('button', { name: 'Idea' }).dragTo(topic(page, 'Doors'))
  await expect(topic(rana.page, 'Doors').getByRole('img', { name: 'Idea' })).toBeVisible()
  await sheet.getByRole('button', { name: 'A set of our own' }).click()
  await page.getByLabel('Name of the set').fill('Rooms')
  await page.getByLabel('Name of marker 1').fill('Drying loft')
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await sheet.getByRole('button', { name: 'Drying loft' }).click()
  await expect(topic(rana.page, 'Lift').getByRole('img', { name: 'Drying loft' })).toBeVisible()
  await topic(page, 'Lamps').click()
  await page.keyboard.press('k')
  const key = page.getByRole('complementary', { name: 'Key' })
  await expect(key.getByRole('button')).toHaveText(['', 'Stuck1', 'Idea1', 'Drying loft1'])
  // Another marker everywhere instead, in one step, and back.
  await key.getByLabel('Everywhere instead of Stuck').selectOption('paused')
  await expect(topic(rana.page, 'Lift').getByRole('img', { name: 'Paused' })).toBeVisible()
  await page.getByRole('status').filter({ hasText: 'Changed 1 topic' }).getByRole('button', { name: 'Undo' }).click()
  await expect(topic(rana.page, 'Lift').getByRole('img', { name: 'Stuck' })).toBeVisible()
  await key.getByRole('button', { name: 'Idea' }).click()
  await expect(topic(page, 'Lamps')).toHaveClass(/dim/)
  await expect(topic(page, 'Doors')).toHaveClass(/hit/)
  await key.getByRole('button', { name: 'Show all' }).click()
  await expect(topic(page, 'Lamps')).not.toHaveClass(/dim/)
})

test('style: of a topic, a branch, a level, the tree; copied and pasted; a look saved and undone', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\n\tShelving\nBooks' })
  await topic(page, 'Fit-out').click()
  await page.keyboard.press('c')
  const panel = page.getByRole('complementary', { name: 'Colour and style' })
  await panel.getByRole('button', { name: 'Ground: palette colour 4' }).click()
  await panel.getByRole('button', { name: 'Bold' }).click()
  await panel.getByRole('button', { name: 'Luggage tag' }).click()
  await expect(topic(rana.page, 'Fit-out')).toHaveClass(/shape-tag/)
  await page.keyboard.press('Shift+C')
  await topic(page, 'Books').click()
  await page.keyboard.press('Shift+V')
  await expect
    .poll(async () => (await topicsOf(ines.caller, id)).get('Books'))
    .toMatchObject({ fill: '3', bold: true, shape: 'tag' })
  await panel.getByRole('button', { name: 'Its level' }).click()
  await panel.getByRole('button', { name: 'Underlined' }).click()
  await expect.poll(async () => (await fieldsOf(ines.caller, id)).levels).toEqual([{}, { underlined: true }])
  await panel.getByRole('button', { name: 'Whole tree', exact: true }).click()
  const page_ = () =>
    rana.page.locator('.canvas').evaluate(element => getComputedStyle(element).getPropertyValue('--page'))
  const plain = await page_()
  await panel.getByRole('button', { name: 'Ledger' }).click()
  await expect.poll(page_).not.toBe(plain)
  await panel.getByLabel('Name of the new look').fill('River')
  await panel.getByRole('button', { name: 'Save look' }).click()
  await expect(panel.getByRole('button', { name: 'River', exact: true })).toHaveAttribute('aria-pressed', 'true')
  expect((await fieldsOf(ines.caller, id)).looks).toMatchObject([{ name: 'River' }])
  await topic(page, 'Books').click()
  for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z')
  await expect.poll(page_).toBe(plain)
})

test('a picture in a topic: from a file, placed, resized, seen by the other; what isn’t one is refused in words', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pour(page, ['Lift'])
  await topic(page, 'Lift').click()
  const picture = await sharp({ create: { width: 10, height: 5, channels: 3, background: '#b05a12' } })
    .png()
    .toBuffer()
  await page
    .getByLabel('Picture from a file')
    .setInputFiles({ name: 'lift.png', mimeType: 'image/png', buffer: picture })
  const shown = topic(rana.page, 'Lift').getByRole('img', { name: 'Picture of Lift' })
  await expect(shown).toBeVisible()
  await expect(shown).toHaveJSProperty('naturalWidth', 10)
  await page.getByRole('button', { name: 'Below', exact: true }).click()
  await page.getByLabel('Width of the picture').fill('300')
  await expect
    .poll(async () => (await topicsOf(ines.caller, id)).get('Lift')!.picture)
    .toMatchObject({ width: 300, ratio: 0.5, place: 'below' })
  await expect.poll(async () => Math.round((await shown.boundingBox())!.width)).toBe(300)
  await page
    .getByLabel('Picture from a file')
    .setInputFiles({ name: 'lift.png', mimeType: 'image/png', buffer: Buffer.from('no picture at all') })
  await expect(page.getByRole('status').filter({ hasText: 'isn’t a picture that can be read' })).toBeVisible()
  await topic(page, 'Lift').click()
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(shown).toHaveCount(0)
})

test('a copy for others takes nothing private along that wasn’t chosen, shows what would travel, and asks them in', async ({
  browser,
}) => {
  const [ines, rana] = [await visitor(browser), await visitor(browser, 'Rana Tahiri')]
  const id = await ines.caller.makeTree('Move')
  const { snapshot } = await ines.caller.open(id)
  const made = await ines.caller.edit(id, [
    {
      op: 'add',
      topic: 'lift',
      parent: snapshot.centre,
      order: 'a0',
      with: { title: 'Lift', people: [ines.caller.id], due: '2027-03-01', markers: ['risk'] },
    },
  ])
  expect(made.status).toBe(200)
  const { page } = ines
  await openTree(page, id)
  await page.keyboard.press('Control+k')
  await page.keyboard.type('copy for others')
  await page.keyboard.press('Enter')
  await page.keyboard.type('not an address')
  await page.keyboard.press('Enter')
  const dialog = page.getByRole('dialog', { name: 'A copy for others' })
  await expect(dialog.getByRole('alert')).toContainText('at least one mail address')
  const travels = dialog.getByRole('list', { name: 'What would travel' })
  await expect(travels.getByText('Lift')).toHaveText('Lift')
  await dialog.getByRole('checkbox', { name: 'Dates' }).check()
  await expect(travels.getByText('Lift')).toHaveText('Lift a date')
  await dialog.getByRole('textbox', { name: 'Who gets the copy' }).fill(`Rana Tahiri <${rana.caller.email}>`)
  await dialog.getByRole('textbox', { name: 'Name of the copy' }).fill('Move, for the firm')
  await page.keyboard.press('Enter')
  await expect(
    page
      .getByRole('status')
      .filter({ hasText: '“Move, for the firm” is among your trees, and one letter is on the way.' }),
  ).toBeVisible()
  await expect(tree(page)).toBeFocused()
  const { data: letters } = await rana.caller.call<{ link: string }[]>('GET', '/api/letters')
  await rana.caller.call('POST', `/api/invitations/${letters[0]!.link.split('/').at(-1)}`)
  const { data: trees } = await rana.caller.call<{ id: string; title: string; role: string }[]>('GET', '/api/trees')
  expect(trees.map(({ title, role }) => [title, role])).toEqual([['Move, for the firm', 'viewer']])
  const copy = (await rana.caller.open(trees[0]!.id)).snapshot.topics.find(({ title }) => title === 'Lift')!
  expect([copy.due, copy.people ?? [], copy.markers]).toEqual(['2027-03-01', [], ['risk']])
})

test('a branch is duplicated without people and with its dates moved; the help finds what a word is about', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser, 'Ines Brandt')
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pour(page, ['Lift // Ines, due 12 May 2027'])
  await topic(page, /^Lift/).click()
  await page.keyboard.press('Shift+B')
  const dialog = page.getByRole('dialog', { name: 'Duplicate' })
  await dialog.getByLabel('People').uncheck()
  await dialog.getByLabel('Days to move dates by').fill('7')
  await dialog.getByLabel('Days to move dates by').press('Tab')
  await dialog.getByRole('button', { name: 'Duplicate “Lift”' }).click()
  await expectTitles(caller, id, ['Lift', 'Lift'])
  expect((await caller.open(id)).snapshot.topics.at(-1)).toMatchObject({ due: '2027-05-19' })
  expect((await caller.open(id)).snapshot.topics.at(-1)!.people ?? []).toEqual([])
  await page.keyboard.press('h')
  await page.getByLabel('Search the help').fill('tray')
  const help = page.getByRole('dialog', { name: 'Help' })
  await help.getByRole('button', { name: 'The tray' }).click()
  await expect(help.getByRole('heading', { name: 'The tray' })).toBeVisible()
  await expect(help.getByText('A list of loose lines beside the tree')).toBeVisible()
})

test('forty topics are poured out, put in five branches, marked and coloured, by keys and a few clicks, in under three minutes', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = (await caller.call<{ id: string }>('POST', '/api/trees', { title: 'Move', arrangement: 'right' })).data.id
  await openTree(page, id)
  const began = Date.now()
  await page.keyboard.press('Tab')
  for (let i = 1; i <= 40; i++) {
    await page.keyboard.type(`Topic ${i}`)
    await page.keyboard.press('Enter')
  }
  await page.keyboard.press('Escape')
  await page.keyboard.press('Home')
  await page.keyboard.press('c')
  const panel = page.getByRole('complementary', { name: 'Colour and style' })
  await page.keyboard.press('Escape')
  for (let branch = 1; branch <= 5; branch++) {
    for (let i = 1; i < 8; i++) await page.keyboard.press('Shift+ArrowDown')
    await page.keyboard.press('Shift+P')
    await page.keyboard.type(`Branch ${branch} // important`)
    await page.keyboard.press('Enter')
    await page.keyboard.press('Escape')
    await panel.getByRole('button', { name: `Ground: palette colour ${branch}`, exact: true }).click()
    await page.keyboard.press('ArrowDown')
  }
  const branches = Array.from(
    { length: 5 },
    (_, b) =>
      [`Branch ${b + 1}`, ...Array.from({ length: 8 }, (_, i) => `Topic ${b * 8 + i + 1}`)] as [string, ...string[]],
  )
  await expectTitles(caller, id, branches)
  for (let branch = 1; branch <= 5; branch++)
    await expect
      .poll(async () => (await topicsOf(caller, id)).get(`Branch ${branch}`))
      .toMatchObject({ markers: ['important'], fill: String(branch - 1) })
  expect(Date.now() - began).toBeLessThan(180_000)
})

test('a viewer can fold, find and look, and changes nothing by any of it', async ({ browser }) => {
  const ines = await visitor(browser)
  const lev = await visitor(browser, 'Lev Aalto')
  const id = await ines.caller.makeTree('Move')
  await bringIn(ines.caller, id, lev.caller, 'viewer')
  await openTree(ines.page, id)
  await pasteText(ines.page, { 'text/plain': 'Fit-out\n\tLift\nBooks' })
  await openTree(lev.page, id)
  const { version } = await ines.caller.open(id)
  await topic(lev.page, 'Fit-out').click()
  for (const key of ['.', 'o', 'o', 'Shift+J', 'Shift+U', 'Shift+X', 'Shift+V', 'd', ')'])
    await lev.page.keyboard.press(key)
  await lev.page.keyboard.press('r')
  await expect(
    lev.page.getByRole('complementary', { name: 'Arrangement' }).getByRole('button', { name: 'Downward' }),
  ).toBeDisabled()
  await lev.page.keyboard.press('Escape')
  await lev.page.keyboard.press('l')
  // Only once the tray stands can its field be missing.
  await expect(lev.page.locator('section.tray')).toBeVisible()
  await expect(lev.page.getByLabel('New line for the tray')).toHaveCount(0)
  expect((await ines.caller.open(id)).version).toBe(version)
})

test('commands by name: even sides, front and back, equal gaps, zoom to the selection, a starter of one’s own', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  const command = async (name: string): Promise<void> => {
    await page.keyboard.press('Control+k')
    await page.getByLabel('Search everything').fill(name)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('dialog', { name: 'Everything box' })).toHaveCount(0)
  }
  await pasteText(page, { 'text/plain': 'A\nB\nC\n\tC1\n\tC2\n\tC3\n\tC4' })
  await expect.poll(async () => (await topicsOf(caller, id)).has('C4')).toBe(true)
  const right = async (title: string) =>
    (await topic(page, title).boundingBox())!.x > (await topic(page, 'Move').boundingBox())!.x
  const before = await topicsOf(caller, id)
  await caller.edit(id, [{ op: 'set', topic: before.get('Move')!.id, field: 'split', value: 'b00' }])
  for (const title of ['A', 'B', 'C']) await expect.poll(() => right(title)).toBe(true)
  await topic(page, 'Move').click()
  // By key; read from the top right on round the centre.
  await page.keyboard.press('y')
  await expect.poll(() => right('C')).toBe(false)
  expect([await right('A'), await right('B')]).toEqual([true, true])
  await page.keyboard.press('Control+z')
  await expect.poll(() => right('C')).toBe(true)
  await command('even out')
  await expect.poll(() => right('C')).toBe(false)
  // Who moves over the end of a side changes places with whoever is there: up the left side is on in the order.
  await topic(page, 'B').click({ position: { x: 6, y: 8 } })
  await page.keyboard.press('Alt+ArrowDown')
  await expect.poll(() => right('B')).toBe(false)
  expect(await right('C')).toBe(true)
  await page.keyboard.press('Alt+ArrowDown')
  await expect.poll(() => right('B')).toBe(true)
  expect(await titlesOf(caller, id)).toEqual(['A', 'B', ['C', 'C1', 'C2', 'C3', 'C4']])

  await command('arrange the tree: by hand')
  await topic(page, 'C1').click()
  await command('bring to the front')
  await expect.poll(async () => (await topicsOf(caller, id)).get('C1')!.z).toBe(1)
  await command('send to the back')
  await expect.poll(async () => (await topicsOf(caller, id)).get('C1')!.z).toBe(-1)
  await caller.edit(id, [{ op: 'set', topic: (await topicsOf(caller, id)).get('C2')!.id, field: 'y', value: 90 }])
  await topic(page, 'C1').click()
  for (const title of ['C2', 'C3', 'C4']) await topic(page, title).click({ modifiers: ['Control'] })
  await command('equal gaps down')
  const tops = async () =>
    Promise.all(['C1', 'C2', 'C3', 'C4'].map(async title => (await topic(page, title).boundingBox())!.y))
  await expect
    .poll(async () => {
      const sorted = (await tops()).sort((a, b) => a - b)
      const gaps = sorted.slice(1).map((y, i) => y - sorted[i]!)
      return Math.max(...gaps) - Math.min(...gaps)
    })
    .toBeLessThan(2)
  await topic(page, 'C4').click()
  await page.keyboard.press('-')
  await page.keyboard.press('-')
  await page.keyboard.press('z')
  await expect(page.getByRole('button', { name: 'Zoom to 100 %' })).toHaveText('100 %')

  await command('save the tree as a starter')
  await page.getByLabel('Name of the starter').fill('Our move')
  // Nothing private goes along unless it's chosen, and one sees what does.
  const travels = page.getByRole('list', { name: 'What would travel' })
  await expect(travels.getByRole('listitem')).toContainText(['Move', 'C1'])
  for (const part of ['Notes', 'People', 'Dates', 'Links', 'Files and pictures', 'Records of meetings'])
    await expect(page.getByRole('checkbox', { name: part, exact: true })).not.toBeChecked()
  await page.getByRole('button', { name: 'Save the starter' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'among your starters' })).toBeVisible()
  await page.goto('/trees')
  await page.getByRole('button', { name: 'New tree' }).click()
  await page.getByRole('button', { name: /Our move.*yours/ }).click()
  await expect(topic(page, 'C1')).toBeVisible()
})

test('a picture is pasted, and dropped onto a topic', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pour(page, ['Lift', 'Lamps'])
  const bytes = [
    ...(await sharp({ create: { width: 12, height: 6, channels: 3, background: '#227780' } })
      .png()
      .toBuffer()),
  ]
  await topic(page, 'Lift').click()
  await page.evaluate(data => {
    const transfer = new DataTransfer()
    transfer.items.add(new File([new Uint8Array(data)], 'shot.png', { type: 'image/png' }))
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: transfer, bubbles: true, cancelable: true }),
    )
  }, bytes)
  await expect(topic(page, 'Lift').getByRole('img', { name: 'Picture of Lift' })).toBeVisible()
  const lamps = (await topic(page, 'Lamps').boundingBox())!
  await page.evaluate(
    ({ data, x, y }) => {
      const transfer = new DataTransfer()
      transfer.items.add(new File([new Uint8Array(data)], 'lamps.png', { type: 'image/png' }))
      const at = document.elementFromPoint(x, y)!
      for (const type of ['dragover', 'drop'])
        at.dispatchEvent(
          new DragEvent(type, { dataTransfer: transfer, bubbles: true, cancelable: true, clientX: x, clientY: y }),
        )
    },
    { data: bytes, x: lamps.x + lamps.width / 2, y: lamps.y + lamps.height / 2 },
  )
  await expect(topic(page, 'Lamps').getByRole('img', { name: 'Picture of Lamps' })).toBeVisible()
  const topics = await topicsOf(caller, id)
  expect(topics.get('Lift')!.picture!.file).toBe(topics.get('Lamps')!.picture!.file)
})

test('the everything box marks the selection and takes the tree along; sheet and card say what a branch comes to', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(id, [
    { op: 'add', topic: 'lift', parent: centre, order: 'a0', with: { title: 'Lift' } },
    { op: 'add', topic: 'shaft', parent: 'lift', order: 'a0', with: { title: 'Shaft', done: 100, due: '2027-05-10' } },
    { op: 'add', topic: 'cab', parent: 'lift', order: 'a1', with: { title: 'Cab', done: 0, people: [caller.id] } },
  ])
  await openTree(page, id)
  await topic(page, 'Lift').click()
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  await expect(sheet.getByText('1 of 2 done · 50 % · 10 May 2027')).toBeVisible()
  await page.keyboard.press('Control+k')
  await page.keyboard.type('risk')
  await page.getByRole('option', { name: /^At risk.*put it on the selection/ }).click()
  await expect(topic(page, /^Lift/)).toHaveAccessibleName(/At risk/)
  // Others' work changes what the branch comes to at once.
  await caller.edit(id, [{ op: 'set', topic: 'cab', field: 'done', value: 50 }])
  await expect(sheet.getByText('1 of 2 done · 75 % · 10 May 2027')).toBeVisible()
  await topic(page, /^Cab/).locator('.small').hover()
  const card = page.getByRole('dialog', { name: 'What hangs on Cab' })
  await expect(card.getByText('Ines Brandt')).toBeVisible()
  await expect(card.getByText('50 %')).toBeVisible()
  const saving = page.waitForEvent('download')
  await page.keyboard.press('Control+k')
  await page.keyboard.type('opml')
  await page.keyboard.press('Enter')
  expect((await saving).suggestedFilename()).toBe('Move.opml')
})

test('the width of a plank is pulled at its grip while its title is open, and not a letter is lost', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Shelving for the reading room, along the river wall and under the windows' })
  const plank = topic(page, /^Shelving/)
  await plank.click()
  await page.keyboard.press('e')
  await page.keyboard.press('End')
  await page.keyboard.type(' too')
  const field = page.getByRole('textbox', { name: 'Title', exact: true })
  const grip = page.locator('.width-grip')
  const before = (await plank.boundingBox())!
  const at = (await grip.boundingBox())!
  const [x, y] = [at.x + at.width / 2, at.y + at.height / 2]
  const pull = async (by: number) => {
    await page.mouse.move(x, y)
    await page.mouse.down()
    await page.mouse.move(x + by / 2, y)
    await page.mouse.move(x + by, y)
  }
  // Let go of by Esc, it's as it was, and the title stays open.
  await pull(-120)
  await expect.poll(async () => (await plank.boundingBox())!.height).toBeGreaterThan(before.height)
  await page.keyboard.press('Escape')
  await page.mouse.up()
  await expect.poll(async () => (await plank.boundingBox())!.height).toBe(before.height)
  await expect(field).toBeFocused()
  await pull(-120)
  await page.mouse.up()
  await expect(field).toBeFocused()
  await page.keyboard.type('!')
  await page.keyboard.press('Enter')
  const shelving = async () =>
    [...(await topicsOf(caller, id)).values()].find(({ title }) => title?.startsWith('Shel'))!
  await expect.poll(async () => (await shelving()).title).toMatch(/ too!$/)
  expect((await shelving()).width).toBeGreaterThan(100)
  expect((await shelving()).width).toBeLessThan(220)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await shelving()).width ?? null).toBe(null)
})
