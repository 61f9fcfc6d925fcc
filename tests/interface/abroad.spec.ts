import { expect, openTree, test, topic, two } from './porch'

test('what waits for another tree goes by its date as last known, says how old that is, and is looked at again', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  const council = await caller.makeTree('Council')
  const centreOf = async (tree: string): Promise<string> => (await caller.open(tree)).snapshot.centre
  await caller.edit(council, [
    {
      op: 'add',
      topic: 'grant',
      parent: await centreOf(council),
      order: 'a0',
      with: { title: 'Grant', due: '2027-05-12' },
    },
    { op: 'add', topic: 'hall', parent: await centreOf(council), order: 'a1', with: { title: 'Hall' } },
  ])
  await caller.edit(id, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    { op: 'tree', field: 'statusDay', value: '2027-01-11' },
    { op: 'add', topic: 'lift', parent: await centreOf(id), order: 'a0', with: { title: 'Lift', duration: 2 } },
  ])
  await openTree(page, id)
  await topic(page, 'Lift').click()
  // By its name, letter by letter without a delay.
  await page.keyboard.press('Control+k')
  await page.keyboard.type('waits for another tree')
  await page.keyboard.press('Enter')
  await page.keyboard.type('gra')
  const dialog = page.getByRole('dialog', { name: 'Waits for a topic of another tree' })
  await dialog.getByRole('combobox', { name: 'From which tree' }).selectOption({ label: 'Council' })
  await expect(dialog.getByRole('option', { name: /^Grant/ })).toBeVisible()
  await dialog.getByRole('combobox', { name: 'Topic to wait for' }).press('Enter')
  await expect(dialog).toBeHidden()
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  await expect(sheet).toContainText('after “Grant” of “Council”')
  await expect(sheet).toContainText('12 May 2027, as known')
  await expect(sheet).toContainText('13 May 2027')
  // Rana, who has no part in that tree, sees the same date, and is told that she can’t look again.
  await openTree(rana.page, id)
  await topic(rana.page, 'Lift').click()
  const hers = rana.page.getByRole('complementary', { name: 'About the selection' })
  await expect(hers).toContainText('12 May 2027, as known')
  await hers.getByRole('button', { name: 'Look again' }).click()
  await expect(rana.page.getByRole('status').filter({ hasText: 'Nothing could be looked at.' })).toBeVisible()
  // There it moves: here nothing does, until somebody looks.
  await caller.edit(council, [{ op: 'set', topic: 'grant', field: 'due', value: '2027-05-14' }])
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await page.getByRole('button', { name: 'One waits for other trees' }).click()
  const list = page.getByRole('list', { name: 'What waits for other trees' })
  await expect(list).toContainText('after “Grant” of “Council”: ends 12 May 2027')
  await page.getByRole('button', { name: 'Look again' }).last().click()
  await expect(list).toContainText('ends 14 May 2027')
  await expect(
    page.getByRole('status').filter({ hasText: '“Grant” of “Council” ends on 14 May 2027 now, not 12 May 2027.' }),
  ).toBeVisible()
  await expect(hers).toContainText('14 May 2027, as known')
  // Taken back like anything one does.
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click()
  await expect(hers).toContainText('12 May 2027, as known')
  // The way to the original.
  await page.getByRole('link', { name: 'after “Grant” of “Council”' }).click()
  await expect(page).toHaveURL(new RegExp(`/trees/${council}`))
  await expect(topic(page, /Grant/)).toBeVisible()
})

test('what is known of another tree and old is looked at by itself when the schedule opens, and offered', async ({
  browser,
}) => {
  const { ines, id } = await two(browser)
  const { page, caller } = ines
  const council = await caller.makeTree('Council')
  const centreOf = async (tree: string): Promise<string> => (await caller.open(tree)).snapshot.centre
  await caller.edit(council, [
    {
      op: 'add',
      topic: 'grant',
      parent: await centreOf(council),
      order: 'a0',
      with: { title: 'Grant', due: '2027-05-14' },
    },
  ])
  const elsewhere = {
    ...{ tree: council, title: 'Grant', treeTitle: 'Council', start: null, finish: '2027-05-12' },
    state: 'open' as const,
    asked: Date.now() - 3 * 86_400_000,
  }
  await caller.edit(id, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    { op: 'add', topic: 'lift', parent: await centreOf(id), order: 'a0', with: { title: 'Lift', duration: 2 } },
    {
      op: 'put',
      topic: 'lift',
      set: 'waits',
      member: { id: 'w', on: 'grant', elsewhere, kind: 'FS', lag: 0, days: 'working' },
    },
  ])
  await openTree(page, id)
  await topic(page, 'Lift').click()
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await page.getByRole('button', { name: 'Take over' }).click()
  const waitNow = async () => (await caller.open(id)).snapshot.topics.find(one => one.id === 'lift')!.waits![0]!
  await expect.poll(async () => (await waitNow()).elsewhere?.finish).toBe('2027-05-14')
})
