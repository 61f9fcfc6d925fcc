import { newId } from '../caller'
import { expect, expectTitles, test, visitor, type Visitor } from './porch'
import type { Page } from '@playwright/test'
import sharp from 'sharp'

/* By touch alone, on a phone and a tablet: all that a tree is kept up with. */

const topic = (page: Page, title: string) => page.getByRole('treeitem').filter({ hasText: title }).first()

/** No part of the page is wider than the screen, and no word of a button is cut. */
const cut = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const found: string[] = []
    if (document.documentElement.scrollWidth > window.innerWidth)
      found.push(`page ${document.documentElement.scrollWidth}`)
    for (const one of document.querySelectorAll<HTMLElement>(
      'header button, header input, footer button, .foot button, nav a',
    )) {
      const box = one.getBoundingClientRect()
      if (box.width <= 1 || one.classList.contains('visually-hidden')) continue
      if (box.left < -0.5 || box.right > window.innerWidth + 0.5) found.push(one.outerHTML.slice(0, 80))
      if (one.scrollWidth > one.clientWidth + 1 && getComputedStyle(one).overflow !== 'visible')
        found.push(`cut: ${one.outerHTML.slice(0, 80)}`)
    }
    return found
  })

async function laidOut(browser: Parameters<typeof visitor>[0], width: number): Promise<Visitor & { id: string }> {
  const person = await visitor(browser, 'Ines Brandt', {
    viewport: { width, height: width < 700 ? 844 : 1100 },
    hasTouch: true,
    isMobile: true,
  })
  const id = await person.caller.makeTree('Move to the tannery')
  const { snapshot } = await person.caller.open(id)
  const [fitOut, books] = [newId(), newId()]
  await person.caller.edit(id, [
    { op: 'add', topic: fitOut, parent: snapshot.centre, order: 'a0', with: { title: 'Fit-out' } },
    { op: 'add', topic: books, parent: snapshot.centre, order: 'a1', with: { title: 'Books' } },
    { op: 'add', topic: newId(), parent: fitOut, order: 'a0', with: { title: 'Shelving' } },
    { op: 'add', topic: newId(), parent: fitOut, order: 'a1', with: { title: 'Lamps' } },
  ])
  await person.page.goto(`/trees/${id}`)
  await expect(person.page.getByRole('tree')).toBeVisible()
  return { ...person, id }
}

for (const width of [360, 390, 820])
  test(`a thumb adds, nests, moves, marks, dates, finishes, takes away and brings back (${width})`, async ({
    browser,
  }) => {
    const { page, caller, context, id } = await laidOut(browser, width)
    const bar = page.getByRole('toolbar', { name: 'The selected topic' })
    const press = (name: string) => bar.getByRole('button', { name, exact: true }).tap()
    const details = async (title: string) =>
      (await caller.open(id)).snapshot.topics.find(one => (one as { title?: string }).title === title)
    const wornBefore = ((await caller.open(id)).snapshot as unknown as { fields: { look: string } }).fields.look
    if (width === 820) await page.getByRole('tab', { name: 'Outline' }).tap()
    expect(await cut(page)).toEqual([])
    for (const button of await bar.getByRole('button').all()) {
      const box = (await button.boundingBox())!
      expect(Math.min(box.width, box.height)).toBeGreaterThanOrEqual(44)
    }

    // Add, in and out while it's typed, with the field kept.
    await topic(page, 'Books').tap()
    await press('New topic under')
    await page.keyboard.type('Crates')
    await bar.getByRole('button', { name: 'Next topic' }).tap()
    await page.keyboard.type('Labels')
    await bar.getByRole('button', { name: 'One level out' }).tap()
    await page.keyboard.type(' and tape')
    await bar.getByRole('button', { name: 'Keep the title' }).tap()
    await expectTitles(caller, id, [['Fit-out', 'Shelving', 'Lamps'], ['Books', 'Crates'], 'Labels and tape'])

    // Move, nest, out again.
    await topic(page, 'Lamps').tap()
    await press('Move up')
    await expectTitles(caller, id, [['Fit-out', 'Lamps', 'Shelving'], ['Books', 'Crates'], 'Labels and tape'])
    await topic(page, 'Shelving').tap()
    await press('Move one level in')
    await expectTitles(caller, id, [['Fit-out', ['Lamps', 'Shelving']], ['Books', 'Crates'], 'Labels and tape'])
    await press('Move one level out')
    await expectTitles(caller, id, [['Fit-out', 'Lamps', 'Shelving'], ['Books', 'Crates'], 'Labels and tape'])

    // Finish, take away and back.
    await press('Done or not done')
    await expect.poll(() => details('Shelving')).toMatchObject({ done: 100 })
    await topic(page, 'Crates').tap()
    await press('Remove the branch')
    await expectTitles(caller, id, [['Fit-out', 'Lamps', 'Shelving'], 'Books', 'Labels and tape'])
    await page.getByRole('button', { name: 'Undo', exact: true }).first().tap()
    await expectTitles(caller, id, [['Fit-out', 'Lamps', 'Shelving'], ['Books', 'Crates'], 'Labels and tape'])

    // Date, in the sheet; on a phone that comes from the bottom, low or tall, and leaves the topic in sight.
    await topic(page, 'Books').tap()
    await press('Task details')
    const sheet = page.locator('aside.sheet')
    await expect(sheet).toBeVisible()
    await sheet.getByLabel('Due', { exact: true }).fill('12 May 2027')
    await page.keyboard.press('Enter')
    await expect.poll(() => details('Books')).toMatchObject({ due: '2027-05-12' })
    if (width < 700) {
      const low = (await sheet.boundingBox())!
      await expect(topic(page, 'Books')).toBeInViewport({ ratio: 0.99999 })
      expect((await topic(page, 'Books').boundingBox())!.y).toBeLessThan(low.y)
      await page.getByRole('button', { name: 'Raise the sheet' }).tap()
      await expect.poll(async () => (await sheet.boundingBox())!.height).toBeGreaterThan(low.height + 100)
      expect(await cut(page)).toEqual([])
      await page.getByRole('button', { name: 'Lower the sheet' }).tap()
      await expect.poll(async () => Math.round((await sheet.boundingBox())!.height)).toBe(Math.round(low.height))
      await page.getByRole('button', { name: 'Close the sheet' }).tap()
    } else await page.getByRole('button', { name: 'Side sheet' }).tap()
    await expect(sheet).toHaveCount(0)

    // Fold, zoom, the menu and out of it by a tap beside it.
    await topic(page, 'Fit-out').getByRole('button', { name: 'Fold' }).tap()
    await expect(topic(page, 'Lamps')).toHaveCount(0)
    await page.getByRole('tab', { name: 'Canvas' }).tap()
    await expect(topic(page, 'Books')).toBeVisible()
    const zoom = page.getByRole('button', { name: /^\d+ %$|Zoom to/ }).first()
    const before = await zoom.textContent()
    await page.getByRole('button', { name: 'Zoom out' }).tap()
    await expect(zoom).not.toHaveText(before!)
    await topic(page, 'Books').tap()
    await bar.getByRole('button', { name: 'More for this topic' }).tap()
    await expect(page.getByRole('menuitem', { name: 'New topic under' })).toBeVisible()
    const menu = (await page.locator('.p-contextmenu').boundingBox())!
    await page.touchscreen.tap(menu.x - 20, menu.y + 60)
    await expect(page.getByRole('menuitem', { name: 'New topic under' })).toHaveCount(0)

    // Mark.
    await topic(page, 'Books').tap()
    await press('Markers')
    await page
      .getByRole('complementary', { name: 'Markers' })
      .getByRole('button', { name: /Question/ })
      .first()
      .tap()
    await expect.poll(() => details('Books')).toMatchObject({ markers: ['question'] })
    expect(await cut(page)).toEqual([])

    // A picture, from what the phone has.
    await topic(page, 'Books').tap()
    const chosen = page.waitForEvent('filechooser')
    await press('Picture …')
    const drawn = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#2a7' } })
      .png()
      .toBuffer()
    await (await chosen).setFiles({ name: 'shelf.png', mimeType: 'image/png', buffer: drawn })
    await expect.poll(async () => Boolean((await details('Books'))?.picture)).toBe(true)

    // Another look for the tree.
    await topic(page, 'Books').tap()
    await bar.getByRole('button', { name: 'More for this topic' }).tap()
    await page.getByRole('menuitem', { name: 'Colour and style' }).tap()
    const style = page.getByRole('complementary', { name: 'Colour and style' })
    await style.getByRole('group', { name: 'What is dressed' }).getByRole('button', { name: /tree/i }).tap()
    const other = style.getByRole('group', { name: 'Looks' }).getByRole('button', { pressed: false }).first()
    await other.tap()
    await expect
      .poll(async () => ((await caller.open(id)).snapshot as unknown as { fields: { look: string } }).fields.look)
      .not.toBe(wornBefore)
    expect(await cut(page)).toEqual([])
    await context.close()
  })

for (const width of [390, 820])
  test(`a branch moved by a finger is shown once where it will hang, in words one can read (${width})`, async ({
    browser,
  }) => {
    const { page, caller, context, id } = await laidOut(browser, width)
    if (width < 700) await page.getByRole('tab', { name: 'Canvas' }).tap()
    await page.getByRole('button', { name: 'Fit' }).tap()
    await topic(page, 'Books').tap()
    await expect(topic(page, 'Books')).toHaveAttribute('aria-selected', 'true')
    const middle = async (title: string) => {
      const box = (await topic(page, title).boundingBox())!
      return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
    }
    const [from, to] = [await middle('Books'), await middle('Lamps')]
    const touches = await context.newCDPSession(page)
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', part: number) =>
      touches.send('Input.dispatchTouchEvent', {
        type,
        touchPoints:
          type === 'touchEnd' ? [] : [{ x: from.x + (to.x - from.x) * part, y: from.y + (to.y - from.y) * part }],
      })
    await touch('touchStart', 0)
    for (let i = 1; i <= 8; i++) await touch('touchMove', i / 8)
    const words = page.locator('.slot span')
    await expect(words).toHaveText(/under Lamps/)
    await expect(words).toBeInViewport({ ratio: 0.99999 })
    await expect(page.locator('.slot')).toHaveCount(1)
    await touch('touchEnd', 1)
    await expect(page.locator('.slot')).toHaveCount(0)
    await expectTitles(caller, id, [['Fit-out', 'Shelving', ['Lamps', 'Books']]])
    await expect(topic(page, 'Books')).toHaveCount(1)
    await context.close()
  })

test('what is being typed stays above a keyboard that comes up', async ({ browser }) => {
  const { page, context } = await laidOut(browser, 390)
  for (const view of ['Outline', 'Canvas']) {
    await page.setViewportSize({ width: 390, height: 844 })
    await page.getByRole('tab', { name: view }).tap()
    await topic(page, 'Books').tap()
    await page.getByRole('button', { name: 'New topic after' }).last().tap()
    await page.keyboard.type('Crates')
    await page.setViewportSize({ width: 390, height: 430 })
    const field = page.getByRole('textbox', { name: 'Title', exact: true })
    await expect(field).toBeFocused()
    // All of it: where the canvas is scaled, the browser reckons the share in single precision.
    await expect(field).toBeInViewport({ ratio: 0.99999 })
    await page.keyboard.press('Escape')
  }
  await context.close()
})

for (const width of [360, 390, 820])
  test(`no page is wider than the screen, and no button reaches out of it (${width})`, async ({ browser }) => {
    const { page, context, id } = await laidOut(browser, width)
    for (const path of ['/', '/trees', '/work', '/meetings', '/letterbox', `/trees/${id}`]) {
      await page.goto(path)
      await expect(page.locator('main, .room').first()).toBeVisible()
      await page.waitForLoadState('networkidle')
      expect(await cut(page), path).toEqual([])
    }
    await context.close()
  })
