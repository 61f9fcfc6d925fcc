import { bringIn } from '../caller'
import { expect, openTree, pour, test, topic, visitor } from './porch'

test('a note’s editor is made for whoever comes to it, by click, tab, button or finger, and no letter is lost', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const { page, caller } = ines
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pour(page, ['Lift', 'Shelves', 'Crates', 'Lamps'])
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  const note = sheet.getByRole('textbox', { name: 'Note' })
  const choose = async (title: string): Promise<void> => {
    await topic(page, title).click()
    await expect(sheet.getByLabel('Title of the selected topic')).toHaveValue(title)
  }
  const editors = page.locator('.ProseMirror')
  await choose('Lift')
  await expect(note).toBeVisible()
  await expect(editors).toHaveCount(0)
  await note.click()
  await page.keyboard.type('Two by one metre')
  await expect(note).toHaveText('Two by one metre')
  await expect(editors).toHaveCount(1)
  // A button that forms text is enough, and so is the way there by keys.
  await choose('Shelves')
  await expect(editors).toHaveCount(0)
  await sheet.getByRole('button', { name: 'Bold' }).click()
  await page.keyboard.type('Oak')
  await expect(note.locator('strong')).toHaveText('Oak')
  await choose('Crates')
  await sheet.getByRole('button', { name: 'Bold' }).focus()
  for (let i = 0; i < 30 && !(await note.evaluate(it => it.contains(document.activeElement))); i++)
    await page.keyboard.press('Tab')
  await page.keyboard.type('Forty')
  await expect(note).toHaveText('Forty')
  // What is dragged there finds an editor to fall into.
  await choose('Lamps')
  await note.dispatchEvent('dragenter')
  await expect(editors).toHaveCount(1)
  // Whoever may only read has nothing to come to; a note that is written meanwhile stands there.
  const rana = await visitor(browser, 'Rana Tahiri', { hasTouch: true })
  await bringIn(caller, id, rana.caller, 'viewer')
  await openTree(rana.page, id)
  await topic(rana.page, 'Lamps').click()
  const read = rana.page
    .getByRole('complementary', { name: 'About the selection' })
    .getByRole('textbox', { name: 'Note' })
  await expect(read).toHaveAttribute('contenteditable', 'false')
  await note.click()
  await page.keyboard.type('Green glass')
  await expect(read).toHaveText('Green glass')
  // A finger, where somebody may.
  const nora = await visitor(browser, 'Nora Feld', { hasTouch: true })
  await bringIn(caller, id, nora.caller, 'editor')
  await openTree(nora.page, id)
  await topic(nora.page, 'Crates').tap()
  await expect(nora.page.getByLabel('Title of the selected topic')).toHaveValue('Crates')
  await topic(nora.page, 'Move').tap()
  await expect(nora.page.getByLabel('Title of the selected topic')).toHaveValue('Move')
  const hers = nora.page.getByRole('complementary', { name: 'About the selection' })
  await hers.getByRole('textbox', { name: 'Note' }).tap()
  await nora.page.keyboard.type('From a finger')
  await expect(hers.getByRole('textbox', { name: 'Note' })).toHaveText('From a finger')
})
