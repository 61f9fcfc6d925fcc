import { expect, openTree, test, topic, two, visitor } from './porch'
import { bars, begun, topicsOf } from './schedule-stage'

test('the calendar has tasks, milestones and meetings, without a plan too; days are changed by hand and typed into', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  const { centre } = (await caller.open(id)).snapshot
  // Late on the last day of a long month, which is the next day already further east: what is planned is next month's.
  for (const one of [page, rana.page]) await one.clock.install({ time: '2027-01-31T22:15:00Z' })
  const at = (n: number): string => `2027-02-${String(n).padStart(2, '0')}`
  const add = (topic: string, order: string, more: object) =>
    ({ op: 'add', topic, parent: centre, order, with: { title: topic.replace('-', ' '), ...more } }) as never
  await caller.edit(id, [
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
