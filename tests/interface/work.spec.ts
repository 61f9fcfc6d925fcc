import type { Change } from '#core/tree'
import { bringIn, type Caller } from '../caller'
import { expect, test, topic, tree, visitor } from './porch'

/** Puts tasks of somebody in a tree, called t0, t1 and so on. */
const owes = (caller: Caller, id: string, ...all: readonly (readonly [title: string, due: string])[]) =>
  caller.edit(
    id,
    all.map(([title, due], i): Change => ({
      op: 'add',
      topic: `t${i}`,
      parent: null,
      order: `a${i}`,
      with: { title, people: [caller.id], due },
    })),
  )

test('my work: what is owed across trees is done, moved and undone by key; what was asked of others shows too', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const rana = await visitor(browser, 'Rana Tahiri')
  const [move, day] = [await caller.makeTree('Move'), await caller.makeTree('Opening day')]
  await bringIn(caller, move, rana.caller, 'editor')
  const add = (id: string, title: string, more: object) => ({
    op: 'add' as const,
    topic: id,
    parent: null,
    order: `a${id}`,
    with: { title, ...more },
  })
  await caller.edit(move, [
    add('1', 'Order oak', { people: [caller.id], due: '2020-01-10' }),
    add('2', 'Crates', { people: [rana.caller.id] }),
  ])
  await caller.edit(day, [add('3', 'Card', { people: [caller.id] })])
  await page.goto('/')
  await page.getByRole('link', { name: 'My work' }).click()
  const list = page.getByRole('tree', { name: 'Tasks' })
  await expect(list.getByRole('group', { name: 'Late', exact: true })).toContainText('Order oak')
  await expect(list.getByRole('group', { name: 'No date' })).toContainText('Card')
  const dueOf = async (tree: string, id: string) => (await caller.open(tree)).snapshot.topics.find(one => one.id === id)
  await list.focus()
  await page.keyboard.press('w')
  await expect(list.getByRole('group', { name: 'Late', exact: true })).toHaveCount(0)
  await expect.poll(async () => new Date((await dueOf(move, '1'))!.due!).getUTCDay()).toBe(1)
  await page.keyboard.press('Control+z')
  await expect(list.getByRole('group', { name: 'Late', exact: true })).toContainText('Order oak')
  expect((await dueOf(move, '1'))!.due).toBe('2020-01-10')
  await list.focus()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('d')
  await expect(list.getByRole('treeitem', { name: /Card/ })).toHaveCount(0)
  await expect.poll(async () => (await dueOf(day, '3'))!.done).toBe(100)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(list.getByRole('treeitem', { name: /Card/ })).toBeVisible()
  await page.getByRole('button', { name: 'By tree' }).click()
  await expect(list.getByRole('group', { name: 'Opening day' })).toContainText('Card')
  await page.getByRole('button', { name: /I asked for/ }).click()
  await expect(list).toContainText('Rana Tahiri')
  await list.focus()
  await page.keyboard.press('Enter')
  await expect(tree(page)).toBeVisible()
  await expect(topic(page, /^Crates/)).toHaveAttribute('aria-selected', 'true')
})

test('a hasty hand’s steps arrive in their order, undo waits for what it undoes, and what is refused goes back alone', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  const { centre } = (await caller.open(id)).snapshot
  const add = (topic: string, title: string, due: string) =>
    caller.edit(id, [
      { op: 'add', topic, parent: centre, order: `a${topic}`, with: { title, people: [caller.id], due } } as never,
    ])
  await add('1', 'Order oak', '2099-01-10')
  await add('2', 'Lift', '2099-02-01')
  const due = async (topic: string) => (await caller.open(id)).snapshot.topics.find(one => one.id === topic)!.due
  await page.goto('/work')
  const list = page.getByRole('tree', { name: 'Tasks' })
  const row = (name: RegExp) => list.getByRole('treeitem', { name })
  await expect(row(/Order oak/)).toBeVisible()
  // The first waits longest on its way.
  let delay = 1600
  let asked = 0
  await page.route('**/api/trees/*/edits', async route => {
    asked++
    delay = Math.max(0, delay - 400)
    await new Promise(done => setTimeout(done, delay))
    await route.continue()
  })
  await list.focus()
  for (const key of ['+', '+', '+', 'Control+z']) await page.keyboard.press(key)
  await expect.poll(() => asked).toBe(4)
  await expect.poll(() => due('1')).toBe('2099-01-12')
  await expect(page.getByRole('status').filter({ hasText: 'is due' })).toHaveCount(0)
  await expect(row(/Order oak/)).toContainText('12 Jan 2099')
  // One of two is refused: the other stands.
  const sent: string[] = []
  await page.unroute('**/api/trees/*/edits')
  await page.route('**/api/trees/*/edits', async route => {
    const [change] = (route.request().postDataJSON() as { changes: { topic: string; value: string }[] }).changes
    if (change!.topic === '2') sent.push(change!.value)
    if (change!.topic === '1')
      await route.fulfill({ status: 503, json: { error: { code: 'busy', message: 'Not now.' } } })
    else await route.continue()
  })
  for (const key of ['Home', '+', 'ArrowDown', '+']) await page.keyboard.press(key)
  await expect(page.getByRole('alert')).toContainText('Not now. “Order oak” is as it was.')
  await expect(row(/Lift/)).toContainText('2 Feb 2099')
  await expect(row(/Order oak/)).toContainText('12 Jan 2099')
  await expect.poll(() => due('2')).toBe('2099-02-02')
  // Undo means the step that was refused, not the one before it.
  for (const key of ['Home', '+', 'Control+z', 'ArrowDown', '+']) await page.keyboard.press(key)
  await expect.poll(() => due('2')).toBe('2099-02-03')
  expect(sent).toEqual(['2099-02-02', '2099-02-03'])
  expect(await due('1')).toBe('2099-01-12')
})

test('a task says what its plan says: it can start now, or what it waits for; where there is no plan nothing', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  const plain = await caller.makeTree('Opening day')
  const add = (topic: string, more: object) =>
    ({
      op: 'add',
      topic,
      parent: null,
      order: `a${topic.length}`,
      with: { title: topic, people: [caller.id], ...more },
    }) as never
  await caller.edit(id, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    { op: 'tree', field: 'statusDay', value: '2027-01-11' },
    add('Permit', { duration: 4 }),
    add('Lift', { duration: 3, waits: [{ id: 'w', on: 'Permit', kind: 'FS', lag: 0, days: 'working' }] }),
  ])
  await caller.edit(plain, [add('Card', {})])
  await page.goto('/work')
  const row = (name: RegExp) => page.getByRole('treeitem', { name })
  await expect(row(/^Done: Permit/)).toContainText('can start now')
  await expect(row(/^Done: Lift/)).toContainText('waits for “Permit”')
  await expect(row(/^Done: Card/)).not.toContainText(/start|waits/)
  // What it waited for is done: it can start.
  await page.getByRole('button', { name: 'Done: Permit' }).click()
  await expect(row(/^Done: Permit/)).toHaveCount(0)
  await expect(row(/^Done: Lift/)).toContainText('can start now')
})

test('a day more and another is the same task’s, by key and under the pointer; what is done twice in haste does one', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  const titles = ['Order oak', 'Lift', 'Crates', 'Lamps']
  await owes(caller, id, ...titles.map((title, i) => [title, `2027-03-0${i + 1}`] as const))
  const dues = async () => {
    const { topics } = (await caller.open(id)).snapshot
    return titles
      .map((_, i) => topics.find(one => one.id === `t${i}`)!)
      .map(({ due, done }) => (done ? 'done' : (due ?? null)))
  }
  await page.clock.install({ time: new Date('2027-03-10T10:00:00+01:00') })
  await page.goto('/work')
  const list = page.getByRole('tree', { name: 'Tasks' })
  const row = (name: RegExp) => list.getByRole('treeitem', { name })
  const late = list.getByRole('group', { name: 'Late', exact: true })
  await expect(late.getByRole('treeitem')).toHaveCount(4)
  await list.focus()
  for (const key of ['+', '+', '+']) await page.keyboard.press(key)
  await expect(late.getByRole('treeitem')).toHaveCount(3)
  await expect(row(/Order oak/)).toHaveAttribute('aria-selected', 'true')
  await expect.poll(dues).toEqual(['2027-03-13', '2027-03-02', '2027-03-03', '2027-03-04'])
  // Put off for good, the next one stands there and is meant next.
  await page.keyboard.press('Home')
  for (const key of ['w', '0']) await page.keyboard.press(key)
  await expect.poll(dues).toEqual(['2027-03-13', '2027-03-15', null, '2027-03-04'])
  await expect(row(/Lamps/)).toHaveAttribute('aria-selected', 'true')
  // The row stays under the pointer until that leaves it.
  const more = row(/Lamps/).getByRole('button', { name: 'A day later: Lamps' })
  await more.click()
  await more.click()
  await expect(late.getByRole('treeitem', { name: /Lamps/ })).toBeVisible()
  await expect.poll(dues).toEqual(['2027-03-13', '2027-03-15', null, '2027-03-12'])
  await page.mouse.move(5, 5)
  await expect(late).toHaveCount(0)
  await page.getByRole('button', { name: 'By tree' }).click()
  await row(/Crates/)
    .getByRole('button', { name: 'Done: Crates' })
    .click()
  await expect(list.getByRole('treeitem')).toHaveCount(3)
  // Lamps stand under the pointer now.
  await page.mouse.down({ clickCount: 2 })
  await page.mouse.up({ clickCount: 2 })
  await row(/Lift/).getByRole('button', { name: 'Done: Lift' }).click()
  await expect.poll(dues).toEqual(['2027-03-13', 'done', 'done', '2027-03-12'])
})

test('my work that stays open past midnight says what is late by then, and moves from the day that it is', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await owes(caller, id, ['Order oak', '2027-01-31'])
  // The last minutes of the month in Copenhagen; in UTC it has an hour more.
  await page.clock.install({ time: new Date('2027-01-31T22:58:00Z') })
  await page.goto('/work')
  const list = page.getByRole('tree', { name: 'Tasks' })
  await expect(list.getByRole('group', { name: 'Today' })).toContainText('Order oak')
  await page.clock.fastForward('03:00')
  await expect(list.getByRole('group', { name: 'Late' })).toContainText('Order oak')
  await list.focus()
  await page.keyboard.press('+')
  await expect
    .poll(async () => (await caller.open(id)).snapshot.topics.find(one => one.id === 't0')!.due)
    .toBe('2027-02-02')
})

test('under a finger a row stays where it is until another one is touched, and that one is meant', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser, 'Ines Brandt', {
    viewport: { width: 800, height: 900 },
    hasTouch: true,
    isMobile: true,
  })
  const id = await caller.makeTree('Move')
  const titles = ['Order oak', 'Lift', 'Crates']
  await owes(caller, id, ...titles.map((title, i) => [title, `2020-03-0${i + 1}`] as const))
  await page.goto('/work')
  const late = page.getByRole('tree', { name: 'Tasks' }).getByRole('group', { name: 'Late', exact: true })
  await expect(late.getByRole('treeitem')).toHaveCount(3)
  const nextWeek = (title: string) => page.getByRole('button', { name: `Next week: ${title}` })
  await nextWeek('Order oak').tap()
  await expect(late.getByRole('treeitem')).toHaveCount(3)
  await nextWeek('Lift').tap()
  await expect(late.getByRole('treeitem')).toHaveText([/Lift/, /Crates/])
  await expect
    .poll(async () => {
      const { topics } = (await caller.open(id)).snapshot
      return titles.map((_, i) => topics.find(one => one.id === `t${i}`)!.due! > '2025')
    })
    .toEqual([true, true, false])
})

test('the calendar address that is shown is the one that works, however often and fast one asks for it', async ({
  browser,
}) => {
  const { page } = await visitor(browser)
  await page.goto('/work')
  await page.getByRole('button', { name: 'Calendar address' }).click()
  const shown = page.getByLabel('Your calendar address')
  const answer = async (address: string): Promise<number> => (await page.request.get(address)).status()
  await page.getByRole('button', { name: 'Make one' }).dblclick()
  await expect(page.getByRole('button', { name: 'Make a new one' })).toBeEnabled()
  await expect.poll(async () => answer(await shown.inputValue())).toBe(200)
  const first = await shown.inputValue()
  await page.getByRole('button', { name: 'Make a new one' }).click()
  await expect(shown).not.toHaveValue(first)
  expect([await answer(first), await answer(await shown.inputValue())]).toEqual([404, 200])
  const last = await shown.inputValue()
  await page.getByRole('button', { name: 'Withdraw it' }).click()
  await expect(shown).toBeHidden()
  await expect.poll(() => answer(last)).toBe(404)
  await expect(page.getByRole('button', { name: 'Make one' })).toBeVisible()
})
