import { Document, HeadingLevel, ImageRun, Packer, Paragraph } from 'docx'
import { seriousViolations } from './accessibility'
import { expect, expectTitles, openTree, pasteText, test, topic, tree, visitor } from './porch'

test('somebody new makes an account, a tree and finds home again', async ({ browser }) => {
  const context = await browser.newContext({ baseURL: process.env.HOUSE })
  const page = await context.newPage()
  await page.goto('/trees')
  await expect(page).toHaveURL(/sign-in/)
  await page.getByRole('button', { name: 'I’m new here' }).click()
  await page.getByLabel('Your name').fill('Nora Vik')
  await page.getByLabel('Mail address').fill(`nora${Date.now()}@porch.example`)
  await page.getByLabel('Password').fill('short')
  await page.getByRole('button', { name: 'Make the account' }).click()
  await page.getByLabel('Password').fill('long enough now')
  await page.getByRole('button', { name: 'Make the account' }).click()
  await expect(page.getByText('No trees here yet')).toBeVisible()
  await page.getByRole('button', { name: 'New tree' }).click()
  await page.getByRole('button', { name: 'Begin blank' }).click()
  await expect(topic(page, 'New tree')).toBeVisible()
  await page.getByLabel('Title of the tree').fill('Opening day')
  await page.getByLabel('Title of the tree').press('Enter')
  await expect(topic(page, 'Opening day')).toBeVisible()
  await page.getByRole('link', { name: 'Trees' }).click()
  await page.getByRole('button', { name: 'Move Opening day to the trash' }).click()
  await page.getByRole('button', { name: 'Bring it back' }).click()
  await expect(page.getByRole('link', { name: /Opening day/ })).toBeVisible()
  await page.getByRole('button', { name: /account/ }).click()
  await page.getByRole('menuitem', { name: 'Sign out', exact: true }).click()
  await expect(page).toHaveURL(/sign-in/)
  await page.getByLabel('Mail address').fill('nobody@porch.example')
  await page.getByLabel('Password').fill('x')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('alert')).toContainText('don’t match')
})

test('a file comes in as a tree; one that can’t be read says so and changes nothing', async ({ browser }) => {
  const { page } = await visitor(browser)
  await page.goto('/trees')
  await page
    .getByLabel('File to import')
    .setInputFiles({ name: 'broken.opml', mimeType: 'text/xml', buffer: Buffer.from('<opml><body><outline') })
  await expect(page.getByRole('alert')).toContainText('Nothing was changed')
  await expect(page.getByText('No trees here yet')).toBeVisible()
  await page
    .getByLabel('File to import')
    .setInputFiles({
      name: 'move.md',
      mimeType: 'text/markdown',
      buffer: Buffer.from('# Move\n\n- Fit-out\n  - Shelving\n- Books'),
    })
  await expect(topic(page, 'Shelving')).toBeVisible()
})

test('a Word document is seen as a tree before it’s taken in, with what stays behind; left, it makes nothing', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  await page.goto('/trees')
  const buffer = await Packer.toBuffer(
    new Document({
      sections: [
        {
          children: [
            new Paragraph({ text: 'Fit-out', heading: HeadingLevel.HEADING_1 }),
            new Paragraph('Dry first.'),
            new Paragraph({ text: 'Lift', heading: HeadingLevel.HEADING_2 }),
            new Paragraph({ text: 'Doors', bullet: { level: 0 } }),
            new Paragraph({
              children: [
                new ImageRun({
                  type: 'png',
                  data: Buffer.from(
                    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
                    'base64',
                  ),
                  transformation: { width: 10, height: 10 },
                }),
                new ImageRun({ type: 'png', data: Buffer.from('torn'), transformation: { width: 10, height: 10 } }),
              ],
            }),
            new Paragraph({ text: 'Books', heading: HeadingLevel.HEADING_1 }),
          ],
        },
      ],
    }),
  )
  const bring = (): Promise<void> =>
    page
      .getByLabel('File to import')
      .setInputFiles({
        name: 'The move.docx',
        mimeType: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
        buffer,
      })
  await bring()
  const dialog = page.getByRole('dialog', { name: '“The move.docx” would be this tree' })
  await expect(dialog.getByRole('listitem')).toHaveText(['Fit-out', 'Lift', 'Doors', 'Books'])
  await expect(dialog.getByRole('note')).toHaveText('1 picture stayed behind.')
  await expect(dialog.getByRole('button', { name: 'Take it in' })).toBeFocused()
  expect(await seriousViolations(page)).toEqual([])
  await page.keyboard.press('Escape')
  await expect(dialog).toBeHidden()
  await expect(page.getByText('No trees here yet')).toBeVisible()
  await bring()
  await expect(dialog.getByRole('button', { name: 'Take it in' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(topic(page, /^Doors/)).toBeVisible()
  await expect(topic(page, /^Fit-out/)).toHaveAttribute('aria-label', /note/)
  // What could be drawn shows in its topic.
  const { data: trees } = await caller.call<{ id: string }[]>('GET', '/api/trees')
  const { topics } = (await caller.open(trees[0]!.id)).snapshot
  expect(topics.filter(({ picture }) => picture).map(({ title }) => title)).toEqual(['Lift'])
})

test('the everything box finds topics, runs commands and selects what is somebody’s', async ({ browser }) => {
  const { page, caller } = await visitor(browser, 'Ines Brandt')
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\n\tRéading room\n\t\tLamps\nBooks' })
  await page.keyboard.press('.')
  await page.keyboard.press('Control+k')
  await page.getByRole('combobox', { name: 'Search everything' }).fill('reading')
  await expect(page.getByRole('option').first()).toContainText('Réading room')
  await page.keyboard.press('Enter')
  await expect(topic(page, 'Réading room')).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('Control+k')
  // What is called exactly so is nearest, though other commands have its words too.
  await page.getByRole('combobox', { name: 'Search everything' }).fill('the tray')
  await expect(page.getByRole('option').first()).toContainText('The tray')
  await page.getByRole('combobox', { name: 'Search everything' }).fill('new topic under')
  await page.keyboard.press('Enter')
  await page.keyboard.type('Curtains')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expectTitles(caller, id, [['Fit-out', ['Réading room', 'Lamps', 'Curtains']], 'Books'])
})

test('keys are listed on ?, and each person can change them', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await page.keyboard.press('?')
  await page.getByRole('button', { name: 'Change the key for New topic under' }).click()
  await page.keyboard.press('g')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await tree(page).focus()
  await page.keyboard.press('g')
  await page.keyboard.type('By my own key')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expectTitles(caller, id, ['By my own key'])

  // Two keys one after the other are a key of two steps; whoever stops after the first is shown what can follow.
  await page.keyboard.press('?')
  await page.getByRole('button', { name: 'Change the key for New topic after' }).click()
  await page.keyboard.press('y')
  await page.keyboard.press('y')
  await expect(page.getByRole('button', { name: 'Change the key for New topic after' })).toHaveText('Y then Y')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await tree(page).focus()
  await page.keyboard.press('y')
  await expect(page.getByRole('status').filter({ hasText: 'New topic after' })).toBeVisible()
  await page.keyboard.press('y')
  await page.keyboard.type('By two')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expectTitles(caller, id, ['By my own key', 'By two'])
})

test('markers, done, due, people and many at once', async ({ browser }) => {
  const { page, caller } = await visitor(browser, 'Ines Brandt')
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Lift\nLamps\nDoors' })
  await topic(page, 'Lift').click()
  await topic(page, 'Doors').click({ modifiers: ['Shift'] })
  await expect(page.getByRole('heading', { name: '3 topics' })).toBeVisible()
  await page.keyboard.press('m')
  const box = page.getByRole('complementary', { name: 'Markers' })
  await box.getByRole('button', { name: 'At risk' }).click()
  await topic(page, 'Lamps').click()
  await box.getByRole('button', { name: 'Question' }).click()
  await box.getByRole('button', { name: 'At risk' }).click()
  await box.getByRole('button', { name: 'Close' }).click()
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  await sheet.getByRole('button', { name: 'Add a person' }).click()
  await page.getByRole('group', { name: 'People' }).getByRole('button', { name: 'Ines Brandt' }).click()
  await page.keyboard.press('Escape')
  await sheet.getByLabel('Due').fill('12 May 2027')
  await sheet.getByLabel('Due').press('Enter')
  await sheet.getByRole('button', { name: '75 % done' }).click()
  await sheet.getByLabel('Add a link').fill('javascript:alert(1)')
  await sheet.getByLabel('Add a link').press('Enter')
  await expect(page.getByRole('status').filter({ hasText: 'isn’t an address that can be opened' })).toBeVisible()
  await sheet.getByLabel('Add a link').fill('tannery.example/lamps')
  await sheet.getByLabel('Add a link').press('Enter')
  await expect(sheet.getByRole('link', { name: 'tannery.example/lamps' })).toHaveAttribute(
    'href',
    'https://tannery.example/lamps',
  )
  const topics = new Map((await caller.open(id)).snapshot.topics.map(one => [one.title, one]))
  expect(topics.get('Lift')).toMatchObject({ markers: ['at-risk'] })
  expect(topics.get('Lamps')).toMatchObject({ markers: ['question'], people: [caller.id], due: '2027-05-12', done: 75 })
  // The bottom edge of a plank is clicked at one of five stops.
  const plank = topic(page, /^Lamps/)
  const { width, height } = (await plank.boundingBox())!
  await plank.click({ position: { x: width * 0.27, y: height - 1 } })
  await expect
    .poll(async () => (await caller.open(id)).snapshot.topics.find(one => one.title === 'Lamps')?.done)
    .toBe(25)
  await page.keyboard.press('d')
  await expect(topic(page, /^Lamps, Question, Ines Brandt, done/)).toBeVisible()
})

test('dragging shows where the branch lands; Esc cancels; dropped on nothing it is loose', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\n\tShelving\n\tLift\nBooks\n\tCrates' })
  const middle = async (title: string): Promise<{ x: number; y: number; width: number; height: number }> => {
    const box = (await topic(page, title).boundingBox())!
    return { x: box.x + box.width / 2, y: box.y + box.height / 2, width: box.width, height: box.height }
  }
  const drag = async (title: string, to: { x: number; y: number }): Promise<void> => {
    const from = await middle(title)
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    await page.mouse.move(from.x + 8, from.y + 8)
    await page.mouse.move(to.x, to.y, { steps: 6 })
  }
  const crates = await middle('Crates')
  await drag('Lift', { x: crates.x, y: crates.y + crates.height / 2 - 1 })
  await expect(page.getByText('under Books, 2nd of 2 · takes its colour (C: keeps its own)')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.mouse.up()
  await expectTitles(caller, id, [
    ['Fit-out', 'Shelving', 'Lift'],
    ['Books', 'Crates'],
  ])
  await drag('Lift', { x: crates.x, y: crates.y + crates.height / 2 - 1 })
  await page.mouse.up()
  await expectTitles(caller, id, [
    ['Fit-out', 'Shelving'],
    ['Books', 'Crates', 'Lift'],
  ])
  await drag('Shelving', await middle('Lift'))
  await expect(page.getByText('under Lift · takes its colour (C: keeps its own)')).toBeVisible()
  await page.mouse.up()
  await expectTitles(caller, id, ['Fit-out', ['Books', 'Crates', ['Lift', 'Shelving']]])
  await drag('Books', { x: 470, y: 700 })
  await expect(page.getByText('on its own', { exact: true })).toBeVisible()
  await page.mouse.up()
  await expectTitles(caller, id, ['Fit-out'])
  await expect(topic(page, 'Books')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expectTitles(caller, id, ['Fit-out', ['Books', 'Crates', ['Lift', 'Shelving']]])
})

test('the outline has the same keys, edits in place and drags', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await page.getByRole('tab', { name: 'Outline' }).click()
  await expect(page.getByRole('tree', { name: 'Outline' })).toBeFocused()
  await page.keyboard.press('Tab')
  for (const title of ['Fit-out', 'Books', 'People']) {
    await page.keyboard.type(title)
    await page.keyboard.press('Enter')
  }
  await page.keyboard.press('Tab')
  await page.keyboard.type('Volunteers')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expectTitles(caller, id, ['Fit-out', 'Books', ['People', 'Volunteers']])
  await page.keyboard.press('ArrowUp')
  await page.keyboard.press('Alt+ArrowUp')
  await expectTitles(caller, id, ['Fit-out', ['People', 'Volunteers'], 'Books'])
  const row = (title: string) => page.getByRole('treeitem').filter({ hasText: title })
  const from = (await row('Books').boundingBox())!
  const to = (await row('Volunteers').boundingBox())!
  await page.mouse.move(from.x + 200, from.y + 15)
  await page.mouse.down()
  await page.mouse.move(from.x + 205, from.y + 5)
  await page.mouse.move(to.x + 200, to.y + to.height - 3, { steps: 5 })
  await expect(page.getByText('under People, 2nd of 2')).toBeVisible()
  await page.mouse.up()
  await expectTitles(caller, id, ['Fit-out', ['People', 'Volunteers', 'Books']])
  await expect(row('Books')).toContainText('2.2')
})

test('ten thousand topics: only what is in sight is in the document', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const text = [
    '# Large',
    ...Array.from({ length: 100 }, (_, i) =>
      [`- Branch ${i}`, ...Array.from({ length: 99 }, (_, k) => `${'  '.repeat(1 + (k % 3))}- Topic ${i}.${k}`)].join(
        '\n',
      ),
    ),
  ].join('\n')
  const { data } = await caller.call<{ id: string }>('POST', '/api/trees/import', {
    format: 'text',
    name: 'large.txt',
    text,
  })
  await openTree(page, data.id)
  await expect(page.getByText('10,001 topics')).toBeVisible()
  const items = (): Promise<number> => page.getByRole('treeitem').count()
  expect(await items()).toBeLessThan(300)
  await page.keyboard.press('f')
  await expect.poll(items).toBeLessThan(20)
  await page.getByRole('tab', { name: 'Outline' }).click()
  await expect.poll(items).toBeGreaterThan(10)
  expect(await items()).toBeLessThan(100)
  await page.keyboard.press('Control+k')
  await page.getByRole('combobox', { name: 'Search everything' }).fill('Topic 77.42')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('treeitem').filter({ hasText: 'Topic 77.42' })).toBeInViewport()
})

test('at 390 wide the outline comes first, touch folds and selects, and a long press opens the menu', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser, 'Ines Brandt', {
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
  })
  const { data } = await caller.call<{ id: string }>('POST', '/api/trees/import', {
    format: 'text',
    name: 'x.txt',
    text: 'Move\n\tFit-out\n\t\tShelving\n\tBooks',
  })
  await openTree(page, data.id)
  await expect(page.getByRole('tree', { name: 'Outline' })).toBeVisible()
  await page.getByRole('treeitem').filter({ hasText: 'Fit-out' }).getByRole('button', { name: 'Fold' }).tap()
  await expect(page.getByRole('treeitem').filter({ hasText: 'Shelving' })).toHaveCount(0)
  await page.getByRole('tab', { name: 'Canvas' }).tap()
  await topic(page, 'Books').tap()
  await expect(topic(page, 'Books')).toHaveAttribute('aria-selected', 'true')
  // A finger that stays: the page gets what a touch screen sends, since the driver has no long press of its own.
  await topic(page, 'Books')
    .evaluate(plank => {
      const { x, y, width, height } = plank.getBoundingClientRect()
      plank.dispatchEvent(
        new PointerEvent('pointerdown', {
          pointerId: 7,
          pointerType: 'touch',
          button: 0,
          clientX: x + width / 2,
          clientY: y + height / 2,
          bubbles: true,
          cancelable: true,
        }),
      )
    })
    .catch(() => {})
  await expect(page.getByRole('menuitem', { name: 'New topic under' })).toBeVisible()
  await page.getByRole('menuitem', { name: 'New topic under' }).tap()
  await page.keyboard.type('Crates')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await expectTitles(caller, data.id, [
    ['Fit-out', 'Shelving'],
    ['Books', 'Crates'],
  ])
})
