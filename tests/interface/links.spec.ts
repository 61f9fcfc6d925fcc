import { expect, openTree, pasteText, test, topic, two } from './porch'

test('an owner makes a link in the same sentence as everything that leaves; a guest reads it without an account; it’s withdrawn', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\n\tLift\n\t\tBolts\n\t\t\tSizes\nWhat we pay the caretaker' })
  await topic(page, /^Lift/).click()
  await page.keyboard.press('u')
  await page.keyboard.press('o')
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  await dialog.getByRole('combobox', { name: 'What', exact: true }).selectOption({ label: '“Lift” and what is below' })
  const links = dialog.getByRole('region', { name: 'Links without an account' })
  await links.getByRole('button', { name: 'Make a link to “Lift” and what is below' }).press('Enter')
  const address = await links.getByRole('textbox', { name: 'Address of the link' }).inputValue()
  await expect(links.getByRole('img', { name: /for a wall/ })).toBeVisible()
  await expect(links).toContainText('Whoever has it (no word) may look at “Lift”')
  const guest = await (await browser.newContext({ javaScriptEnabled: false })).newPage()
  await guest.goto(address)
  await expect(guest.getByRole('heading', { name: 'Bolts' })).toBeVisible()
  await expect(guest.locator('body')).not.toContainText('caretaker')
  await expect(guest.getByRole('link', { name: 'Word document' })).toHaveCount(0)
  // Where a script may run, the open page follows the tree, with what was folded as it was.
  const follower = await (await browser.newContext()).newPage()
  await follower.goto(address)
  await follower.locator('summary').first().click()
  await expect(follower.getByRole('heading', { name: 'Sizes' })).toBeHidden()
  const { topics } = (await ines.caller.open(id)).snapshot
  const sizes = topics.find(one => one.title === 'Sizes')!.id
  const renamed = async (title: string): Promise<void> => {
    await ines.caller.edit(id, [{ op: 'set', topic: sizes, field: 'title', value: title }])
    await expect(follower.locator('body')).toContainText(title)
  }
  await renamed('M8 and M10')
  await expect(follower.getByRole('heading', { name: 'M8 and M10' })).toBeHidden()
  await follower.locator('summary').first().click()
  await renamed('M8 alone')
  await expect(follower.getByRole('heading', { name: 'M8 alone' })).toBeVisible()
  // A word is asked for from now on.
  await links.getByRole('button', { name: '(no word)' }).press('Enter')
  await links.getByRole('textbox', { name: 'A word that has to be known' }).fill('tannery')
  await page.keyboard.press('Enter')
  await expect(links.getByRole('button', { name: 'the word' })).toBeVisible()
  await expect(follower.getByRole('heading', { name: 'A word, please' })).toBeVisible()
  await follower.reload()
  await follower.getByRole('textbox', { name: 'The word' }).fill('tannery')
  await follower.getByRole('button', { name: 'Open' }).click()
  await expect(follower.getByRole('heading', { name: 'Bolts' })).toBeVisible()
  await guest.reload()
  await guest.getByRole('textbox', { name: 'The word' }).fill('tannery')
  await guest.getByRole('button', { name: 'Open' }).click()
  await expect(guest.getByRole('heading', { name: 'Bolts' })).toBeVisible()
  await links.getByRole('combobox', { name: 'Copies' }).selectOption('true')
  await expect(links.getByRole('status')).toHaveText('Kept.')
  await guest.reload()
  await expect(guest.getByRole('link', { name: 'Word document' })).toBeVisible()
  await links.getByRole('button', { name: 'Withdraw' }).click()
  await expect(links.getByRole('status')).toContainText('Withdrawn')
  // It goes from open screens too.
  await expect(follower.getByRole('heading', { name: 'This link leads nowhere' })).toBeVisible()
  await expect(follower.locator('body')).not.toContainText('Bolts')
  await guest.reload()
  await expect(guest.getByRole('heading', { name: 'This link leads nowhere' })).toBeVisible()
  // Who isn't an owner has no such part.
  await openTree(rana.page, id)
  await rana.page.keyboard.press('u')
  await rana.page.keyboard.press('o')
  await expect(rana.page.getByRole('dialog', { name: 'Hand out' })).toBeVisible()
  await expect(rana.page.getByRole('region', { name: 'Links without an account' })).toHaveCount(0)
})
