import type { Topic } from '#core/tree'
import { bringIn } from '../caller'
import { seriousViolations } from './accessibility'
import { expect, openTree, pasteText, test, topic, two, visitor } from './porch'

const DAY = '2031-06-07'

test('a day by the hour: times are typed behind a title, told by the run-sheet, and who is in two places is said', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  const all = async (): Promise<readonly Topic[]> => (await caller.open(id)).snapshot.topics as Topic[]
  await openTree(page, id)
  await openTree(rana.page, id)
  await pasteText(page, {
    'text/plain': [
      `Doors open // ${DAY} 10:00 to 12:00, Ines Brandt`,
      `Speeches, short // ${DAY} 10:15 to 10:40, Ines Brandt`,
      `Buns arrive // ${DAY} 8:45 am`,
      `Sweep the porch // ${DAY}`,
    ].join('\n'),
  })
  await expect(topic(page, /^Buns arrive/)).toBeVisible()
  await expect
    .poll(async () => (await all()).find(({ title }) => title === 'Doors open'))
    .toMatchObject({ start: DAY, startTime: '10:00', due: DAY, dueTime: '12:00', people: [caller.id] })
  await expect(topic(page, /^Speeches, short.*7 Jun 2031, 10:15 to 10:40/)).toBeVisible()
  await rana.page.keyboard.press('u')
  await rana.page.keyboard.press('p')
  await rana.page.getByRole('tab', { name: 'Calendar' }).click()
  await rana.page.getByRole('button', { name: 'Run-sheet' }).click()
  const sheet = rana.page.getByRole('tree', { name: 'Calendar' })
  // It opens on the day that has times.
  await expect(rana.page.getByRole('heading', { name: /^Saturday,? 7 June 2031$/ })).toBeVisible()
  const rows = sheet.getByRole('treeitem')
  await expect(rows).toHaveText([/^\s*Sweep the porch/, /Buns arrive/, /Doors open/, /Speeches, short/])
  await expect(rows.nth(2)).toContainText('10:00 to 12:00')
  await expect(rows.nth(2)).toContainText('Ines Brandt is to be at “Speeches, short”, too')
  await expect(rana.page.getByText('One person has to be in two places')).toBeVisible()
  for (const colorScheme of ['light', 'dark'] as const) {
    await rana.page.emulateMedia({ colorScheme })
    await expect.poll(() => seriousViolations(rana.page)).toEqual([])
  }
  // The other one gives it a later hour by the keyboard, in the sheet beside the canvas; it's heard of at once.
  await topic(page, /^Speeches/).click({ position: { x: 8, y: 8 } })
  const beside = page.getByRole('complementary', { name: 'About the selection' })
  await page.keyboard.press('Alt+Enter')
  await beside.getByLabel('Due', { exact: true }).fill('12:40')
  await beside.getByLabel('Due', { exact: true }).press('Enter')
  await beside.getByLabel('Start', { exact: true }).fill('12:15')
  await beside.getByLabel('Start', { exact: true }).press('Enter')
  await expect(rana.page.getByText('One person has to be in two places')).toBeHidden()
  // A length may be said in hours of a working day.
  await beside.getByLabel('Length', { exact: true }).fill('6 h')
  await beside.getByLabel('Length', { exact: true }).press('Tab')
  await expect.poll(async () => (await all()).find(({ title }) => title === 'Speeches, short')?.duration).toBe(0.75)
  await expect(rows.nth(3)).toContainText('12:15 to 12:40')
  // Up and down go through the lines of the day, and a title is typed in its line.
  await rows.nth(1).click()
  await rana.page.keyboard.press('ArrowDown')
  await expect(rows.nth(2)).toHaveAttribute('aria-selected', 'true')
  await rana.page.keyboard.press('e')
  await rana.page.keyboard.type('Doors open wide')
  await rana.page.keyboard.press('Enter')
  await expect(topic(page, /^Doors open wide/)).toBeVisible()
  // A letter after a click is a command there, too.
  await rows.nth(2).click()
  await rana.page.keyboard.press('d')
  await expect.poll(async () => (await all()).find(({ title }) => title === 'Doors open wide')?.done).toBe(100)
  // A day without times says so, and leads back.
  await rana.page.getByRole('button', { name: 'After', exact: true }).click()
  await expect(rana.page.getByText('Nothing has a time on this day.')).toBeVisible()
  expect(await seriousViolations(rana.page)).toEqual([])
  await rana.page.getByRole('button', { name: /^Go to 7 Jun 2031/ }).click()
  await expect(rows).toHaveCount(4)
})

test('whose wall it is is said once for everybody; a viewer may read and print it, and change nothing', async ({
  browser,
}) => {
  const owner = await visitor(browser, 'Ines Brandt', { timezoneId: 'Europe/Lisbon' })
  const far = await visitor(browser, 'Rana Tahiri', { timezoneId: 'Asia/Tokyo' })
  const id = await owner.caller.makeTree('Opening')
  const { centre } = (await owner.caller.open(id)).snapshot
  await owner.caller.edit(id, [
    { op: 'tree', field: 'zone', value: 'Europe/Lisbon' },
    {
      ...{ op: 'add', topic: 'van', parent: centre, order: 'a0' },
      with: { title: 'Van', start: DAY, startTime: '23:30', due: DAY, dueTime: '23:50' },
    },
    {
      ...{ op: 'add', topic: 'brief', parent: centre, order: 'a1' },
      with: {
        title: 'Last word',
        meeting: [
          { id: 'begins', kind: 'begins', day: DAY, time: '23:00', zone: 'Europe/Lisbon' },
          { id: 'slot', kind: 'slot', minutes: 20 },
        ],
      },
    },
  ] as never)
  await bringIn(owner.caller, id, far.caller, 'viewer')
  for (const { page } of [owner, far]) {
    await openTree(page, id)
    await page.keyboard.press('u')
    await page.keyboard.press('p')
    await page.getByRole('tab', { name: 'Calendar' }).click()
    await page.getByRole('button', { name: 'Run-sheet' }).click()
    // In Tokyo it's the next morning then; the run-sheet is that of the place.
    await expect(page.getByRole('heading', { name: /^Saturday,? 7 June 2031$/ })).toBeVisible()
    await expect(page.getByRole('tree', { name: 'Calendar' }).getByRole('treeitem')).toHaveText([
      /23:00 to 23:20\s*Last word/,
      /23:30 to 23:50\s*Van/,
    ])
  }
  await expect(far.page.getByRole('combobox', { name: 'Times on the wall of' })).toBeDisabled()
  await far.page.evaluate(() => {
    // What is printed is made in a frame; printing itself is the browser's.
    const found = new MutationObserver(() => {
      const frame = document.querySelector<HTMLIFrameElement>('iframe[title="What is printed"]')
      if (frame) document.body.dataset.printed = frame.srcdoc
    })
    found.observe(document.body, { childList: true })
  })
  await far.page.getByRole('button', { name: 'Print' }).click()
  await expect
    .poll(() => far.page.evaluate(() => document.body.dataset.printed ?? ''))
    .toMatch(/Times on the wall of Europe\/Lisbon[\s\S]*23:30 to 23:50[\s\S]*Van/)
  // The owner chooses another wall: meetings go along, what was typed stays as it was typed.
  await owner.page.getByRole('combobox', { name: 'Times on the wall of' }).click()
  await owner.page.getByRole('option', { name: 'UTC', exact: true }).click()
  await expect(far.page.getByRole('tree', { name: 'Calendar' }).getByRole('treeitem')).toHaveText([
    /22:00 to 22:20\s*Last word/,
    /23:30 to 23:50\s*Van/,
  ])
  await owner.page.keyboard.press('Control+z')
  await expect.poll(async () => (await owner.caller.open(id)).snapshot.fields?.zone).toBe('Europe/Lisbon')
})
