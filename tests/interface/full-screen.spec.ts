import type { Page } from '@playwright/test'
import { expect, openTree, test, visitor } from './porch'
import { openMeeting, staged } from './meeting-stage'

/* The page over the whole screen: by a key, as long as one wishes, and no longer than what filled it is there. */

const isFull = (page: Page): Promise<boolean> => page.evaluate(() => document.fullscreenElement !== null)

test('a meeting fills the screen by a key, and gives it back by the key and when one leaves', async ({ browser }) => {
  const { ines, id } = await staged(browser)
  const { page } = ines
  await openMeeting(page, id)
  await page.keyboard.press('Alt+2')
  await page.getByRole('button', { name: 'Begin', exact: true }).press('Enter')
  await expect(page.locator('[aria-current="step"]')).toContainText('Two offers')
  const leave = page.getByRole('button', { name: 'Leave full screen' })
  await page.keyboard.press('F')
  await expect.poll(() => isFull(page)).toBe(true)
  await expect(leave).toBeVisible()
  await page.keyboard.press('F')
  await expect.poll(() => isFull(page)).toBe(false)
  await expect(leave).toHaveCount(0)
  await page.keyboard.press('F')
  await expect.poll(() => isFull(page)).toBe(true)
  await page.keyboard.press('Alt+1')
  await expect(page.getByRole('tablist', { name: 'Parts of the meeting' })).toBeVisible()
  await expect.poll(() => isFull(page)).toBe(false)
  // Whoever leaves before the browser has filled the screen gets it back as well.
  await page.keyboard.press('Alt+2')
  await expect(page.locator('[aria-current="step"]')).toBeVisible()
  await page.evaluate(() => {
    const request = Element.prototype.requestFullscreen
    Element.prototype.requestFullscreen = async function (this: Element) {
      await new Promise(done => setTimeout(done, 300))
      await request.call(this)
      document.body.dataset.filled = 'once'
    }
  })
  await page.keyboard.press('F')
  await page.keyboard.press('Alt+1')
  await expect(page.locator('body[data-filled]')).toBeAttached()
  await expect.poll(() => isFull(page)).toBe(false)
})

test('a tree that is presented fills the screen until it ends; a browser that doesn’t let it is no hindrance', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  await openTree(page, await caller.makeTree('Move'))
  const present = async (): Promise<void> => {
    await page.keyboard.press('u')
    await page.keyboard.press('f')
    await expect(page.getByRole('region', { name: 'Presenting' })).toBeVisible()
  }
  await present()
  await expect.poll(() => isFull(page)).toBe(true)
  await page.keyboard.press('F')
  await expect.poll(() => isFull(page)).toBe(false)
  await page.getByRole('button', { name: 'Fill the screen' }).click()
  await expect.poll(() => isFull(page)).toBe(true)
  await page.keyboard.press('Escape')
  await expect(page.getByRole('region', { name: 'Presenting' })).toHaveCount(0)
  await expect.poll(() => isFull(page)).toBe(false)
  await page.evaluate(() => {
    Element.prototype.requestFullscreen = () => Promise.reject(new TypeError('not here'))
  })
  await present()
  await page.keyboard.press('F')
  await expect(page.getByText('This browser doesn’t let the page fill the screen.').first()).toBeVisible()
  expect(await isFull(page)).toBe(false)
})
