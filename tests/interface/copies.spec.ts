import { bringIn } from '../caller'
import { expect, expectTitles, openTree, pasteText, pour, test, titlesOf, topic, tree, visitor } from './porch'
import { topicsOf } from './building-stage'

test('a copy for others takes nothing private along that wasn’t chosen, shows what would travel, and asks them in', async ({
  browser,
}) => {
  const [ines, rana] = [await visitor(browser), await visitor(browser, 'Rana Tahiri')]
  const id = await ines.caller.makeTree('Move')
  const { snapshot } = await ines.caller.open(id)
  await ines.caller.edit(id, [
    {
      op: 'add',
      topic: 'lift',
      parent: snapshot.centre,
      order: 'a0',
      with: { title: 'Lift', people: [ines.caller.id], due: '2027-03-01', markers: ['risk'] },
    },
  ])
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
