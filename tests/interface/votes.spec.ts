import { expect, openTree, pasteText, test, topic, two } from './porch'
import type { Page } from '@playwright/test'

/* Quick votes: asked by key, answered wherever one is, kept with the topic. */

const dialog = (page: Page) => page.getByRole('dialog', { name: 'Vote' })
const sheet = (page: Page) => page.getByRole('complementary', { name: 'About the selection' })
const sign = (page: Page) => page.getByRole('status').filter({ hasText: 'Ines Brandt asks' })

async function askFor(page: Page, title: string): Promise<void> {
  await topic(page, title).click()
  await page.keyboard.press('u')
  await page.keyboard.press('v')
}

test('a vote is asked by a fast hand, answered by a commenter, said anew, closed and kept with the topic', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser, 'commenter')
  await openTree(ines.page, id)
  await pasteText(ines.page, { 'text/plain': 'Floor\n\tCork\n\tCarpet\n\tOak' })
  await openTree(rana.page, id)
  await askFor(ines.page, 'Floor')
  await ines.page.keyboard.type('Is carpet out?')
  await ines.page.keyboard.press('Enter')
  await expect(dialog(ines.page).getByRole('heading', { name: 'Is carpet out?' })).toBeVisible()
  // It's said to the other without taking the keys away.
  await expect(sign(rana.page)).toContainText('Is carpet out?')
  await topic(rana.page, 'Floor').click()
  await sign(rana.page).getByRole('button', { name: 'Vote' }).click()
  await dialog(rana.page).getByLabel('No', { exact: true }).check()
  await dialog(rana.page).getByRole('button', { name: 'Vote', exact: true }).click()
  await expect(dialog(rana.page)).toContainText('1 has voted: Rana Tahiri')
  await expect(dialog(ines.page)).toContainText('1 has voted: Rana Tahiri')
  await dialog(rana.page).getByRole('button', { name: 'Say it anew' }).click()
  await dialog(rana.page).getByLabel('Yes', { exact: true }).check()
  await dialog(rana.page).getByRole('button', { name: 'Vote', exact: true }).click()
  await expect(dialog(rana.page).getByRole('listitem').first()).toContainText('Yes1')
  await expect(dialog(rana.page).getByRole('button', { name: 'Close and keep it' })).toHaveCount(0)
  await rana.page.keyboard.press('Escape')
  await expect(sign(rana.page)).toHaveCount(0)
  await dialog(ines.page).getByRole('button', { name: 'Close and keep it' }).click()
  await ines.page.keyboard.press('Escape')
  await expect(sheet(ines.page).getByRole('region', { name: 'Is carpet out?' })).toContainText('Yes – Rana Tahiri')
  await expect(sheet(rana.page).getByRole('region', { name: 'Is carpet out?' })).toContainText('1 voted: Rana Tahiri')
  // The plank says that it was voted on, and leads there; so does a filter.
  await expect(topic(rana.page, /^Floor, .*was voted on/)).toBeVisible()
  await topic(rana.page, 'Oak').click()
  await rana.page.keyboard.press('s')
  await expect(sheet(rana.page)).toBeHidden()
  await rana.page.getByRole('button', { name: 'was voted on: open' }).click()
  await expect(sheet(rana.page).getByRole('region', { name: 'Is carpet out?' })).toBeInViewport()
})

test('an order is put by keys, in secret; points run out; what it comes to is seen at the end', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Floor\n\tCork\n\tCarpet\n\tOak' })
  await openTree(rana.page, id)
  await askFor(page, 'Floor')
  const box = dialog(page)
  await box.getByRole('button', { name: 'Order', exact: true }).click()
  // What stands below the topic is what one chooses from.
  await expect(box.getByLabel('Choices, a line each')).toHaveValue('Cork\nCarpet\nOak')
  await box.getByLabel(/In secret/).check()
  await box.getByRole('button', { name: 'Ask everybody' }).click()
  await box.getByRole('button', { name: /^Oak, place 3/ }).focus()
  await page.keyboard.press('ArrowUp')
  await page.keyboard.press('ArrowUp')
  await expect(box.getByRole('button', { name: /^Oak, place 1/ })).toBeFocused()
  await box.getByRole('button', { name: 'Vote', exact: true }).click()
  await expect(box).toContainText('You have voted. What it comes to is seen when it is closed.')
  await expect(box.getByRole('button', { name: 'Say it anew' })).toHaveCount(0)
  await box.getByRole('button', { name: 'Close and keep it' }).click()
  await page.keyboard.press('Escape')
  const part = sheet(page).getByRole('region', { name: 'Vote', exact: true })
  await expect(part.getByRole('listitem').filter({ hasText: 'Oak' })).toContainText('2')
  await expect(part).toContainText('1 voted, in secret: Ines Brandt')
  // Points: what one has no more of can't be given.
  await askFor(page, 'Floor')
  await box.getByRole('button', { name: 'Points', exact: true }).click()
  await box.getByRole('button', { name: 'Ask everybody' }).click()
  for (let i = 0; i < 3; i++) await box.getByRole('button', { name: 'Carpet: one more' }).click()
  await expect(box.getByRole('button', { name: 'Cork: one more' })).toBeDisabled()
  await box.getByRole('button', { name: 'Vote', exact: true }).click()
  await expect(box.getByRole('listitem').filter({ hasText: 'Carpet' })).toContainText('3')
  await box.getByRole('button', { name: 'Let it go' }).click()
  await expect(box.getByLabel('Question')).toBeVisible()
})
