import { bringIn } from '../caller'
import { expect, openTree, pasteText, pour, test, topic, tree, two, visitor } from './porch'
import { topicsOf, picture } from './substance-stage'

test('references show a topic elsewhere, live, here and from another tree; without rights they show their name and say why', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const plan = await ines.caller.makeTree('Move plan')
  const { centre } = (await ines.caller.open(plan)).snapshot
  await ines.caller.edit(plan, [
    { op: 'add', topic: 'shelves', parent: centre, order: 'a0', with: { title: 'Order shelving', done: 40 } },
  ])
  await openTree(ines.page, id)
  await openTree(rana.page, id)
  await pour(ines.page, ['Agenda', 'Books'])
  await topic(ines.page, 'Agenda').click()
  await ines.page.keyboard.press('Shift+R')
  const dialog = ines.page.getByRole('dialog', { name: 'Show another topic here' })
  await dialog.getByLabel('Topic to show').fill('books')
  await ines.page.keyboard.press('Enter')
  await expect(topic(ines.page, /^Books, shown from elsewhere/)).toBeVisible()
  // The original changes, and so does what shows it.
  await topic(rana.page, /^Books$/).click()
  await rana.page.keyboard.press('F2')
  await rana.page.keyboard.type('Books and maps // 50%')
  await rana.page.keyboard.press('Enter')
  await rana.page.keyboard.press('Escape')
  await expect(topic(ines.page, /^Books and maps, 50 %, shown from elsewhere/)).toBeVisible()
  await topic(ines.page, /^Books and maps, 50 %, shown/).click()
  // What is done to it is done to the original.
  await tree(ines.page).focus()
  await ines.page.keyboard.press('d')
  await expect(topic(rana.page, /^Books and maps, done$/)).toBeVisible()
  await ines.page.keyboard.press('Control+z')
  await expect(topic(rana.page, /^Books and maps, 50 %$/)).toBeVisible()
  await topic(ines.page, /^Books and maps, 50 %, shown/).click()
  await ines.page
    .getByRole('complementary', { name: 'About the selection' })
    .getByRole('button', { name: 'To the original' })
    .click()
  await expect(topic(ines.page, /^Books and maps, 50 %$/)).toHaveAttribute('aria-selected', 'true')

  await topic(ines.page, 'Agenda').click()
  await ines.page.keyboard.press('Shift+R')
  await dialog.getByLabel('From which tree').selectOption({ label: 'Move plan' })
  await dialog.getByLabel('Topic to show').fill('shelving')
  await expect(dialog.getByRole('option', { name: /Order shelving/ })).toBeVisible()
  await dialog.getByRole('option', { name: /Order shelving/ }).click()
  await expect(topic(ines.page, /^Order shelving, 40 %/)).toBeVisible()
  await ines.caller.edit(plan, [{ op: 'set', topic: 'shelves', field: 'title', value: 'Order oak shelving' }])
  await expect(topic(ines.page, /^Order oak shelving, 40 %/)).toBeVisible()
  await expect(topic(rana.page, /^Order shelving, shown from elsewhere, You have no role in the tree/)).toBeVisible()
  await bringIn(ines.caller, plan, rana.caller, 'viewer')
  await rana.page.reload()
  await expect(topic(rana.page, /^Order oak shelving, 40 %/)).toBeVisible()
  await ines.caller.edit(plan, [{ op: 'remove', topic: 'shelves' }])
  await expect(topic(rana.page, /^Order shelving, .*The original is in the trash/)).toBeVisible()
})

test('numbers: by scheme, to a level, live as topics move, in canvas, outline and exports', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const { data } = await caller.call<{ id: string }>('POST', '/api/trees/import', {
    format: 'text',
    name: 'x.txt',
    text: 'Move\n\tFit-out\n\t\tShelving\n\t\t\tOak\n\tBooks\n\t\tCrates',
  })
  await openTree(page, data.id)
  await page.keyboard.press('p')
  await page.getByRole('button', { name: /^Letters/ }).click()
  await expect(topic(page, /^A\.1\.a Oak/)).toBeVisible()
  await page.getByLabel('Levels that are numbered').fill('2')
  await page.keyboard.press('Enter')
  await expect(topic(page, 'Oak')).toBeVisible()
  await topic(page, /^A Fit-out/).click()
  await page.keyboard.press('Shift+Enter')
  await page.keyboard.type('First of all')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(topic(page, /^C Books/)).toBeVisible()
  await expect(topic(page, /^B\.1 Shelving/)).toBeVisible()
  await page.getByRole('tab', { name: 'Outline' }).click()
  await expect(page.getByRole('treeitem').filter({ hasText: 'Crates' })).toContainText('C.1')
  // Below the last numbered level nothing is numbered, in another scheme least of all.
  await expect(page.getByRole('treeitem').filter({ hasText: 'Oak' }).locator('.number')).toHaveText('')
  await expect
    .poll(async () => (await caller.call<string>('GET', `/api/trees/${data.id}/export/markdown`)).data)
    .toContain('C.1 Crates')
})

test('a number that is being typed stays while somebody else changes what stands beside it', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await pour(ines.page, ['Fit-out'])
  await ines.page.keyboard.press('p')
  await ines.page.getByRole('button', { name: /^Letters/ }).click()
  await expect(topic(ines.page, /^A Fit-out/)).toBeVisible()
  const centre = (await ines.caller.open(id)).snapshot.centre
  await ines.page.getByLabel('Levels that are numbered').fill('2')
  await rana.caller.edit(id, [
    { op: 'set', topic: centre, field: 'numbering', value: { scheme: 'figures', levels: 3 } },
  ])
  await expect(topic(ines.page, /^1 Fit-out/)).toBeVisible()
  await ines.page.keyboard.press('Enter')
  await expect
    .poll(async () => (await ines.caller.open(id)).snapshot.topics.find(one => one.id === centre)?.numbering)
    .toEqual({ scheme: 'figures', levels: 2 })
})

test('a filter: conditions read as a sentence, dim or hide the rest, select all, keep a view, save what is left', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await pour(ines.page, ['Fit-out', 'Shelving // Ines, due yesterday', 'Books // Rana', 'Lamps // Ines, done'])
  await topic(ines.page, /^Lamps/).click()
  await ines.page.keyboard.press('Alt+ArrowRight')
  await topic(ines.page, /^Books/).click()
  await ines.page.keyboard.press('.')
  await expect(topic(ines.page, /^Lamps/)).toHaveCount(0)
  await ines.page.keyboard.press('Shift+Q')
  const panel = ines.page.getByRole('complementary', { name: 'Filter and views' })
  await panel.getByRole('button', { name: 'Mine and open' }).click()
  await expect(panel.getByRole('status').first()).toContainText('Topics mine and open: 1 of 5')
  await panel.getByLabel('Add a condition', { exact: true }).selectOption({ label: 'Due' })
  await panel.getByLabel('Due', { exact: true }).selectOption('late')
  await expect(panel.getByRole('status').first()).toContainText('mine and open and late: 1 of 5')
  await panel.getByRole('button', { name: 'Not late' }).click()
  await expect(panel.getByRole('status').first()).toContainText('mine and open and not late: 0 of 5')
  await panel.getByRole('button', { name: 'any of' }).click()
  await expect(panel.getByRole('status').first()).toContainText('mine or open or not late: 5 of 5')
  await panel.getByRole('button', { name: 'Remove the condition not late' }).click()
  await panel.getByRole('button', { name: 'Remove the condition open' }).click()
  await expect(panel.getByRole('status').first()).toContainText('mine: 2 of 5')
  await panel.getByRole('button', { name: 'Hide the rest' }).click()
  // Shelving stays, Books stays as the path to Lamps, which no fold hides now; Fit-out goes.
  await expect(topic(ines.page, /^Fit-out/)).toHaveCount(0)
  await expect(topic(ines.page, /^Lamps/)).toBeVisible()
  await expect(topic(ines.page, /^Shelving/)).toBeVisible()
  const saving = ines.page.waitForEvent('download')
  await panel.getByLabel('Save what is left as a file').selectOption('text')
  const stream = await (await saving).createReadStream()
  const left = (await stream.toArray()).join('')
  expect(
    left
      .trim()
      .split('\n')
      .map((line: string) => line.trim()),
  ).toEqual(['Move', 'Shelving', 'Books', 'Lamps'])
  await panel.getByLabel('Name of the view').fill('Mine')
  await panel.getByRole('button', { name: 'For everyone here' }).click()
  await panel.getByRole('button', { name: 'Select all 2' }).click()
  await tree(ines.page).focus()
  await ines.page.keyboard.press('d')
  await expect.poll(async () => (await topicsOf(ines.caller, id)).get('Shelving')?.done).toBe(100)
  expect((await topicsOf(ines.caller, id)).get('Books')?.done).toBeUndefined()
  await panel.getByRole('button', { name: 'Show all' }).click()
  await expect(topic(ines.page, /^Fit-out/)).toBeVisible()
  await expect(topic(ines.page, /^Lamps/)).toHaveCount(0)
  // What a team shares is there for the other, and `mine` means theirs.
  await openTree(rana.page, id)
  await rana.page.keyboard.press('Shift+Q')
  await rana.page.getByRole('button', { name: /^Mine shared/ }).click()
  await expect(topic(rana.page, /^Books/)).toBeVisible()
  await expect(topic(rana.page, /^Shelving/)).toHaveCount(0)
  // Who changed what lately is read from the log.
  await rana.page.getByRole('button', { name: 'Show all' }).click()
  await rana.page.getByLabel('Add a condition', { exact: true }).selectOption({ label: 'Changed' })
  await rana.page.getByLabel('Changed by').selectOption({ label: 'by me' })
  await expect(
    rana.page.getByRole('complementary', { name: 'Filter and views' }).getByRole('status').first(),
  ).toContainText('by me: 0 of 5')
})

test('the outline is a table: columns are chosen, cells typed by key, sorted and grouped without changing the tree', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pour(page, ['Fit-out', 'Books // due 12 May 2027', 'Arches // due 1 May 2027'])
  await page.getByRole('tab', { name: 'Outline' }).click()
  const row = (title: string) => page.getByRole('treeitem').filter({ hasText: title })
  await page.getByRole('button', { name: 'Choose columns' }).click()
  await page.getByRole('group', { name: 'Columns' }).getByLabel('Length').check()
  await page.keyboard.press('Escape')
  await row('Fit-out').click()
  await page.keyboard.press(';')
  await expect(page.getByLabel('People of Fit-out')).toBeFocused()
  await page.keyboard.type('Ines')
  await page.keyboard.press('Tab')
  await page.keyboard.type('sometime')
  await page.keyboard.press('Tab')
  await expect(page.getByText('“sometime” isn’t a day')).toBeVisible()
  await page.getByLabel('Due of Fit-out').fill('3 May 2027')
  await page.keyboard.press('Tab')
  await page.keyboard.type('4')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('tree')).toBeFocused()
  await expect
    .poll(async () => {
      const topic = (await topicsOf(caller, id)).get('Fit-out')!
      return [topic.people, topic.due, topic.duration]
    })
    .toEqual([[caller.id], '2027-05-03', 4])
  const order = async (): Promise<string[]> =>
    (await page.getByRole('treeitem').allInnerTexts()).map(text => /Fit-out|Books|Arches|Move/.exec(text)![0])
  await page.getByRole('button', { name: 'Sort by due, now none' }).click()
  await expect.poll(order).toEqual(['Move', 'Arches', 'Fit-out', 'Books'])
  await page.getByRole('button', { name: 'Sort by title' }).click()
  await expect.poll(order).toEqual(['Move', 'Arches', 'Books', 'Fit-out'])
  await page.getByLabel('Group the rows').selectOption({ label: 'by person' })
  await expect(page.getByText('Nobody 2')).toBeVisible()
  await page.getByLabel('Group the rows').selectOption({ label: 'as the tree' })
  await page.getByRole('button', { name: 'Sort by title' }).click()
  await page.getByRole('button', { name: 'Sort by title' }).click()
  await expect.poll(order).toEqual(['Move', 'Fit-out', 'Books', 'Arches'])
  expect(
    (await caller.open(id)).snapshot.topics
      .filter(one => one.parent)
      .sort((a, b) => (a.order < b.order ? -1 : 1))
      .map(one => one.title),
  ).toEqual(['Fit-out', 'Books', 'Arches'])
})

test('an address typed in a title becomes a link; a branch pasted in another tree brings its files, and what it referred to still shows', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const [id, other] = [await caller.makeTree('Move'), await caller.makeTree('Archive')]
  await openTree(page, id)
  await pour(page, ['Removal firm https://carriers.example/offer', 'Books'])
  await expect
    .poll(async () =>
      (await topicsOf(caller, id)).get('Removal firm https://carriers.example/offer')?.links?.map(link => link.url),
    )
    .toEqual(['https://carriers.example/offer'])
  const { centre, topics } = (await caller.open(id)).snapshot
  const firm = topics.find(one => one.title?.startsWith('Removal'))!
  const books = topics.find(one => one.title === 'Books')!
  const sent = (await (
    await fetch(`${caller.url}/api/trees/${id}/attachments?name=Yard.png`, {
      method: 'POST',
      headers: { cookie: caller.cookie, 'content-type': 'application/octet-stream' },
      body: new Uint8Array(await picture()),
    })
  ).json()) as { file: string; preview: { file: string; ratio: number } }
  await caller.edit(id, [
    {
      op: 'put',
      topic: firm.id,
      set: 'files',
      member: { id: 'f1', file: sent.file, name: 'Yard.png', type: 'image/png', size: 9, preview: sent.preview },
    },
    {
      op: 'add',
      topic: 'shown',
      parent: firm.id,
      order: 'a0',
      with: { title: 'Books', reference: { tree: null, topic: books.id } },
    },
  ])
  expect(centre).toBeTruthy()
  await topic(page, /^Removal firm.*has a file/).click()
  const copied = await page.evaluate(() => {
    const transfer = new DataTransfer()
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('copy', { clipboardData: transfer, bubbles: true, cancelable: true }),
    )
    return Object.fromEntries([...transfer.types].map(type => [type, transfer.getData(type)]))
  })
  await openTree(page, other)
  await pasteText(page, copied)
  await expect(topic(page, /^Removal firm.*has a file/)).toBeVisible()
  await expect(topic(page, /^Books, shown from elsewhere$/)).toBeVisible()
  await expect
    .poll(
      async () =>
        (
          await fetch(`${caller.url}/api/trees/${other}/files/${sent.preview.file}`, {
            headers: { cookie: caller.cookie },
          })
        ).status,
    )
    .toBe(200)
  await caller.edit(id, [{ op: 'set', topic: books.id, field: 'title', value: 'Books and maps' }])
  await expect(topic(page, /^Books and maps, shown from elsewhere$/)).toBeVisible()
})
