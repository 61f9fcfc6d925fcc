import sharp from 'sharp'
import { expect, expectTitles, openTree, pasteText, pour, test, topic, two, visitor } from './porch'
import { fieldsOf, topicsOf } from './building-stage'

test('an emoji is drawn in colour, on a machine without a font for it too', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pour(page, ['Van'])
  await topic(page, 'Van').click()
  await page.keyboard.press('m')
  const sheet = page.getByRole('complementary', { name: 'Markers' })
  // Whether there is ink is only to be seen in the picture: a glyph without any is as wide as one with it.
  const inked = async (): Promise<boolean> => {
    const { channels } = await sharp(await sheet.getByRole('button', { name: 'Books' }).screenshot()).stats()
    return channels.some(channel => channel.stdev > 8)
  }
  await expect.poll(inked).toBe(true)
  const { data } = await sharp(await sheet.getByRole('button', { name: 'Love it' }).screenshot())
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
  // A heart is red where it's drawn in colour: far more red than blue.
  let red = 0
  for (let i = 0; i < data.length; i += 3) if (data[i]! - data[i + 2]! > 100) red++
  expect(red).toBeGreaterThan(40)
})

test('moved under what one has folded, a topic stays in sight, and nobody else’s folds move', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pasteText(page, { 'text/plain': 'Books\n\tCrates\n\t\tSmall\nVan' })
  await expect(topic(rana.page, 'Small')).toBeVisible()
  for (const [on, title] of [
    [page, 'Crates'],
    [page, 'Books'],
    [rana.page, 'Crates'],
  ] as const) {
    await topic(on, new RegExp(`^${title}`)).click()
    await on.keyboard.press('.')
  }
  await topic(page, 'Van').click()
  await page.keyboard.press('g')
  await page.keyboard.type('crates')
  await page.keyboard.press('Enter')
  await expect(topic(page, 'Van')).toHaveAttribute('aria-selected', 'true')
  await expectTitles(ines.caller, id, [['Books', ['Crates', 'Small', 'Van']]])
  await expect(topic(rana.page, /^Crates, 2 folded away/)).toBeVisible()
  // By key, one level in: the sibling before it is folded again.
  await page.keyboard.press('Alt+ArrowLeft')
  await topic(page, 'Crates').click()
  await page.keyboard.press('.')
  await topic(page, 'Van').click()
  await page.keyboard.press('Alt+ArrowRight')
  await expectTitles(ines.caller, id, [['Books', ['Crates', 'Small', 'Van']]])
  await expect(topic(page, 'Van')).toBeVisible()
})

test('markers: one at a time in a set, dragged onto a topic, a set of our own, the key counts and filters', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pour(page, ['Lift', 'Lamps', 'Doors'])
  await topic(page, 'Lift').click()
  await page.keyboard.press('m')
  const sheet = page.getByRole('complementary', { name: 'Markers' })
  await sheet.getByRole('button', { name: 'At risk' }).click()
  await sheet.getByRole('button', { name: 'Stuck' }).click()
  await expect(topic(rana.page, 'Lift').getByRole('img', { name: 'Stuck' })).toBeVisible()
  await expect(topic(rana.page, 'Lift').getByRole('img', { name: 'At risk' })).toHaveCount(0)
  await sheet.getByRole('button', { name: 'Idea' }).dragTo(topic(page, 'Doors'))
  await expect(topic(rana.page, 'Doors').getByRole('img', { name: 'Idea' })).toBeVisible()
  await sheet.getByRole('button', { name: 'A set of our own' }).click()
  await page.getByLabel('Name of the set').fill('Rooms')
  await page.getByLabel('Name of marker 1').fill('Drying loft')
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await sheet.getByRole('button', { name: 'Drying loft' }).click()
  await expect(topic(rana.page, 'Lift').getByRole('img', { name: 'Drying loft' })).toBeVisible()
  await topic(page, 'Lamps').click()
  await page.keyboard.press('k')
  const key = page.getByRole('complementary', { name: 'Key' })
  await expect(key.getByRole('button')).toHaveText(['', 'Stuck1', 'Idea1', 'Drying loft1'])
  // Another marker everywhere instead, in one step, and back.
  await key.getByLabel('Everywhere instead of Stuck').selectOption('paused')
  await expect(topic(rana.page, 'Lift').getByRole('img', { name: 'Paused' })).toBeVisible()
  await page.getByRole('status').filter({ hasText: 'Changed 1 topic' }).getByRole('button', { name: 'Undo' }).click()
  await expect(topic(rana.page, 'Lift').getByRole('img', { name: 'Stuck' })).toBeVisible()
  await key.getByRole('button', { name: 'Idea' }).click()
  await expect(topic(page, 'Lamps')).toHaveClass(/dim/)
  await expect(topic(page, 'Doors')).toHaveClass(/hit/)
  await key.getByRole('button', { name: 'Show all' }).click()
  await expect(topic(page, 'Lamps')).not.toHaveClass(/dim/)
})

test('style: of a topic, a branch, a level, the tree; copied and pasted; a look saved and undone', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\n\tShelving\nBooks' })
  await topic(page, 'Fit-out').click()
  await page.keyboard.press('c')
  const panel = page.getByRole('complementary', { name: 'Colour and style' })
  await panel.getByRole('button', { name: 'Ground: palette colour 4' }).click()
  await panel.getByRole('button', { name: 'Bold' }).click()
  await panel.getByRole('button', { name: 'Luggage tag' }).click()
  await expect(topic(rana.page, 'Fit-out')).toHaveClass(/shape-tag/)
  await page.keyboard.press('Shift+C')
  await topic(page, 'Books').click()
  await page.keyboard.press('Shift+V')
  await expect
    .poll(async () => (await topicsOf(ines.caller, id)).get('Books'))
    .toMatchObject({ fill: '3', bold: true, shape: 'tag' })
  await panel.getByRole('button', { name: 'Its level' }).click()
  await panel.getByRole('button', { name: 'Underlined' }).click()
  await expect.poll(async () => (await fieldsOf(ines.caller, id)).levels).toEqual([{}, { underlined: true }])
  await panel.getByRole('button', { name: 'Whole tree', exact: true }).click()
  const page_ = () =>
    rana.page.locator('.canvas').evaluate(element => getComputedStyle(element).getPropertyValue('--page'))
  const plain = await page_()
  await panel.getByRole('button', { name: 'Ledger' }).click()
  await expect.poll(page_).not.toBe(plain)
  await panel.getByLabel('Name of the new look').fill('River')
  await panel.getByRole('button', { name: 'Save look' }).click()
  await expect(panel.getByRole('button', { name: 'River', exact: true })).toHaveAttribute('aria-pressed', 'true')
  expect((await fieldsOf(ines.caller, id)).looks).toMatchObject([{ name: 'River' }])
  await topic(page, 'Books').click()
  for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z')
  await expect.poll(page_).toBe(plain)
})

test('a picture in a topic: from a file, placed, resized, seen by the other; what isn’t one is refused in words', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pour(page, ['Lift'])
  await topic(page, 'Lift').click()
  const picture = await sharp({ create: { width: 10, height: 5, channels: 3, background: '#b05a12' } })
    .png()
    .toBuffer()
  await page
    .getByLabel('Picture from a file')
    .setInputFiles({ name: 'lift.png', mimeType: 'image/png', buffer: picture })
  const shown = topic(rana.page, 'Lift').getByRole('img', { name: 'Picture of Lift' })
  await expect(shown).toBeVisible()
  await expect(shown).toHaveJSProperty('naturalWidth', 10)
  await page.getByRole('button', { name: 'Below', exact: true }).click()
  await page.getByLabel('Width of the picture').fill('300')
  await expect
    .poll(async () => (await topicsOf(ines.caller, id)).get('Lift')!.picture)
    .toMatchObject({ width: 300, ratio: 0.5, place: 'below' })
  await expect.poll(async () => Math.round((await shown.boundingBox())!.width)).toBe(300)
  await page
    .getByLabel('Picture from a file')
    .setInputFiles({ name: 'lift.png', mimeType: 'image/png', buffer: Buffer.from('no picture at all') })
  await expect(page.getByRole('status').filter({ hasText: 'isn’t a picture that can be read' })).toBeVisible()
  await topic(page, 'Lift').click()
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(shown).toHaveCount(0)
})

test('a picture is pasted, and dropped onto a topic', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pour(page, ['Lift', 'Lamps'])
  const bytes = [
    ...(await sharp({ create: { width: 12, height: 6, channels: 3, background: '#227780' } })
      .png()
      .toBuffer()),
  ]
  await topic(page, 'Lift').click()
  await page.evaluate(data => {
    const transfer = new DataTransfer()
    transfer.items.add(new File([new Uint8Array(data)], 'shot.png', { type: 'image/png' }))
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: transfer, bubbles: true, cancelable: true }),
    )
  }, bytes)
  await expect(topic(page, 'Lift').getByRole('img', { name: 'Picture of Lift' })).toBeVisible()
  const lamps = (await topic(page, 'Lamps').boundingBox())!
  await page.evaluate(
    ({ data, x, y }) => {
      const transfer = new DataTransfer()
      transfer.items.add(new File([new Uint8Array(data)], 'lamps.png', { type: 'image/png' }))
      const at = document.elementFromPoint(x, y)!
      for (const type of ['dragover', 'drop'])
        at.dispatchEvent(
          new DragEvent(type, { dataTransfer: transfer, bubbles: true, cancelable: true, clientX: x, clientY: y }),
        )
    },
    { data: bytes, x: lamps.x + lamps.width / 2, y: lamps.y + lamps.height / 2 },
  )
  await expect(topic(page, 'Lamps').getByRole('img', { name: 'Picture of Lamps' })).toBeVisible()
  const topics = await topicsOf(caller, id)
  expect(topics.get('Lift')!.picture!.file).toBe(topics.get('Lamps')!.picture!.file)
})

test('the everything box marks the selection and takes the tree along; sheet and card say what a branch comes to', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(id, [
    { op: 'add', topic: 'lift', parent: centre, order: 'a0', with: { title: 'Lift' } },
    { op: 'add', topic: 'shaft', parent: 'lift', order: 'a0', with: { title: 'Shaft', done: 100, due: '2027-05-10' } },
    { op: 'add', topic: 'cab', parent: 'lift', order: 'a1', with: { title: 'Cab', done: 0, people: [caller.id] } },
  ])
  await openTree(page, id)
  await topic(page, 'Lift').click()
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  await expect(sheet.getByText('1 of 2 done · 50 % · 10 May 2027')).toBeVisible()
  await page.keyboard.press('Control+k')
  await page.keyboard.type('risk')
  await page.getByRole('option', { name: /^At risk.*put it on the selection/ }).click()
  await expect(topic(page, /^Lift/)).toHaveAccessibleName(/At risk/)
  // Others' work changes what the branch comes to at once.
  await caller.edit(id, [{ op: 'set', topic: 'cab', field: 'done', value: 50 }])
  await expect(sheet.getByText('1 of 2 done · 75 % · 10 May 2027')).toBeVisible()
  await topic(page, /^Cab/).locator('.small').hover()
  const card = page.getByRole('dialog', { name: 'What hangs on Cab' })
  await expect(card.getByText('Ines Brandt')).toBeVisible()
  await expect(card.getByText('50 %')).toBeVisible()
  const saving = page.waitForEvent('download')
  await page.keyboard.press('Control+k')
  await page.keyboard.type('opml')
  await page.keyboard.press('Enter')
  expect((await saving).suggestedFilename()).toBe('Move.opml')
})

test('the width of a plank is pulled at its grip while its title is open, and not a letter is lost', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Shelving for the reading room, along the river wall and under the windows' })
  const plank = topic(page, /^Shelving/)
  await plank.click()
  await page.keyboard.press('e')
  await page.keyboard.press('End')
  await page.keyboard.type(' too')
  const field = page.getByRole('textbox', { name: 'Title', exact: true })
  const grip = page.locator('.width-grip')
  const before = (await plank.boundingBox())!
  const at = (await grip.boundingBox())!
  const [x, y] = [at.x + at.width / 2, at.y + at.height / 2]
  const pull = async (by: number) => {
    await page.mouse.move(x, y)
    await page.mouse.down()
    await page.mouse.move(x + by / 2, y)
    await page.mouse.move(x + by, y)
  }
  // Let go of by Esc, it's as it was, and the title stays open.
  await pull(-120)
  await expect.poll(async () => (await plank.boundingBox())!.height).toBeGreaterThan(before.height)
  await page.keyboard.press('Escape')
  await page.mouse.up()
  await expect.poll(async () => (await plank.boundingBox())!.height).toBe(before.height)
  await expect(field).toBeFocused()
  await pull(-120)
  await page.mouse.up()
  await expect(field).toBeFocused()
  await page.keyboard.type('!')
  await page.keyboard.press('Enter')
  const shelving = async () =>
    [...(await topicsOf(caller, id)).values()].find(({ title }) => title?.startsWith('Shel'))!
  await expect.poll(async () => (await shelving()).title).toMatch(/ too!$/)
  expect((await shelving()).width).toBeGreaterThan(100)
  expect((await shelving()).width).toBeLessThan(220)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await shelving()).width ?? null).toBe(null)
})

test('a finger pulls the width too, of a title that is new as well, and the field stays open', async ({ browser }) => {
  const { page, caller, context } = await visitor(browser, 'Ines Brandt', {
    viewport: { width: 820, height: 1000 },
    hasTouch: true,
    isMobile: true,
  })
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await topic(page, 'Move').tap()
  await page.keyboard.press('Tab')
  const field = page.getByRole('textbox', { name: 'Title', exact: true })
  await expect(field).toBeFocused()
  const grip = page.locator('.width-grip')
  // Nothing is there to be made wider yet.
  await expect(grip).toHaveCount(0)
  await page.keyboard.type('Shelving for the reading room, along the river wall and under the windows')
  await expect(grip).toBeVisible()
  const finger = await context.newCDPSession(page)
  const tall = (await field.boundingBox())!.height
  const at = (await grip.boundingBox())!
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', by = 0) =>
    finger.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: type === 'touchEnd' ? [] : [{ x: at.x + at.width / 2 + by, y: at.y + at.height / 2 }],
    })
  await touch('touchStart')
  for (const by of [-20, -60, -100]) await touch('touchMove', by)
  await touch('touchEnd')
  await expect.poll(async () => (await field.boundingBox())!.height).toBeGreaterThan(tall)
  await expect(field).toBeFocused()
  await page.keyboard.type(' too')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  const shelving = async () => [...(await topicsOf(caller, id)).values()].find(({ title }) => title?.startsWith('Shel'))
  await expect.poll(async () => (await shelving())?.title).toMatch(/windows too$/)
  expect((await shelving())!.width).toBeLessThan(250)
  await context.close()
})

test('long words are parted by the language of the tree, or by a topic’s own; the other person sees it too', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  const word = 'Lastenaufzugswartungsvertragsverhandlungen'
  await pasteText(page, { 'text/plain': word })
  const plank = topic(page, word)
  const linesOf = (of: typeof plank) => of.locator('.words .line').allInnerTexts()
  // Nothing is known of its language: it's cut where the line ends.
  await expect.poll(async () => (await linesOf(plank)).join('')).toBe(word)
  await plank.click()
  await page.keyboard.press('c')
  const dress = page.getByRole('complementary', { name: 'Style' })
  await dress.getByRole('button', { name: 'Whole tree' }).click()
  await dress.getByRole('combobox', { name: 'Language of the tree' }).selectOption({ label: 'German' })
  for (const on of [page, rana.page])
    await expect.poll(() => linesOf(topic(on, word))).toEqual(['Lastenaufzugswartungsvertragsverhand-', 'lungen'])
  await expect(plank).toHaveAttribute('lang', 'de')
  // One topic speaks another: the browser's spelling goes by it, too.
  await dress.getByRole('button', { name: 'Topic', exact: true }).click()
  await dress.getByRole('combobox', { name: 'Language of what is selected' }).selectOption({ label: 'Japanese' })
  await expect(topic(rana.page, word)).toHaveAttribute('lang', 'ja')
  await expect.poll(async () => (await linesOf(topic(rana.page, word))).join('')).toBe(word)
  await plank.dblclick()
  await expect(page.getByRole('textbox', { name: 'Title', exact: true })).toHaveAttribute('lang', 'ja')
  await page.keyboard.press('Escape')
  // Two steps back: it's not said any more.
  await page.keyboard.press('Control+z')
  await expect(topic(rana.page, word)).toHaveAttribute('lang', 'de')
  await page.keyboard.press('Control+z')
  await expect(topic(rana.page, word)).not.toHaveAttribute('lang')
})
