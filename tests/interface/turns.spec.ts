import type { Topic } from '#core/tree'
import { bringIn } from '../caller'
import { expect, openTree, pasteText, test, topic, two, visitor } from './porch'

const WEEK = 7 * 86_400_000
const later = (day: string, by: number): string => new Date(Date.parse(day) + by).toISOString().slice(0, 10)

test('what comes again is typed, done turn by turn with a key, told in the sheet, seen by the other one and undone', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pasteText(page, { 'text/plain': 'Test the alarm // every monday' })
  const alarm = async (): Promise<Topic> =>
    (await caller.open(id)).snapshot.topics.find(one => one.title === 'Test the alarm') as Topic
  await expect(topic(page, /^Test the alarm/)).toBeVisible()
  await expect.poll(async () => (await alarm())?.due ?? '').not.toBe('')
  const first = (await alarm()).due!
  expect(new Date(first).getUTCDay()).toBe(1)
  await topic(page, /^Test the alarm/).click({ position: { x: 8, y: 8 } })
  await page.keyboard.press('d')
  await expect(page.getByText(/“Test the alarm” is done for now\. It comes again on/)).toBeVisible()
  await expect.poll(async () => (await alarm()).due).toBe(later(first, WEEK))
  expect((await alarm()).turns).toMatchObject([{ id: first, by: caller.id }])
  // The sheet of the other one says it.
  await topic(rana.page, /^Test the alarm/).click({ position: { x: 8, y: 8 } })
  const sheet = rana.page.getByRole('complementary', { name: 'About the selection' })
  await rana.page.keyboard.press('Alt+Enter')
  await expect(sheet.getByText(/Done once, last on .* by Ines Brandt/)).toBeVisible()
  // There it gets another rhythm, and an end after which it is done for good.
  await sheet.getByRole('combobox', { name: 'Comes again' }).click()
  await rana.page.getByRole('option', { name: 'every second Monday' }).click()
  await expect.poll(async () => (await alarm()).again?.rule).toBe('FREQ=WEEKLY;INTERVAL=2;BYDAY=MO')
  // On other days of the week, as many as one likes, but never on none; three presses without a pause.
  const days = sheet.getByRole('group', { name: 'On these days of the week' })
  for (const day of ['Thursday', 'Friday', 'Thursday']) await days.getByRole('button', { name: day }).click()
  await expect.poll(async () => (await alarm()).again?.rule).toBe('FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,FR')
  await expect(sheet.getByRole('combobox', { name: 'Comes again' })).toContainText('every second Monday and Friday')
  await days.getByRole('button', { name: 'Friday' }).click()
  await days.getByRole('button', { name: 'Monday' }).click()
  await expect(rana.page.getByText('It comes again on one day of the week at least.')).toBeVisible()
  await expect.poll(async () => (await alarm()).again?.rule).toBe('FREQ=WEEKLY;INTERVAL=2;BYDAY=MO')
  await sheet.getByLabel('Comes again until').fill(later(first, WEEK))
  await sheet.getByLabel('Comes again until').press('Enter')
  await expect(sheet.getByText('This is the last time.')).toBeVisible()
  // The first one sees the end too, before it's done there.
  await page.keyboard.press('Alt+Enter')
  await expect(
    page.getByRole('complementary', { name: 'About the selection' }).getByText('This is the last time.'),
  ).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('d')
  await expect(page.getByText(/“Test the alarm”: that was its last turn/)).toBeVisible()
  await expect.poll(async () => (await alarm()).done).toBe(100)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await alarm()).due).toBe(first)
  expect((await alarm()).turns ?? []).toEqual([])
})

test('turns to come stand in the calendar where the rule puts them, once the open one each; they stay where they are', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('House')
  const { centre } = (await caller.open(id)).snapshot
  // Past midnight here, though not yet where days are counted by UTC: the month is the one that it is here.
  await page.clock.install({ time: '2027-03-31T22:15:00Z' })
  const first = '2027-04-03'
  await caller.edit(id, [
    {
      ...{ op: 'add', topic: 'water', parent: centre, order: 'a0' },
      with: { title: 'Water the ferns', due: first, again: { rule: 'FREQ=WEEKLY;INTERVAL=1;BYDAY=TH', from: first } },
    },
  ] as never)
  await openTree(page, id)
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await page.getByRole('tab', { name: 'Calendar' }).click()
  const calendar = page.getByRole('tree', { name: 'Calendar' })
  const turns = calendar.getByRole('treeitem', { name: /^Water the ferns, comes again, / })
  await expect(calendar.getByRole('treeitem', { name: /^Water the ferns, due, / })).toHaveCount(1)
  // 8, 15, 22 and 29 April are Thursdays.
  await expect.poll(() => turns.count()).toBeGreaterThanOrEqual(4)
  await turns.first().dblclick()
  await page.keyboard.press('Escape')
  await turns.first().click()
  await page.keyboard.press('ArrowDown')
  await expect(calendar).toBeFocused()
  await page.getByRole('group', { name: 'How it is told' }).getByRole('button', { name: 'List' }).click()
  await expect.poll(() => turns.count()).toBe(4)
})

test('my work has the turn that is open; a hasty hand finishes one turn, not two; undo brings it back', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const rana = await visitor(browser, 'Rana Tahiri')
  const id = await caller.makeTree('House')
  await bringIn(caller, id, rana.caller, 'editor')
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(id, [
    {
      ...{ op: 'add', topic: 'alarm', parent: centre, order: 'a0' },
      with: {
        ...{ title: 'Test the alarm', people: [caller.id], due: '2099-03-02' },
        again: { rule: 'FREQ=MONTHLY;BYMONTHDAY=2', from: '2099-03-02' },
      },
    },
  ] as never)
  const due = async () => (await caller.open(id)).snapshot.topics.find(one => one.id === 'alarm')!.due
  await page.goto('/work')
  const list = page.getByRole('tree', { name: 'Tasks' })
  await expect(list.getByText('on the 2nd of the month')).toBeVisible()
  await list.focus()
  await page.keyboard.press('d')
  await page.keyboard.press('d')
  await expect(page.getByText(/“Test the alarm” is done for now\. It comes again on 2 Apr 2099/)).toBeVisible()
  expect(await due()).toBe('2099-04-02')
  await expect(list.getByRole('treeitem', { name: /Test the alarm/ })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(due).toBe('2099-03-02')
})

test('past midnight where the tree is, though not where one sits, it’s the tree’s day that counts', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Tannery')
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(id, [
    { op: 'tree', field: 'zone', value: 'Pacific/Auckland' },
    { op: 'tree', field: 'planFrom', value: '2027-02-01' },
    {
      ...{ op: 'add', topic: 'alarm', parent: centre, order: 'a0' },
      with: { title: 'Test the alarm', due: '2027-03-01', again: { rule: 'FREQ=WEEKLY;BYDAY=MO', from: '2027-03-01' } },
    },
    { op: 'add', topic: 'lift', parent: centre, order: 'a1', with: { title: 'Lift', duration: 1 } },
  ])
  // Half past eleven on Monday evening in Copenhagen: Tuesday noon in Auckland.
  await page.clock.install({ time: '2027-03-01T22:30:00Z' })
  await openTree(page, id)
  await topic(page, /^Test the alarm/).click({ position: { x: 8, y: 8 } })
  await page.keyboard.press('d')
  const alarm = async (): Promise<Topic> =>
    (await caller.open(id)).snapshot.topics.find(one => one.id === 'alarm') as Topic
  await expect.poll(async () => (await alarm()).turns).toMatchObject([{ id: '2027-03-01', on: '2027-03-02' }])
  await topic(page, /^Lift/).click({ position: { x: 8, y: 8 } })
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  await expect(sheet.getByText('2 Mar 2027 – 2 Mar 2027')).toBeVisible()
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await expect(page.getByText('today', { exact: true })).toBeVisible()
  // Midnight comes there while one looks on.
  await page.clock.fastForward('12:31:00')
  await expect(sheet.getByText('3 Mar 2027 – 3 Mar 2027')).toBeVisible()
})
