import { readFileSync } from 'node:fs'
import { demoCopy, expect, openTree, test, visitor } from './porch'

test('the schedule is handed out from where it’s seen: as it will be, as a drawing, and kept for the next time', async ({
  browser,
}) => {
  const { page, id } = await demoCopy(browser)
  await openTree(page, id)
  await page.keyboard.press('u')
  await page.keyboard.press('p')
  await page.getByRole('button', { name: 'Working days …' }).click()
  await page.getByRole('button', { name: 'As a picture or on paper …' }).click()
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  await expect(dialog.getByRole('combobox', { name: 'As what' })).toHaveValue('sheet')
  const shows = dialog.getByRole('combobox', { name: 'It shows' })
  await expect(shows).toHaveValue('bars')
  const seen = dialog.getByRole('img', { name: 'The picture as it will be' })
  await expect(seen).toBeVisible()
  // A calendar is wide and its rows are many: taller than the tree on its canvas.
  const ratio = (): Promise<number> =>
    seen.evaluate((img: HTMLImageElement) => (img.naturalWidth ? img.naturalHeight / img.naturalWidth : 0))
  await expect.poll(ratio).toBeGreaterThan(0)
  const bars = await ratio()
  await shows.selectOption('tree')
  await expect.poll(ratio).not.toBe(bars)
  await shows.selectOption('bars')
  await expect.poll(ratio).toBe(bars)
  await dialog.getByRole('combobox', { name: 'As what' }).selectOption('svg')
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('button', { name: 'To my machine' }).click(),
  ])
  const words = readFileSync(await download.path(), 'utf8').replace(/<[^>]+>/g, '\n')
  expect(words).toContain('must not slip')
  await dialog.getByRole('textbox', { name: 'Keep this under a name' }).fill('Bars for the town')
  await dialog.getByRole('button', { name: 'Keep', exact: true }).click()
  await expect(dialog.getByRole('button', { name: 'Bars for the town', exact: true })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(dialog).toBeHidden()
  // On the canvas the canvas is meant.
  await page.getByRole('tab', { name: 'Canvas' }).click()
  await page.getByRole('button', { name: 'Hand out' }).click()
  await expect(shows).toHaveValue('tree')
})

test('a tree without a plan offers none of it', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  await openTree(page, await caller.makeTree('Bare'))
  await page.getByRole('button', { name: 'Hand out' }).click()
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  await dialog.getByRole('combobox', { name: 'As what' }).selectOption('png')
  await expect(dialog.getByRole('img', { name: 'The picture as it will be' })).toBeVisible()
  await expect(dialog.getByRole('combobox', { name: 'It shows' })).toBeHidden()
})
