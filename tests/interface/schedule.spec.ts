import type { Topic } from '#core/tree'
import { expect, openTree, pasteText, test, topic, two, type Visitor, visitor } from './porch'

const bars = (page: Visitor['page']) => page.getByRole('tree', { name: 'Schedule' })

/** Three tasks one after the other, from Monday 11 January 2027 on, known up to that day. */
async function begun(person: Visitor, id: string): Promise<void> {
  const { centre } = (await person.caller.open(id)).snapshot
  const add = (at: string, order: string, more: object) => ({
    op: 'add',
    topic: at,
    parent: centre,
    order,
    with: { title: at[0]!.toUpperCase() + at.slice(1), ...more },
  })
  await person.caller.edit(id, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    { op: 'tree', field: 'statusDay', value: '2027-01-11' },
    add('permit', 'a0', { duration: 4 }),
    add('lift', 'a1', { duration: 3 }),
    add('doors', 'a2', { duration: 2 }),
  ] as never)
}
const topicsOf = async ({ caller }: Visitor, id: string): Promise<Map<string, Partial<Topic>>> =>
  new Map(((await caller.open(id)).snapshot.topics as readonly Partial<Topic>[]).map(one => [one.title!, one]))

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

test('the calendar has tasks, milestones and meetings, without a plan too; days are changed by hand and typed into', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  const { centre } = (await caller.open(id)).snapshot
  const day = (n: number): string => new Date(Date.now() + n * 86_400_000).toISOString().slice(0, 10)
  // The middle of next month: whatever day it is, a few days on lie in it too.
  const [year, month] = day(31).split('-').map(Number)
  const at = (n: number): string => `${year}-${String(month).padStart(2, '0')}-${String(n).padStart(2, '0')}`
  const add = (topic: string, order: string, more: object) =>
    ({ op: 'add', topic, parent: centre, order, with: { title: topic.replace('-', ' '), ...more } }) as never
  const { status } = await caller.edit(id, [
    add('Move', 'a0', { start: at(11), due: at(13) }),
    add('Permit', 'a1', { due: at(12) }),
    add('Words', 'a2', {}),
    add('Meeting-3', 'a3', {
      meeting: [
        { id: 'begins', kind: 'begins', day: at(12), time: '14:00', zone: 'Europe/Copenhagen' },
        { id: 'slot', kind: 'slot', minutes: 60 },
      ],
    }),
  ])
  expect(status).toBe(200)
  await openTree(page, id)
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await page.getByRole('tab', { name: 'Calendar' }).click()
  const calendar = page.getByRole('tree', { name: 'Calendar' })
  await expect(calendar).toBeFocused()
  await expect(page.getByText('Selected, but on no day: “Move”')).toBeVisible()
  await page.keyboard.press('ArrowDown')
  const entry = (name: RegExp) => calendar.getByRole('treeitem', { name })
  await expect(entry(/^Move,/)).toHaveAttribute('aria-selected', 'true')
  await expect(entry(/^Meeting 3, meeting, .*, 14:00 to 15:00$/)).toBeVisible()
  // By its second day it's carried two days on: it begins and ends two days later.
  const where = async (n: number) => (await calendar.locator(`[data-day="${at(n)}"]`).boundingBox())!
  const bar = (await entry(/^Move,/)
    .first()
    .boundingBox())!
  const [second, fourth] = [await where(12), await where(14)]
  await page.mouse.move(second.x + 20, bar.y + 10)
  await page.mouse.down()
  await page.mouse.move(fourth.x + 20, fourth.y + 10, { steps: 6 })
  await page.mouse.up()
  await expect.poll(async () => (await topicsOf(ines, id)).get('Move')).toMatchObject({ start: at(13), due: at(15) })
  // A meeting keeps its time.
  const meeting = (await entry(/^Meeting 3/).boundingBox())!
  const there = await where(14)
  await page.mouse.move(meeting.x + 30, meeting.y + 10)
  await page.mouse.down()
  await page.mouse.move(there.x + 20, there.y + 10, { steps: 6 })
  await page.mouse.up()
  await expect
    .poll(async () => (await topicsOf(ines, id)).get('Meeting 3')!.meeting)
    .toContainEqual(expect.objectContaining({ day: at(14), time: '14:00' }))
  await page.keyboard.press('Control+z')
  await expect
    .poll(async () => (await topicsOf(ines, id)).get('Meeting 3')!.meeting)
    .toContainEqual(expect.objectContaining({ day: at(12) }))
  // It goes over two weeks, or over one: there is one field for its title, and all of it is kept.
  await entry(/^Move,/)
    .first()
    .dblclick()
  await page.keyboard.type('Move week')
  await expect(calendar.getByRole('textbox')).toHaveCount(1)
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await topicsOf(ines, id)).has('Move week')).toBe(true)
  await caller.edit(id, [
    { op: 'set', topic: 'Move', field: 'start', value: at(2) },
    { op: 'set', topic: 'Move', field: 'due', value: at(20) },
  ])
  await expect(entry(/^Move week,/)).not.toHaveCount(1)
  await entry(/^Move week,/)
    .nth(1)
    .dblclick()
  await page.keyboard.type('Move of all')
  await expect(calendar.getByRole('textbox')).toHaveCount(1)
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await topicsOf(ines, id)).has('Move of all')).toBe(true)
  expect(await page.locator('[id^="day-"]').evaluateAll(all => all.length - new Set(all.map(one => one.id)).size)).toBe(
    0,
  )
  // What is made there stands on that day, typed without a pause; the other sees it.
  await entry(/^Permit,/).click()
  await page.keyboard.press('Enter')
  await page.keyboard.type('Insurance')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(entry(/^Insurance, due/)).toBeVisible()
  expect((await topicsOf(ines, id)).get('Insurance')!.due).toBe(at(12))
  await openTree(rana.page, id)
  await rana.page.getByRole('tab', { name: 'Schedule' }).click()
  await rana.page.getByRole('tab', { name: 'Calendar' }).click()
  await rana.page.getByRole('button', { name: 'After' }).click()
  await rana.page.getByRole('group', { name: 'How it is told' }).getByRole('button', { name: 'List' }).click()
  await expect(rana.page.getByRole('treeitem', { name: /^Insurance, due/ })).toBeVisible()
  // A title that stands on no day is typed where it can be seen.
  await page.getByRole('tab', { name: 'Canvas' }).click()
  await topic(page, 'Words').click()
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await page.keyboard.press('e')
  await page.keyboard.type('Words of thanks')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Selected, but on no day: “Words of thanks”')).toBeVisible()
})

test('the brief says what slipped since the last meeting began, and so do its minutes', async ({ browser }) => {
  const ines = await visitor(browser)
  const { page, caller } = ines
  const id = await caller.makeTree('Move')
  await begun(ines, id)
  const { centre } = (await caller.open(id)).snapshot
  const wait = { id: 'w', on: 'permit', kind: 'FS', lag: 0, days: 'working' } as const
  const meeting = (topic: string, order: string, title: string) =>
    ({
      op: 'add',
      topic,
      parent: centre,
      order,
      with: {
        title,
        meeting: [
          { id: 'begins', kind: 'begins', day: '2027-03-02', time: '10:00', zone: 'UTC' },
          { id: 'p1', kind: 'person', user: caller.id, mail: null, name: '', needed: true, role: 'chair' },
        ],
      },
    }) as never
  await caller.edit(id, [{ op: 'put', topic: 'lift', set: 'waits', member: wait }])
  await caller.edit(id, [meeting('m1', 'a3', 'Meeting 1'), meeting('m2', 'a4', 'Meeting 2')])
  const item = { title: 'Dates', item: [{ id: 'minutes', kind: 'minutes', minutes: 10 }] } as const
  await caller.edit(id, [{ op: 'add', topic: 'i1', parent: 'm1', order: 'a0', with: item as never }])
  await openTree(page, id)
  await topic(page, 'Meeting 1').click()
  await page.keyboard.press('j')
  await page.getByRole('button', { name: 'Begin', exact: true }).click()
  await expect(page.getByRole('group', { name: 'Capture' })).toBeVisible()
  await page.getByRole('button', { name: 'End the meeting' }).click()
  await expect(page.getByRole('region', { name: 'The plan since it began' })).toContainText('as early as then')
  await caller.edit(id, [{ op: 'set', topic: 'permit', field: 'duration', value: 6 }])
  await openTree(page, id)
  await topic(page, 'Meeting 2').click()
  await page.keyboard.press('j')
  const slips = page.getByRole('region', { name: 'The plan since “Meeting 1”' })
  await expect(slips).toContainText('All is done 2 working days later than then')
  await expect(slips.getByRole('listitem').filter({ hasText: 'Lift' })).toContainText('2 working days later')
  await slips.getByRole('button', { name: 'Permit' }).click()
  await expect(bars(page)).toBeVisible()
  await expect(topic(page, 'Permit')).toHaveAttribute('aria-selected', 'true')
})

test('closed days come from a calendar file as one edit; what somebody can do is said at their name', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await begun(ines, id)
  const { page, caller } = ines
  await caller.edit(id, [{ op: 'put', topic: 'permit', set: 'people', member: rana.caller.id }])
  await openTree(page, id)
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await expect(bars(page)).toBeFocused()
  await page.getByRole('button', { name: 'Working days …' }).click()
  const file = page.getByLabel('Closed days from a calendar file')
  const year = new Date().getUTCFullYear() + 1
  const ics = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART;VALUE=DATE:${year}0501\r\nDTEND;VALUE=DATE:${year}0503\r\nSUMMARY:Labour Day\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n`
  const give = (text: string) =>
    file.setInputFiles({ name: 'closed.ics', mimeType: 'text/calendar', buffer: Buffer.from(text) })
  await give('no calendar at all')
  await expect(page.getByText('This isn’t a calendar file, or it is broken. Nothing was changed.')).toBeVisible()
  await give(ics)
  await expect(page.getByText('2 days are closed.')).toBeVisible()
  await expect(page.getByRole('list', { name: 'Closed and extra days' }).getByRole('listitem')).toHaveCount(2)
  await give(ics)
  await expect(page.getByText('All of these days are known already.')).toBeVisible()
  await page.keyboard.press('Escape')
  await bars(page).focus()
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await caller.open(id)).snapshot.fields.exceptions ?? []).toEqual([])
  // Half a day each day makes a week of forty hours one of twenty.
  await page.getByRole('tab', { name: 'Load' }).click()
  const cells = page.getByRole('row', { name: /Rana Tahiri/ }).getByRole('button', { name: /hours/ })
  await expect(cells.first()).toHaveAccessibleName(/of 40 hours/)
  await page.getByRole('button', { name: 'What Rana Tahiri can do' }).click()
  const hours = page.getByRole('textbox', { name: 'Hours a day of Rana Tahiri' })
  await hours.fill('4')
  await hours.press('Enter')
  await expect(cells.first()).toHaveAccessibleName(/of 20 hours/)
  const off = page.getByRole('textbox', { name: 'Another day off' })
  await off.fill('12 Jan 2027')
  await off.press('Enter')
  await expect(cells.first()).toHaveAccessibleName(/of 16 hours/)
})

test('the outline has the plan’s days as columns, sorts by them, and follows what changes', async ({ browser }) => {
  const ines = await visitor(browser)
  const { page, caller } = ines
  const id = await caller.makeTree('Move')
  await begun(ines, id)
  const wait = { id: 'w', on: 'doors', kind: 'FS', lag: 0, days: 'working' } as const
  await caller.edit(id, [{ op: 'put', topic: 'lift', set: 'waits', member: wait }])
  await openTree(page, id)
  await page.keyboard.press('v')
  const outline = page.getByRole('tree', { name: 'Outline' })
  await page.getByRole('button', { name: 'Choose columns' }).click()
  await page.getByRole('checkbox', { name: 'Planned from' }).check()
  await page.getByRole('checkbox', { name: 'May slip' }).check()
  await page.keyboard.press('Escape')
  const row = (name: string) => outline.locator('[data-topic]').filter({ hasText: name })
  await expect(row('Lift').getByRole('button', { name: 'Planned from: 13 Jan 2027' })).toBeVisible()
  await expect(row('Permit').getByRole('button', { name: 'May slip: 1 d' })).toBeVisible()
  await page.getByRole('button', { name: /^Sort by planned from/ }).click()
  await expect(outline.locator('[data-topic]').last()).toContainText('Lift')
  // A cell of the plan isn't typed in; what it follows from is.
  await row('Lift').getByRole('button', { name: 'Planned from: 13 Jan 2027' }).click()
  await expect(outline.getByRole('textbox')).toHaveCount(0)
  await caller.edit(id, [{ op: 'set', topic: 'doors', field: 'duration', value: 4 }])
  await expect(row('Lift').getByRole('button', { name: 'Planned from: 15 Jan 2027' })).toBeVisible()
})

test('a comment on a bar keeps the days it spoke of, and stands at the bar for the other', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  await begun(ines, id)
  for (const { page } of [ines, rana]) {
    await openTree(page, id)
    await page.getByRole('tab', { name: 'Schedule' }).click()
    await expect(bars(page)).toBeFocused()
  }
  const { page } = ines
  await topic(page, 'Lift').click({ position: { x: 60, y: 10 } })
  await page.keyboard.press('u')
  await page.keyboard.press('c')
  await page.keyboard.type('Before the permit?')
  await page.keyboard.press('Enter')
  const said = page.locator('[data-part="comment"]')
  await expect(said).toContainText('On its plan, then 11 Jan 2027 to 13 Jan 2027')
  await expect(topic(rana.page, /^Lift, .*1 comment$/)).toBeVisible()
  await rana.caller.edit(id, [{ op: 'set', topic: 'lift', field: 'duration', value: 5 }])
  await expect(topic(page, /^Lift, 11 Jan 2027 to 15 Jan 2027/)).toBeVisible()
  await expect(said).toContainText('then 11 Jan 2027 to 13 Jan 2027')
  // The sign leads to what was said.
  await bars(rana.page).locator('.talked').click()
  await expect(rana.page.locator('[data-part="comment"]')).toContainText('Before the permit?')
})

test('a filter finds what ends later than agreed, and a file that nobody has opened', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  await begun(ines, id)
  const { version } = await ines.caller.open(id)
  await ines.caller.call('PUT', `/api/trees/${id}/moments/${version}/baseline`, { name: 'Agreed' })
  await ines.caller.edit(id, [{ op: 'set', topic: 'lift', field: 'duration', value: 8 }])
  const sent = await ines.page.request.post(`/api/trees/${id}/attachments?name=Offer.txt`, {
    headers: { 'content-type': 'application/octet-stream' },
    data: 'Two days, 4,200 euros',
  })
  const { file, type, size } = (await sent.json()) as { file: string; type: string; size: number }
  await ines.caller.edit(id, [
    {
      op: 'put',
      topic: 'doors',
      set: 'files',
      member: { id: 'f1', file, name: 'Offer.txt', type, size, preview: null },
    },
  ])
  const { page } = ines
  await openTree(page, id)
  await page.keyboard.press('Shift+Q')
  const filter = page.getByRole('complementary', { name: 'Filter and views' })
  await filter.getByRole('combobox', { name: 'Add a condition' }).selectOption('Plan')
  await filter.getByRole('combobox', { name: 'In the plan' }).selectOption('ends later than agreed')
  await expect(filter).toContainText('1 of 4')
  await filter.getByRole('combobox', { name: 'In the plan' }).selectOption('is in the newest baseline')
  await expect(filter).toContainText('3 of 4')
  await filter.getByRole('button', { name: /^Remove the condition/ }).click()
  await filter.getByRole('combobox', { name: 'Add a condition' }).selectOption('Kind')
  await filter.getByRole('combobox', { name: 'Kind' }).selectOption('with a file that nobody has opened')
  await expect(filter).toContainText('1 of 4')
  await rana.caller.call('POST', `/api/trees/${id}/files/${file}/opened`, {})
  await filter.getByRole('combobox', { name: 'Kind' }).selectOption('with nothing under it')
  await expect(filter).toContainText('3 of 4')
  await filter.getByRole('combobox', { name: 'Kind' }).selectOption('with a file that nobody has opened')
  await expect(filter).toContainText('0 of 4')
})
