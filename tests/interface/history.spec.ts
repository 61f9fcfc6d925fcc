import { expect, intercept, openTree, pasteText, test, titlesOf, topic, two, visitor } from './porch'

test('a tree that a second person wrecked is seen, understood and put right, and what was good stays', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Books\n\tCrates\n\t\tSmall\nFit-out\n\tLift\n\tRamp' })
  await expect(topic(page, 'Ramp')).toBeVisible()
  await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible()
  const idOf = async (title: string): Promise<string> =>
    (await caller.open(id)).snapshot.topics.find(one => one.title === title)!.id
  const [books, fit, lift, crates] = [
    await idOf('Books'),
    await idOf('Fit-out'),
    await idOf('Lift'),
    await idOf('Crates'),
  ]
  // Rana takes a branch away, moves another and renames it; and adds something that is good.
  await rana.caller.edit(id, [{ op: 'remove', topic: fit }])
  await rana.caller.edit(id, [
    { op: 'set', topic: crates, field: 'title', value: 'asdf' },
    { op: 'set', topic: crates, field: 'due', value: '2027-05-12' },
  ])
  await rana.caller.edit(id, [{ op: 'add', topic: 'good', parent: books, order: 'a8', with: { title: 'Labels' } }])
  await expect(topic(page, 'Labels')).toBeVisible()

  await topic(page, 'Books').click()
  await page.keyboard.press('u')
  await page.keyboard.press('h')
  await expect(page).toHaveURL(/\/history/)
  const slider = page.getByRole('slider', { name: 'Moment' })
  await expect(slider).toBeFocused()
  await expect(slider).toHaveAttribute('aria-valuetext', 'now')
  const list = page.getByRole('complementary', { name: 'What happened' })
  await expect(list).toContainText('took away “Fit-out” with 2 below')
  await expect(list).toContainText('renamed “Crates” to “asdf”')
  await expect(list).toContainText('added “Labels” under “Books”')
  // What came, and what changed, is pointed out on the planks, in words that are heard too.
  await expect(topic(page, /^new, Labels/)).toBeVisible()
  await expect(page.getByRole('status').filter({ hasText: 'Went: “Fit-out”' })).toBeVisible()
  // Back along the floor, an edit a key, as quick as hands go.
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowLeft')
  await expect(topic(page, /(^|, )Fit-out/)).toBeVisible()
  await expect(topic(page, /(^|, )Crates/)).toBeVisible()
  await expect(topic(page, /(^|, )Labels/)).toHaveCount(0)
  // Nothing is changed in the past: a letter that edits only says so.
  await topic(page, /(^|, )Lift/).click()
  await page.keyboard.press('Delete')
  await expect(topic(page, /(^|, )Lift/)).toBeVisible()
  await topic(page, /(^|, )Fit-out/).click()
  await page.getByRole('button', { name: 'Bring back …' }).click()
  await page.getByRole('menuitem', { name: 'The branch “Fit-out”' }).click()
  // Back at the tree: the branch is there, and Rana’s good work is too.
  await expect(topic(page, 'Lift')).toBeVisible()
  await expect(topic(page, 'Labels')).toBeVisible()
  await expect(page.getByRole('status').filter({ hasText: 'is as it was' })).toBeVisible()
  // What was brought back is taken back by Undo, like anything one does.
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click()
  await expect(topic(page, 'Lift')).toHaveCount(0)
  await caller.call('POST', `/api/trees/${id}/moments/1/return`, { branch: fit })
  await expect(topic(page, 'Lift')).toBeVisible()
  await page.goto(`/trees/${id}/history?topic=${crates}&at=3`)
  await expect(slider).toBeFocused()
  expect(await idOf('Lift')).toBe(lift)
  await page.goto(`/trees/${id}/history?at=2&topic=${crates}`)
  await expect(topic(page, /(^|, )Crates/)).toHaveAttribute('aria-selected', 'true')
  await page.getByRole('button', { name: 'Bring back …' }).click()
  await page.getByRole('menuitem', { name: 'The title of “Crates”' }).click()
  await expect(topic(page, /^Crates/)).toBeVisible()
  const now = (await caller.open(id)).snapshot.topics.find(one => one.id === crates)!
  expect([now.title, now.due]).toEqual(['Crates', '2027-05-12'])
  expect(await titlesOf(caller, id)).toEqual([
    ['Books', ['Crates', 'Small'], 'Labels'],
    ['Fit-out', 'Lift', 'Ramp'],
  ])
})

test('sittings are narrowed, replayed and pulled along; a copy of a moment is a tree of its own; a viewer only looks', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  const { snapshot } = await caller.open(id)
  for (let i = 0; i < 6; i++)
    await (i % 2 ? rana.caller : caller).edit(id, [
      { op: 'add', topic: `t${i}`, parent: snapshot.centre, order: `a${i}`, with: { title: `Crate ${i}` } },
    ])
  await page.goto(`/trees/${id}/history`)
  const slider = page.getByRole('slider', { name: 'Moment' })
  await expect(topic(page, /Crate 5/)).toBeVisible()
  await page.getByRole('combobox', { name: 'Kind of change' }).selectOption('removed')
  await expect(page.getByText('No sitting fits.')).toBeVisible()
  await page.getByRole('button', { name: 'All', exact: true }).click()
  const board = page.locator('.board')
  await expect(board).toHaveCount(1)
  // Days are the person's own.
  const since = page.getByRole('textbox', { name: 'From' })
  await since.fill('tomorrow')
  await since.press('Enter')
  await expect(page.getByText('No sitting fits.')).toBeVisible()
  await since.fill('today')
  await since.press('Enter')
  await expect(board).toHaveCount(1)
  const box = (await board.boundingBox())!
  await page.mouse.move(box.x + box.width - 2, box.y + 30)
  await page.mouse.down()
  await page.mouse.move(box.x + 1, box.y + 30, { steps: 8 })
  await page.mouse.up()
  await expect(slider).toHaveAttribute('aria-valuenow', '1')
  await expect(topic(page, /Crate 0/)).toBeVisible()
  await expect(topic(page, /Crate 5/)).toHaveCount(0)
  await page.getByRole('combobox', { name: 'Speed of the replay' }).selectOption('8')
  await page.getByRole('button', { name: 'Replay' }).click()
  await expect(topic(page, /Crate 5/)).toBeVisible()
  await expect(slider).toHaveAttribute('aria-valuetext', 'now')
  await slider.focus()
  await page.keyboard.press('Home')
  await expect(slider).toHaveAttribute('aria-valuenow', '0')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expect(topic(page, /Crate 1/)).toBeVisible()
  await page.getByRole('button', { name: 'Copy as a new tree' }).click()
  await expect(page).not.toHaveURL(/history/)
  await expect(topic(page, 'Crate 1')).toBeVisible()
  await expect(topic(page, /Crate 2/)).toHaveCount(0)
  await caller.call('PUT', `/api/trees/${id}/members/${rana.caller.id}`, { role: 'viewer' })
  await rana.page.goto(`/trees/${id}/history?at=3`)
  await expect(topic(rana.page, /Crate 2/)).toBeVisible()
  await expect(rana.page.getByRole('button', { name: 'Copy as a new tree' })).toBeVisible()
  await expect(rana.page.getByRole('button', { name: 'Bring back …' })).toHaveCount(0)
})

test('what was said stands in the history between what was done, by its time', async ({ browser }) => {
  const { ines, rana, id } = await two(browser, 'commenter')
  const { page } = ines
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Lift' })
  await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible()
  const lift = (await ines.caller.open(id)).snapshot.topics.find(({ title }) => title === 'Lift')!.id
  await rana.caller.call('POST', `/api/trees/${id}/talk`, {
    id: 's1',
    op: 'say',
    comment: 'c1',
    thread: 'c1',
    place: { on: 'topic', topic: lift },
    body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'By 4 cm.' }] }] },
  })
  await ines.caller.edit(id, [{ op: 'set', topic: lift, field: 'due', value: '2027-05-12' }])
  await page.keyboard.press('u')
  await page.keyboard.press('h')
  const lines = page.getByRole('complementary', { name: 'What happened' }).getByRole('listitem')
  await expect(lines).toHaveText([/added “Lift”/, /Rana Tahiri.*said on “Lift”By 4 cm\./, /set the due date/])
})

test('what is new since one last looked is one press: on the planks, as a list by branch, gone through by key', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Books\n\tCrates\n\tLabels\nFit-out\n\tLift\n\tRamp' })
  await expect(topic(page, 'Ramp')).toBeVisible()
  await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible()
  await page.goto('/trees')
  await expect(page.getByRole('heading', { name: 'Trees' })).toBeVisible()
  const of = new Map((await caller.open(id)).snapshot.topics.map(one => [one.title, one.id]))
  await rana.caller.edit(id, [
    { op: 'set', topic: of.get('Lift')!, field: 'done', value: 100 },
    { op: 'place', topic: of.get('Crates')!, parent: of.get('Fit-out')!, order: 'a8' },
    { op: 'remove', topic: of.get('Labels')! },
    { op: 'add', topic: 'vans', parent: of.get('Books')!, order: 'a9', with: { title: 'Vans' } },
    { op: 'set', topic: of.get('Ramp')!, field: 'title', value: 'Ramp and doors' },
  ])
  // What one does oneself, in another browser, is nothing new.
  await caller.edit(id, [{ op: 'set', topic: of.get('Fit-out')!, field: 'title', value: 'Fit-out of it all' }])
  await openTree(page, id)
  await page.keyboard.press('u')
  await page.keyboard.press('n')
  const panel = page.getByRole('complementary', { name: 'What is new' })
  await expect(panel.getByRole('status')).toHaveText('1 new · 1 changed · 1 moved · 1 done · 1 went')
  await expect(panel).toContainText('was “Ramp”')
  await expect(panel.getByRole('heading', { level: 3 })).toHaveText(['Books', 'Fit-out of it all'])
  await expect(topic(page, /^done, Lift/)).toBeVisible()
  await expect(topic(page, /^moved, Crates/)).toBeVisible()
  await expect(topic(page, /^new, Vans/)).toBeVisible()
  await expect(topic(page, /^changed, Ramp and doors/)).toBeVisible()
  // What went leaves a word where it hung.
  await expect(topic(page, /^went below, Books/)).toBeVisible()
  await expect(topic(page, /^Fit-out of it all/)).toBeVisible()
  // By key, from one to the next; the tree goes along.
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowDown')
  await expect(panel.locator('button.line').nth(1)).toBeFocused()
  await expect(page.locator('[role="treeitem"][aria-selected="true"] .mark')).toHaveCount(1)
  // As with any panel: the first Esc leads to the tree, the second closes it.
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await expect(panel).toHaveCount(0)
  await expect(topic(page, /^Vans/)).toBeVisible()
  // Looked at now: at the next visit nothing is new.
  await page.goto('/trees')
  await openTree(page, id)
  await page.keyboard.press('u')
  await page.keyboard.press('n')
  await expect(panel).toContainText('is new')
  await expect(panel.getByRole('status')).toContainText('Nothing in')
})

test('what is new points nothing out once it is closed, though its answer comes late', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  const { centre } = (await ines.caller.open(id)).snapshot
  await openTree(page, id)
  await page.goto('/trees')
  await rana.caller.edit(id, [{ op: 'add', topic: 'vans', parent: centre, order: 'a9', with: { title: 'Vans' } }])
  await openTree(page, id)
  let answer = (): void => {}
  const held = new Promise<void>(done => (answer = done))
  await intercept(page, '**/moments/*', async route => {
    await held
    await route.continue()
  })
  await page.keyboard.press('u')
  await page.keyboard.press('n')
  const panel = page.getByRole('complementary', { name: 'What is new' })
  await expect(panel.getByRole('status')).toHaveText('Comparing …')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await expect(panel).toHaveCount(0)
  const answered = page.waitForResponse(/\/moments\//)
  answer()
  await (await answered).finished()
  // Whatever the answer sets off would be on the planks after the next frames.
  await page.evaluate(() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done))))
  await page.waitForTimeout(300)
  await expect(topic(page, /^Vans/)).toBeVisible()
})

test('a fast hand goes from end to end of six hundred edits and is told what is there, never to slow down', async ({
  browser,
}) => {
  const { ines, id } = await two(browser)
  const { page, caller } = ines
  const { snapshot } = await caller.open(id)
  for (let i = 0; i < 600; i++)
    await caller.edit(id, [{ op: 'set', topic: snapshot.centre, field: 'title', value: `Move ${i}` }])
  await page.goto(`/trees/${id}/history`)
  const slider = page.getByRole('slider', { name: 'Moment' })
  await expect(slider).toBeFocused()
  await expect(topic(page, /Move 599$/)).toBeVisible()
  for (let i = 0; i < 12; i++) {
    await page.keyboard.press('Home')
    for (let step = 0; step < 3; step++) await page.keyboard.press('ArrowRight')
    await page.keyboard.press('End')
  }
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expect(topic(page, /Move 1$/)).toBeVisible()
  await expect(page.getByRole('complementary', { name: 'What happened' }).locator('[aria-current]')).toContainText(
    'renamed “Move 0” to “Move 1”',
  )
  await expect(page.getByRole('alert')).toHaveCount(0)
})

test('the plan is seen as it was: slid along, without a way to change it', async ({ browser }) => {
  const ines = await visitor(browser)
  const { page, caller } = ines
  const id = await caller.makeTree('Move')
  const { centre } = (await caller.open(id)).snapshot
  const add = (topic: string, order: string, duration: number) =>
    ({ op: 'add', topic, parent: centre, order, with: { title: topic, duration } }) as const
  await caller.edit(id, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    { op: 'tree', field: 'statusDay', value: '2027-01-11' },
    add('Permit', 'a0', 4),
    add('Lift', 'a1', 3),
  ])
  const after = { id: 'w', on: 'Permit', kind: 'FS', lag: 0, days: 'working' } as const
  await caller.edit(id, [{ op: 'put', topic: 'Lift', set: 'waits', member: after }])
  await page.goto(`/trees/${id}/history`)
  await expect(page.getByRole('tree')).toBeVisible()
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  const bars = page.getByRole('tree', { name: 'Schedule' })
  await expect(bars.getByRole('treeitem', { name: /^Lift, 15 Jan 2027 to 19 Jan 2027/ })).toBeVisible()
  await page.getByRole('slider', { name: 'Moment' }).press('ArrowLeft')
  await expect(bars.getByRole('treeitem', { name: /^Lift, 11 Jan 2027 to 13 Jan 2027/ })).toBeVisible()
  // Keys that would change the plan do nothing here.
  await bars.focus()
  await page.keyboard.press('Shift+E')
  await page.keyboard.press('>')
  await expect(page.getByRole('button', { name: /Keep the plan/ })).toHaveCount(0)
  expect((await caller.open(id)).version).toBe(2)
})

test('a moment is kept under a name, stands on its board for everybody, and is gone to', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Books\nFit-out' })
  await expect(topic(page, 'Fit-out')).toBeVisible()
  await page.goto(`/trees/${id}/history`)
  await page.getByRole('button', { name: 'Kept moments' }).click()
  const box = page.getByRole('dialog', { name: 'Kept moments' })
  await box.getByRole('textbox', { name: 'Name of this moment' }).fill('As agreed on Tuesday')
  await page.keyboard.press('Enter')
  await expect(box.getByRole('button', { name: /^As agreed on Tuesday/ })).toBeVisible()
  await expect(page.locator('.flag.named')).toHaveCount(1)
  const { centre } = (await ines.caller.open(id)).snapshot
  await rana.caller.edit(id, [{ op: 'add', topic: 'late', parent: centre, order: 'a9', with: { title: 'Later' } }])
  await rana.page.goto(`/trees/${id}/history`)
  await expect(topic(rana.page, /Later$/)).toBeVisible()
  await rana.page.getByRole('button', { name: 'Kept moments, 1' }).click()
  await rana.page.getByRole('button', { name: /^As agreed on Tuesday/ }).click()
  await expect(topic(rana.page, /Later$/)).toHaveCount(0)
  await expect(topic(rana.page, /Fit-out$/)).toBeVisible()
})

test('a key pressed before the sittings that are asked for have come waits for them', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(id, [{ op: 'add', topic: 'lift', parent: centre, order: 'a0', with: { title: 'Lift' } }])
  await rana.caller.edit(id, [{ op: 'set', topic: 'lift', field: 'due', value: '2027-05-12' }])
  await caller.edit(id, [{ op: 'set', topic: 'lift', field: 'title', value: 'Goods lift' }])
  await openTree(page, id)
  // A server that takes its time over the list.
  await intercept(page, '**/history?*', async route => {
    await new Promise(done => setTimeout(done, 1500))
    await route.continue()
  })
  await page.goto(`/trees/${id}/history?branch=lift&kind=task`)
  const slider = page.getByRole('slider', { name: 'Moment' })
  const list = page.getByRole('complementary', { name: 'What happened' })
  await slider.press('PageUp')
  await expect(list).toContainText('12 May 2027')
  // Another list is asked for, and at once one goes on: by what is to come, not by what still stands there.
  await page.getByRole('combobox', { name: 'Kind of change' }).selectOption('added')
  await slider.press('End')
  await slider.press('PageUp')
  await expect(list).toContainText('added “Lift”')
})
