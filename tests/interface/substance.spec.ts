import { OFFER } from '../../demo/offer-pdf'
import { expect, openTree, pasteText, pour, test, topic, tree, two, visitor } from './porch'
import { topicsOf, picture } from './substance-stage'

test('files: five dropped on a topic arrive, one too large says why, pictures and PDFs open over the tree, Esc leads back; the other sees them', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await openTree(rana.page, id)
  await pour(ines.page, ['Removal firm'])
  const png = (await picture()).toString('base64')
  const at = (await topic(ines.page, 'Removal firm').boundingBox())!
  await tree(ines.page).evaluate(
    (element, { png, pdf, x, y }) => {
      const bytes = (text: string) => Uint8Array.from(atob(text), letter => letter.charCodeAt(0))
      const transfer = new DataTransfer()
      transfer.items.add(new File([bytes(png)], 'Yard.png', { type: 'image/png' }))
      transfer.items.add(new File([pdf], 'Offer.pdf', { type: 'application/pdf' }))
      transfer.items.add(new File(['Two lorries'], 'Notes.txt', { type: 'text/plain' }))
      transfer.items.add(new File([new Uint8Array(26 * 1024 * 1024)], 'Film.mov'))
      transfer.items.add(new File(['not a picture'], 'Wall.jpg', { type: 'image/jpeg' }))
      element.dispatchEvent(
        new DragEvent('drop', { dataTransfer: transfer, clientX: x, clientY: y, bubbles: true, cancelable: true }),
      )
    },
    { png, pdf: OFFER, x: at.x + 20, y: at.y + 10 },
  )
  const box = ines.page.getByRole('region', { name: 'Files on their way' })
  await expect(box).toContainText('Larger than 25 MB')
  await expect(box).toContainText('“Wall.jpg” has the name of a picture but isn’t one. Nothing was changed.')
  await expect
    .poll(async () =>
      (await topicsOf(ines.caller, id))
        .get('Removal firm')
        ?.files?.map(file => file.name)
        .sort(),
    )
    .toEqual(['Notes.txt', 'Offer.pdf', 'Yard.png'])
  await box.getByRole('button', { name: 'Take Film.mov off the list' }).click()
  await box.getByRole('button', { name: 'Take Wall.jpg off the list' }).click()
  await expect(box).toHaveCount(0)

  await expect(topic(rana.page, /^Removal firm.*has 3 files/)).toBeVisible()
  await topic(rana.page, /^Removal firm/).click()
  await rana.page.getByRole('button', { name: 'Offer.pdf', exact: true }).click()
  const viewer = rana.page.getByRole('dialog', { name: 'File Offer.pdf' })
  await expect(viewer).toContainText('page 1 of 2')
  const ink = (): Promise<number> =>
    viewer
      .locator('canvas')
      .first()
      .evaluate(canvas => {
        const { data } = (canvas as HTMLCanvasElement)
          .getContext('2d')!
          .getImageData(0, 0, (canvas as HTMLCanvasElement).width, (canvas as HTMLCanvasElement).height)
        let dark = 0
        for (let i = 0; i < data.length; i += 4) if (data[i]! < 100 && data[i + 3]! > 0) dark++
        return dark
      })
  await expect.poll(ink).toBeGreaterThan(300)
  await rana.page.keyboard.press('ArrowRight')
  await expect(rana.page.getByRole('dialog', { name: /File (?:Notes\.txt|Yard\.png)/ })).toBeVisible()
  await rana.page.keyboard.press('Escape')
  await expect(rana.page.getByRole('dialog')).toHaveCount(0)
  await expect(tree(rana.page)).toBeFocused()
  await expect(topic(rana.page, /^Removal firm/)).toHaveAttribute('aria-selected', 'true')
  const waiting = rana.page.waitForEvent('download')
  await rana.page.getByRole('button', { name: 'Save Notes.txt' }).click()
  expect((await waiting).suggestedFilename()).toBe('Notes.txt')
  // A link elsewhere leads to the same file.
  await topic(rana.page, 'Move').click()
  await rana.page.getByRole('button', { name: 'Link to a file' }).click()
  await rana.page.getByLabel('File to link to').selectOption({ label: 'Offer.pdf, on Removal firm' })
  await rana.page.getByRole('button', { name: 'Offer.pdf', exact: true }).click()
  await expect(rana.page.getByRole('dialog', { name: 'File Offer.pdf' })).toBeVisible()
  await rana.page.keyboard.press('Escape')
  await ines.page.keyboard.press('Control+z')
  await expect.poll(async () => (await topicsOf(ines.caller, id)).get('Removal firm')?.files?.length).toBe(2)
})

test('links: typed, pasted, to a topic and back with Esc, by mail with a subject; bad ones are refused', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pour(page, ['Fit-out', 'Books'])
  await topic(page, 'Fit-out').click()
  await page.keyboard.press('Shift+N')
  await expect(page.getByLabel('Add a link')).toBeFocused()
  await page.keyboard.type('javascript:alert(1)')
  await page.keyboard.press('Enter')
  await expect(page.getByText('That isn’t an address that can be opened')).toBeVisible()
  await page.getByLabel('Add a link').fill('office@carriers.example')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Change the link office@carriers.example' }).click()
  await page.getByLabel('Subject of the mail').fill('Offer & dates')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Link to a topic' }).click()
  await page.keyboard.type('book')
  await page.keyboard.press('Enter')
  await expect
    .poll(async () =>
      (await topicsOf(caller, id)).get('Fit-out')?.links?.map(link => link.url.replace(/topic:.*/, 'topic')),
    )
    .toEqual(['mailto:office@carriers.example?subject=Offer%20%26%20dates', 'topic'])
  await page.getByRole('button', { name: 'Books', exact: true }).click()
  await expect(topic(page, 'Books')).toHaveAttribute('aria-selected', 'true')
  await tree(page).focus()
  await page.keyboard.press('Escape')
  await expect(topic(page, /^Fit-out/)).toHaveAttribute('aria-selected', 'true')
  await pasteText(page, { 'text/plain': 'https://tannery.example/plans' })
  await expect(page.getByText('is a link of “Fit-out” now')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await topicsOf(caller, id)).get('Fit-out')?.links?.length).toBe(2)
})

test('a note has tasks, a table, a picture and links; hovering its sign shows it; search finds its words; too much text is refused', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await openTree(rana.page, id)
  await pour(ines.page, ['Shelving', 'Books'])
  await topic(ines.page, 'Shelving').click()
  await ines.page.keyboard.press('n')
  const note = ines.page.getByRole('textbox', { name: 'Note' })
  await expect(note).toBeFocused()
  await ines.page.getByRole('button', { name: 'Tasks' }).click()
  await ines.page.keyboard.type('Ask the joiner')
  await ines.page.keyboard.press('Enter')
  await ines.page.keyboard.press('Enter')
  await ines.page.getByRole('button', { name: 'Table', exact: true }).click()
  await ines.page.keyboard.type('Room')
  await ines.page.keyboard.press('Tab')
  await ines.page.keyboard.type('Metres')
  await note.locator('li input').check()
  await ines.page.setInputFiles('input[aria-label="Picture for the note"]', {
    name: 'Oak.png',
    mimeType: 'image/png',
    buffer: await picture(),
  })
  await expect(note.locator('img')).toHaveJSProperty('naturalWidth', 200)
  await expect(topic(rana.page, /^Shelving.*has a note/)).toBeVisible()
  await topic(rana.page, /^Shelving/)
    .locator('[data-sign="note"]')
    .hover()
  const card = rana.page.getByRole('dialog', { name: 'What hangs on Shelving' })
  await expect(card.getByRole('columnheader', { name: 'Room' })).toBeVisible()
  await expect(card.locator('li.task[data-done="true"]')).toContainText('Ask the joiner')
  await expect(card.locator('img')).toHaveJSProperty('naturalWidth', 200)
  await rana.page.mouse.move(5, 400)
  await expect(card).toHaveCount(0)
  await rana.page.keyboard.press('/')
  await rana.page.keyboard.type('JOINER')
  await expect(rana.page.getByText('1 found').first()).toBeVisible()
  // A million characters are refused whole.
  await note.click()
  const before = await note.innerText()
  await pasteText(ines.page, { 'text/plain': 'book '.repeat(200_000) })
  await expect(ines.page.getByText('A note holds 300,000 characters at most')).toBeVisible()
  expect(await note.innerText()).toBe(before)
})

test('a checklist: lines are typed, ticked, dated and moved by key; its state shows in the tree', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pour(page, ['Shelving'])
  await topic(page, 'Shelving').click()
  await page.keyboard.press('Shift+T')
  const fresh = page.getByLabel('New line of the checklist')
  await expect(fresh).toBeFocused()
  await fresh.fill('Measure // 12 May 2027, p2')
  await page.keyboard.press('Enter')
  await fresh.fill('Order')
  await page.keyboard.press('Enter')
  await page.getByRole('checkbox', { name: 'Measure' }).check()
  await expect(topic(page, /^Shelving, 1 of 2 checked/)).toBeVisible()
  await page.getByRole('textbox', { name: 'Line Order' }).press('Alt+ArrowUp')
  await expect
    .poll(async () =>
      (await topicsOf(caller, id))
        .get('Shelving')!
        .checks!.toSorted((a, b) => (a.order < b.order ? -1 : 1))
        .map(({ text, done, due, priority }) => ({ text, done, due, priority })),
    )
    .toEqual([
      { text: 'Order', done: false, due: null, priority: null },
      { text: 'Measure', done: true, due: '2027-05-12', priority: 2 },
    ])
})

test('places: a town from the list or coordinates, on a map; a sketch is drawn, kept and seen by the other', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await openTree(rana.page, id)
  await pour(ines.page, ['Carriers'])
  await topic(ines.page, 'Carriers').click()
  await ines.page.keyboard.press('Shift+W')
  await expect(ines.page.getByRole('combobox', { name: 'Place' })).toBeFocused()
  await ines.page.keyboard.type('Uppsala')
  await expect(ines.page.getByRole('option', { name: /Uppsala/ })).toBeVisible()
  await ines.page.keyboard.press('ArrowDown')
  await ines.page.keyboard.press('Enter')
  await expect(ines.page.getByRole('img', { name: /^Map: Uppsala/ })).toBeVisible()
  await ines.page.getByRole('combobox', { name: 'Place' }).fill('geo:48.198634,16.371648;crs=wgs84;u=40')
  await ines.page.keyboard.press('Enter')
  await expect
    .poll(async () => (await topicsOf(ines.caller, id)).get('Carriers')?.place)
    .toEqual({ name: 'Uppsala, Sweden', lat: 48.198634, lon: 16.371648 })
  await tree(ines.page).focus()
  await ines.page.keyboard.press('Shift+S')
  const pad = ines.page.getByRole('img', { name: 'Pad with 0 strokes' })
  const box = (await pad.boundingBox())!
  await ines.page.mouse.move(box.x + 40, box.y + 40)
  await ines.page.mouse.down()
  await ines.page.mouse.move(box.x + 200, box.y + 120, { steps: 12 })
  await ines.page.mouse.up()
  await ines.page.getByRole('button', { name: 'Keep the sketch' }).click()
  await expect(topic(rana.page, /^Carriers.*has a place, has a sketch/)).toBeVisible()
  await topic(rana.page, /^Carriers/).click()
  await rana.page.keyboard.press('Space')
  await expect(
    rana.page.getByRole('dialog', { name: 'What hangs on Carriers' }).getByRole('img', { name: 'Sketch for Carriers' }),
  ).toHaveJSProperty('complete', true)
  await rana.page.keyboard.press('Escape')
  await expect(tree(rana.page)).toBeFocused()
})

test('cross-links: tied by key, labelled, bent by pulling, listed, untied and undone; the other sees each step', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await openTree(rana.page, id)
  await pour(ines.page, ['Fit-out', 'Books'])
  await topic(ines.page, 'Fit-out').click()
  await ines.page.keyboard.press('x')
  await ines.page.keyboard.type('books')
  await ines.page.keyboard.press('Enter')
  const box = ines.page.getByRole('dialog', { name: 'Cross-link' })
  await expect(box.getByLabel('Label of the cross-link')).toBeFocused()
  await ines.page.keyboard.type('same lorry')
  await ines.page.keyboard.press('Enter')
  const line = (page: import('@playwright/test').Page) =>
    page.getByRole('button', { name: 'Cross-link from Fit-out to Books: same lorry' })
  await expect(line(rana.page)).toBeVisible()
  const label = ines.page.getByText('same lorry', { exact: true })
  const at = (await label.boundingBox())!
  await ines.page.mouse.move(at.x + at.width / 2, at.y + at.height / 2)
  await ines.page.mouse.down()
  await ines.page.mouse.move(at.x + 120, at.y + 90, { steps: 5 })
  await ines.page.mouse.up()
  await expect.poll(async () => (await topicsOf(ines.caller, id)).get('Fit-out')?.ties?.[0]?.bend?.x ?? 0).not.toBe(0)
  await box.getByRole('button', { name: 'both', exact: true }).click()
  await box.getByRole('button', { name: 'Close' }).click()
  await expect.poll(async () => (await topicsOf(ines.caller, id)).get('Fit-out')?.ties?.[0]?.ends).toBe('both')
  await rana.page.keyboard.press('p')
  await expect(rana.page.getByRole('button', { name: /Fit-out ↔ Books/ })).toBeVisible()
  await rana.page.getByRole('button', { name: 'Untie Fit-out from Books' }).click()
  await expect(line(ines.page)).toHaveCount(0)
  await tree(rana.page).focus()
  await rana.page.keyboard.press('Control+z')
  await expect(line(ines.page)).toBeVisible()
})

test('a branch gets an annex, with a doorway both ways, a key and a list, and is put back', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const { data } = await caller.call<{ id: string }>('POST', '/api/trees/import', {
    format: 'text',
    name: 'x.txt',
    text: 'Move\n\tFit-out\n\t\tShelving\n\t\t\tOak\n\tBooks',
  })
  await openTree(page, data.id)
  await topic(page, 'Fit-out').click()
  await page.keyboard.press('Shift+O')
  await expect(topic(page, 'Shelving')).toHaveCount(0)
  await expect(topic(page, /^Fit-out, has an annex, 2 folded away/)).toBeVisible()
  await topic(page, /^Fit-out/)
    .getByRole('button', { name: 'Into its annex' })
    .click()
  await expect(topic(page, 'Shelving')).toBeVisible()
  await expect(topic(page, 'Books')).toHaveCount(0)
  await page.getByRole('button', { name: 'Out of its annex' }).click()
  await expect(topic(page, 'Books')).toBeVisible()
  // The doorway leads in, the path at the foot and a key lead back.
  const wayIn = topic(page, /^Fit-out/).getByRole('button', { name: 'Into its annex' })
  await wayIn.click()
  await expect(topic(page, 'Books')).toHaveCount(0)
  await page.getByRole('navigation', { name: 'Path to the selection' }).getByRole('button', { name: 'Move' }).click()
  await expect(topic(page, 'Books')).toBeVisible()
  await wayIn.click()
  await expect(topic(page, 'Books')).toHaveCount(0)
  await page.keyboard.press('q')
  await expect(topic(page, 'Books')).toBeVisible()
  // Whatever leads to a topic leads to the annex it stands in.
  await page.keyboard.press('Control+k')
  await page.getByRole('combobox', { name: 'Search everything' }).fill('oak')
  await page.keyboard.press('Enter')
  await expect(topic(page, 'Books')).toHaveCount(0)
  await expect(topic(page, 'Oak')).toHaveAttribute('aria-selected', 'true')
  await expect(tree(page)).toBeFocused()
  await page.keyboard.press('p')
  await page.getByRole('button', { name: 'The whole tree', exact: true }).click()
  await topic(page, /^Fit-out/).click()
  await page.getByRole('button', { name: 'Put “Fit-out” back in the tree' }).click()
  await expect(topic(page, 'Shelving')).toBeVisible()
})
