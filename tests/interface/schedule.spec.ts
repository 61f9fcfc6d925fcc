import { expect, openTree, pasteText, test, topic, two, type Visitor, visitor } from './porch'
import { bars, begun, topicsOf } from './schedule-stage'

test('a tree gets a plan, and all of it is done by keys: what waits, a day later, longer, along what must not slip', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const { page, caller } = ines
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Permit // 4 days\nLift // 3 days\nDoors // 2 days' })
  await expect(topic(page, 'Doors')).toBeVisible()
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await page.getByRole('button', { name: 'Begin a plan' }).press('Enter')
  await expect(bars(page)).toBeFocused()
  await topic(page, 'Lift').click({ position: { x: 60, y: 10 } })
  await page.keyboard.press('a')
  await page.keyboard.type('permit')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Schedule of the tree' })).toContainText('2 must not slip')
  await expect(topic(page, 'Lift')).toHaveAttribute('aria-label', /critical: when it slips, the end does/)
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  await expect(sheet).toContainText('waits for “Permit”')
  // Two days longer, without a pause; the length is what it was and two.
  await page.keyboard.press('Shift+E')
  await page.keyboard.press('Shift+E')
  await expect.poll(async () => (await topicsOf(ines, id)).get('Lift')!.duration).toBe(5)
  await page.keyboard.press('Shift+H')
  await expect.poll(async () => (await topicsOf(ines, id)).get('Lift')!.duration).toBe(4)
  // Along the path, and round again.
  await page.keyboard.press('b')
  await expect(topic(page, 'Permit')).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('b')
  await expect(topic(page, 'Lift')).toHaveAttribute('aria-selected', 'true')
  await topic(page, 'Doors').click({ position: { x: 60, y: 10 } })
  await page.keyboard.press('>')
  await page.keyboard.press('>')
  await expect(sheet).toContainText(/not before .* as was typed/)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await topicsOf(ines, id)).get('Doors')!.start ?? null).toBeNull()
  // Topics pour in here as anywhere, and say what they wait for.
  await topic(page, 'Permit').click({ position: { x: 60, y: 10 } })
  await page.keyboard.press('Enter')
  await page.keyboard.type('Inspect // 2 days, after permit + 1 day')
  await page.keyboard.press('Enter')
  await page.keyboard.type('Sign off // after inspect')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(topic(page, 'Sign off')).toHaveAttribute('aria-label', /may slip|critical/)
  const made = await topicsOf(ines, id)
  expect(made.get('Inspect')).toMatchObject({ duration: 2, waits: [{ on: made.get('Permit')!.id, lag: 1 }] })
  expect(made.get('Sign off')!.waits).toMatchObject([{ on: made.get('Inspect')!.id }])
  // Its own parent is nothing that it could wait for: the words stay.
  await page.keyboard.press('Tab')
  await page.keyboard.type('Pen // after sign off')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(topic(page, /^Pen/)).toContainText('Pen // after sign off')
})

test('a bar is pulled to another day, longer, and onto what waits for it; a circle is refused by name', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await begun(ines, id)
  await openTree(ines.page, id)
  const { page } = ines
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await expect(bars(page)).toBeFocused()
  await openTree(rana.page, id)
  await rana.page.keyboard.press('u')
  await rana.page.keyboard.press('p')
  const bar = (name: string) => topic(page, name).locator('.bar')
  const middle = async (name: string): Promise<{ x: number; y: number; right: number }> => {
    const box = (await bar(name).boundingBox())!
    return { x: box.x + box.width / 2 - 4, y: box.y + box.height / 2, right: box.x + box.width }
  }
  // A day is nine pixels wide: a week on.
  await expect(bar('Doors')).toBeVisible()
  const doors = await middle('Doors')
  await page.mouse.move(doors.x, doors.y)
  await page.mouse.down()
  await page.mouse.move(doors.x + 30, doors.y)
  await page.mouse.move(doors.x + 63, doors.y)
  await expect(page.getByRole('status').filter({ hasText: 'begins 18 Jan 2027' })).toBeVisible()
  await page.mouse.up()
  await expect.poll(async () => (await topicsOf(ines, id)).get('Doors')!.start).toBe('2027-01-18')
  await expect(topic(rana.page, 'Doors')).toHaveAttribute('aria-label', /18 Jan 2027 to 19 Jan 2027/)
  // Its end, a day on.
  const longer = await middle('Doors')
  await page.mouse.move(longer.right - 1, longer.y)
  await page.mouse.down()
  await page.mouse.move(longer.right + 8, longer.y)
  await page.mouse.move(longer.right + 9, longer.y)
  await page.mouse.up()
  await expect.poll(async () => (await topicsOf(ines, id)).get('Doors')!.duration).toBe(3)
  // The knob of the permit, onto the lift.
  await topic(page, 'Permit').hover()
  const knob = (await topic(page, 'Permit').locator('.knob').boundingBox())!
  const lift = (await topic(page, 'Lift').boundingBox())!
  await page.mouse.move(knob.x + 5, knob.y + 5)
  await page.mouse.down()
  await page.mouse.move(knob.x + 20, lift.y + 10)
  await page.mouse.move(knob.x + 30, lift.y + 16)
  await page.mouse.up()
  await expect.poll(async () => (await topicsOf(ines, id)).get('Lift')!.waits?.[0]?.on).toBe('permit')
  await expect(topic(rana.page, 'Lift')).toHaveAttribute('aria-label', /15 Jan 2027 to 19 Jan 2027/)
  // Let go with Esc nothing has happened.
  const again = await middle('Lift')
  await page.mouse.move(again.x, again.y)
  await page.mouse.down()
  await page.mouse.move(again.x + 60, again.y)
  await page.keyboard.press('Escape')
  await page.mouse.up()
  expect((await topicsOf(ines, id)).get('Lift')!.start ?? null).toBeNull()
  // The other half of a circle, by key.
  await topic(page, 'Permit').click({ position: { x: 60, y: 10 } })
  await page.keyboard.press('a')
  await page.keyboard.type('lift')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('status').filter({ hasText: 'These would wait for one another' })).toBeVisible()
  expect((await topicsOf(ines, id)).get('Permit')!.waits ?? []).toEqual([])
})

test('the side sheet says why, and turns what binds into something else; the calendar closes a day', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const { page, caller } = ines
  const id = await caller.makeTree('Move')
  await begun(ines, id)
  await caller.edit(id, [
    { op: 'put', topic: 'lift', set: 'waits', member: { id: 'w', on: 'permit', kind: 'FS', lag: 0, days: 'working' } },
    { op: 'set', topic: 'lift', field: 'due', value: '2027-01-15' },
  ] as never)
  await openTree(page, id)
  await topic(page, 'Lift').click()
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  await expect(sheet).toContainText('15 Jan 2027 – 19 Jan 2027')
  await expect(sheet).toContainText('2 working days after its due date')
  await sheet.getByRole('combobox', { name: 'Due is' }).selectOption('not-after')
  await expect(sheet).toContainText('2 working days too late already')
  await sheet.getByRole('textbox', { name: 'Days after Permit' }).fill('-1')
  await page.keyboard.press('Tab')
  await expect(sheet).toContainText('14 Jan 2027 – 18 Jan 2027')
  for (const [name, value] of [
    ['best', '2'],
    ['likely', '3'],
    ['worst', '2'],
  ] as const)
    await sheet.getByRole('textbox', { name: `Working days, ${name}` }).fill(value)
  await page.keyboard.press('Tab')
  await expect(page.getByRole('status').filter({ hasText: 'Estimates run from best' })).toBeVisible()
  await sheet.getByRole('textbox', { name: 'Working days, worst' }).fill('8')
  await page.keyboard.press('Tab')
  await expect
    .poll(async () => (await topicsOf(ines, id)).get('Lift')!.estimate)
    .toEqual({ best: 2, likely: 3, worst: 8 })
  await page.keyboard.press('Escape')
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await page.getByRole('button', { name: 'Working days …' }).click()
  await page
    .getByRole('combobox', { name: 'Another day' })
    .or(page.getByLabel('Another day'))
    .first()
    .fill('14 Jan 2027')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('list', { name: 'Closed and extra days' })).toContainText('14 Jan 2027 closed')
  await page.keyboard.press('Escape')
  await expect(topic(page, 'Permit')).toHaveAttribute('aria-label', /11 Jan 2027 to 15 Jan 2027/)
})

test('planks say how tasks stand in the plan, on every screen and in a picture, until somebody hides it', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await begun(ines, id)
  await ines.caller.edit(id, [
    { op: 'put', topic: 'lift', set: 'waits', member: { id: 'w', on: 'permit', kind: 'FS', lag: 0, days: 'working' } },
  ] as never)
  await openTree(ines.page, id)
  await openTree(rana.page, id)
  const command = async (): Promise<void> => {
    await ines.page.keyboard.press('Control+k')
    await ines.page.getByLabel('Search everything').fill('plan on the planks')
    await ines.page.keyboard.press('Enter')
  }
  const says = (page: Visitor['page'], title: string, words: RegExp) =>
    expect(topic(page, title)).toHaveAttribute('aria-label', words)
  await says(ines.page, 'Doors', /^Doors$/)
  await command()
  for (const { page } of [ines, rana]) {
    await says(page, 'Permit', /critical/)
    await says(page, 'Doors', /may slip 5 d/)
  }
  // Another's longer task leaves this one more room, here and there at once.
  await rana.caller.edit(id, [{ op: 'set', topic: 'lift', field: 'duration', value: 6 }])
  for (const { page } of [ines, rana]) await says(page, 'Doors', /may slip 8 d/)
  await ines.caller.edit(id, [{ op: 'set', topic: 'lift', field: 'due', value: '2027-01-20' }])
  await says(rana.page, 'Lift', /slips 2 d/)
  const picture = (await ines.caller.call('POST', `/api/trees/${id}/hand-out`, { as: 'svg', with: ['tasks'] })).data
  expect(String(picture)).toContain('critical')
  expect(String(picture)).toContain('may slip 8 d')
  await command()
  await says(rana.page, 'Doors', /^Doors$/)
  await ines.page.keyboard.press('Control+z')
  await says(rana.page, 'Doors', /may slip 8 d/)
})

test('one person’s week is evened out, and the chances name the day for 80 %', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  await begun(ines, id)
  const { page } = ines
  await ines.caller.edit(id, [
    { op: 'put', topic: 'permit', set: 'people', member: rana.caller.id },
    { op: 'put', topic: 'lift', set: 'people', member: rana.caller.id },
    { op: 'set', topic: 'lift', field: 'estimate', value: { best: 2, likely: 3, worst: 9 } },
  ] as never)
  await openTree(page, id)
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await expect(bars(page)).toBeFocused()
  await page.getByRole('tab', { name: 'Load' }).click()
  const row = page.getByRole('row', { name: /Rana Tahiri/ })
  const cells = row.getByRole('button', { name: /hours/ })
  await expect(cells.first()).toHaveAccessibleName(/56 of 40 hours 16 h too much/)
  await cells.first().click()
  await expect(page.getByRole('status', { name: 'What makes it up' })).toContainText('Permit')
  await page.getByRole('button', { name: 'Even out Rana Tahiri' }).press('Enter')
  const offer = page.getByRole('status', { name: 'Evening out' })
  await expect(offer).toContainText('whoever must end first goes first')
  await expect(offer).toContainText('All is done 3 working days later')
  await offer.getByRole('button', { name: 'Take it over' }).press('Enter')
  await expect(cells.first()).toHaveAccessibleName(/40 of 40 hours/)
  await page.getByRole('tab', { name: 'Chances' }).click()
  const chances = page.getByRole('region', { name: 'Chances of the plan’s end' })
  await expect(chances).toContainText(/80 % sure\s*\d+ \w+ \d{4}/)
  await expect(chances.getByRole('table')).toContainText('Lift')
})

test('the plan is kept as agreed, and says what has slipped since', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  await begun(ines, id)
  const { page } = ines
  await openTree(page, id)
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await expect(bars(page)).toBeFocused()
  await page.getByRole('button', { name: 'Baselines …' }).press('Enter')
  await page.keyboard.type('Agreed in January')
  await page.keyboard.press('Enter')
  const list = page.getByRole('list', { name: 'Baselines' })
  await expect(list).toContainText('Agreed in January')
  await expect(list.getByRole('button', { name: 'Agreed in January', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  )
  await page.keyboard.press('Escape')
  const view = page.getByRole('region', { name: 'Schedule of the tree' })
  await expect(view).toContainText('as early as in “Agreed in January”')
  await rana.caller.edit(id, [{ op: 'set', topic: 'permit', field: 'duration', value: 7 }] as never)
  await expect(view).toContainText('3 working days later than “Agreed in January”')
  await expect(topic(page, 'Permit')).toHaveAttribute('aria-label', /3 working days later than agreed/)
  await page.getByRole('button', { name: 'Baselines …' }).press('Enter')
  await expect(page.getByRole('list', { name: 'What slipped' })).toContainText('Permit')
  await page.keyboard.press('Escape')
  await page.getByRole('tab', { name: 'Progress' }).click()
  const earned = page.getByRole('table', { name: 'Earned value' })
  await expect(earned.getByRole('row', { name: /BAC/ })).toContainText('96 h')
  await rana.caller.edit(id, [{ op: 'set', topic: 'permit', field: 'done', value: 50 }] as never)
  await expect(earned.getByRole('row', { name: /^EV/ })).toContainText('28 h')
  // The other way round: what is still to do, in fact as far as the status date.
  await page.getByRole('button', { name: 'Still to do' }).click()
  await page.getByText('The numbers of the chart').click()
  const left = page.getByRole('table', { name: 'Still to be done, week by week' })
  await expect(left.getByRole('columnheader')).toHaveText(['By', 'as agreed', 'as planned now', 'left in fact'])
  await expect(left.getByRole('row').last()).toContainText('0 h')
  await expect(left).toContainText('68 h')
})
