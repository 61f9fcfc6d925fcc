import type { Topic } from '#core/tree'
import { expect, openTree, test, topic, two, type Visitor, visitor } from './porch'

const board = (page: Visitor['page']) => page.getByRole('tree', { name: 'Board' })
const card = (page: Visitor['page'], title: string, column: string) =>
  board(page).getByRole('treeitem', { name: `${title}, ${column}`, exact: true })
const topicOf = async ({ caller }: Visitor, id: string, title: string): Promise<Partial<Topic>> =>
  ((await caller.open(id)).snapshot.topics as readonly Partial<Topic>[]).find(one => one.title === title)!

/** A tree with two branches and tasks in each. */
async function laid(person: Visitor, id: string): Promise<void> {
  const { centre } = (await person.caller.open(id)).snapshot
  const add = (at: string, parent: string, order: string, more: object = {}) => ({
    op: 'add',
    topic: at,
    parent,
    order,
    with: { title: at[0]!.toUpperCase() + at.slice(1), ...more },
  })
  await person.caller.edit(id, [
    add('rooms', centre, 'a0'),
    add('books', centre, 'a1'),
    add('lift', 'rooms', 'a0', { due: '2020-05-12' }),
    add('lamps', 'rooms', 'a1', { duration: 2 }),
    add('crates', 'books', 'a0', { done: 40 }),
    add('stamps', 'books', 'a1', { done: 100 }),
  ] as never)
}

test('tasks are cards that go from column to column by key and by hand, two people at once; undo takes them back', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await laid(ines, id)
  await openTree(ines.page, id)
  const { page } = ines
  await page.keyboard.press('u')
  await page.keyboard.press('k')
  await expect(board(page)).toBeFocused()
  await expect(page.getByText('Selected, but no card: “Move”')).toBeVisible()
  // From nowhere on the board the first arrow comes to its first card.
  await page.keyboard.press('ArrowDown')
  await expect(card(page, 'Lift', 'Not begun')).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('ArrowRight')
  await expect(card(page, 'Crates', 'Under way')).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('ArrowLeft')
  // Without a pause, over two columns; the card is what is done.
  await page.keyboard.press('Alt+ArrowRight')
  await page.keyboard.press('Alt+ArrowRight')
  await expect(card(page, 'Lift', 'Done')).toHaveAttribute('aria-selected', 'true')
  await expect.poll(async () => (await topicOf(ines, id, 'Lift')).done).toBe(100)
  await page.keyboard.press('Control+z')
  await expect(card(page, 'Lift', 'Under way')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(card(page, 'Lift', 'Not begun')).toBeVisible()
  expect((await topicOf(ines, id, 'Lift')).began ?? null).toBeNull()
  // By hand; the other sees it come.
  await openTree(rana.page, id)
  await rana.page.getByRole('tab', { name: 'Board' }).click()
  await expect(card(rana.page, 'Lamps', 'Not begun')).toBeVisible()
  const from = (await card(page, 'Lamps', 'Not begun').boundingBox())!
  const to = (await card(page, 'Stamps', 'Done').boundingBox())!
  await page.mouse.move(from.x + 40, from.y + 12)
  await page.mouse.down()
  await page.mouse.move(to.x + 60, to.y + 30, { steps: 6 })
  await page.mouse.up()
  await expect(card(page, 'Lamps', 'Done')).toBeVisible()
  await expect(card(rana.page, 'Lamps', 'Done')).toBeVisible()
  // Esc lets go of what is carried.
  const lift = (await card(page, 'Lift', 'Not begun').boundingBox())!
  await page.mouse.move(lift.x + 40, lift.y + 12)
  await page.mouse.down()
  await page.mouse.move(to.x + 60, to.y + 30, { steps: 4 })
  await page.keyboard.press('Escape')
  await page.mouse.up()
  await expect(card(page, 'Lift', 'Not begun')).toBeVisible()
  // What is typed in a column stands in it.
  await card(page, 'Crates', 'Under way').click({ position: { x: 60, y: 10 } })
  await page.keyboard.press('Enter')
  await page.keyboard.type('Labels')
  await page.keyboard.press('Enter')
  await page.keyboard.type('Tape')
  await page.keyboard.press('Escape')
  await expect(card(page, 'Labels', 'Under way')).toBeVisible()
  await expect(card(rana.page, 'Tape', 'Under way')).toBeVisible()
  // How many a column is to hold is the tree's, and more is said.
  await page.getByRole('button', { name: /^Under way: 3/ }).click()
  await page.getByRole('textbox', { name: 'Most cards in Under way' }).fill('2')
  await page.keyboard.press('Enter')
  await expect(rana.page.getByRole('button', { name: /^Under way: 3 of at most 2/ })).toContainText('1 too many')
})

test('by people and by branch: who shares a task has it too, a card goes under the branch of its row; a viewer carries nothing', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await laid(ines, id)
  const both = [ines, rana].map(({ caller }) => ({
    op: 'put' as const,
    topic: 'lift',
    set: 'people' as const,
    member: caller.id,
  }))
  await ines.caller.edit(id, both)
  const { page } = ines
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Board' }).click()
  await page.getByRole('combobox', { name: 'Columns by' }).selectOption('person')
  await page.getByRole('checkbox', { name: 'a row for each branch' }).check()
  await expect(card(page, 'Lift', 'Ines Brandt, Rooms')).toBeVisible()
  await expect(card(page, 'Lift', 'Rana Tahiri, Rooms')).toBeVisible()
  // Only whose column it leaves gives it away.
  await card(page, 'Lift', 'Rana Tahiri, Rooms').click({ position: { x: 60, y: 10 } })
  const from = (await card(page, 'Lift', 'Rana Tahiri, Rooms').boundingBox())!
  const to = (await card(page, 'Crates', 'Nobody, Books').boundingBox())!
  await page.mouse.move(from.x + 40, from.y + 12)
  await page.mouse.down()
  await page.mouse.move(to.x + 60, to.y + 30, { steps: 6 })
  await page.mouse.up()
  await expect(card(page, 'Lift', 'Ines Brandt, Books')).toBeVisible()
  expect(await topicOf(ines, id, 'Lift')).toMatchObject({ parent: 'books', people: [ines.caller.id] })
  // Two cards of two columns go together, each out of its own; what is selected and no card stays where it is.
  await ines.caller.edit(id, [{ op: 'put', topic: 'crates', set: 'people', member: rana.caller.id }])
  await card(page, 'Crates', 'Rana Tahiri, Books').click({ position: { x: 60, y: 10 } })
  await card(page, 'Lift', 'Ines Brandt, Books').click({ position: { x: 60, y: 10 }, modifiers: ['Control'] })
  await page.keyboard.press('Alt+ArrowLeft')
  await expect(card(page, 'Lift', 'Nobody, Books')).toBeVisible()
  await expect(card(page, 'Crates', 'Nobody, Books')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(card(page, 'Crates', 'Rana Tahiri, Books')).toBeVisible()
  await expect(card(page, 'Lift', 'Ines Brandt, Books')).toBeVisible()
  // It's kept as it was left, and with a view under a name.
  await page.reload()
  await page.getByRole('tab', { name: 'Board' }).click()
  await expect(card(page, 'Lift', 'Ines Brandt, Books')).toBeVisible()
  await ines.caller.call('PUT', `/api/trees/${id}/members/${rana.caller.id}`, { role: 'viewer' })
  await openTree(rana.page, id)
  await rana.page.getByRole('tab', { name: 'Board' }).click()
  await card(rana.page, 'Crates', 'Under way').click({ position: { x: 60, y: 10 } })
  await rana.page.keyboard.press('Alt+ArrowRight')
  await expect(rana.page.getByText(/As viewer you can read/)).toBeVisible()
  await expect(rana.page.getByRole('button', { name: 'To Done' })).toHaveCount(0)
  expect((await topicOf(ines, id, 'Crates')).done).toBe(40)
})

test('a view under a name brings the board as it was kept, whatever this browser had; so it does the outline', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const { page, caller } = ines
  const id = await caller.makeTree('Move')
  await laid(ines, id)
  const view = (at: string, name: string, more: object) => ({
    op: 'tree-put' as const,
    set: 'views' as const,
    member: { id: at, name, query: null, text: '', rest: 'dim', depth: null, outline: null, ...more } as never,
  })
  await caller.edit(id, [
    view('v1', 'Who does what', { view: 'board', board: { by: 'person', rows: true } }),
    view('v2', 'By due', {
      view: 'outline',
      outline: { columns: ['due'], sort: { by: 'due', down: false }, group: null },
    }),
  ])
  await openTree(page, id)
  // The browser keeps another shape of both.
  await page.getByRole('tab', { name: 'Board' }).click()
  await page.getByRole('combobox', { name: 'Columns by' }).selectOption('priority')
  await page.getByRole('tab', { name: 'Outline' }).click()
  await page.getByRole('combobox', { name: 'Group the rows' }).selectOption('state')
  await page.reload()
  await page.getByRole('tab', { name: 'Board' }).click()
  await expect(page.getByRole('combobox', { name: 'Columns by' })).toHaveValue('priority')
  await page.getByRole('tab', { name: 'Canvas' }).click()
  await page.keyboard.press('Shift+Q')
  const panel = page.getByRole('complementary', { name: 'Filter and views' })
  await panel.getByRole('button', { name: /^Who does what/ }).click()
  await expect(card(page, 'Crates', 'Nobody, Books')).toBeVisible()
  await panel.getByRole('button', { name: /^By due/ }).click()
  await expect(page.getByRole('button', { name: 'Sort by due, now ascending' })).toBeVisible()
  await expect(page.getByRole('combobox', { name: 'Group the rows' })).toHaveValue('')
})

test('three thousand cards: only those in sight are drawn, and the last is reached by key', async ({ browser }) => {
  const ines = await visitor(browser)
  const { page, caller } = ines
  const id = await caller.makeTree('Move')
  const { centre } = (await caller.open(id)).snapshot
  for (let n = 0; n < 3000; n += 500)
    await caller.edit(
      id,
      Array.from({ length: 500 }, (_, i) => ({
        op: 'add' as const,
        topic: `t${n + i}`,
        parent: centre,
        order: `a${String(n + i).padStart(5, '0')}V`,
        with: { title: `Crate ${n + i}`, done: 0 },
      })),
    )
  await openTree(page, id)
  await page.keyboard.press('u')
  await page.keyboard.press('k')
  await expect(card(page, 'Crate 0', 'Not begun')).toBeVisible()
  expect(await board(page).getByRole('treeitem').count()).toBeLessThan(60)
  await topic(page, /^Crate 0,/).click({ position: { x: 60, y: 10 } })
  for (let i = 0; i < 40; i++) await page.keyboard.press('ArrowDown')
  await expect(card(page, 'Crate 40', 'Not begun')).toBeInViewport()
  await expect(card(page, 'Crate 40', 'Not begun')).toHaveAttribute('aria-selected', 'true')
})
