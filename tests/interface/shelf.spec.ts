import { expect, openTree, pour, test, topic, two } from './porch'
import { seriousViolations } from './accessibility'

test('a picture of the shelf goes into a topic, or becomes a marker; found in the tree’s own language, by keys alone', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await ines.caller.edit(id, [{ op: 'tree', field: 'language', value: 'de' }])
  await openTree(page, id)
  await openTree(rana.page, id)
  await pour(page, ['Lift', 'Regale'])
  await topic(page, /^Lift/).click()
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  await sheet.getByRole('button', { name: 'From the shelf …' }).click()
  const shelf = page.getByRole('dialog', { name: 'Shelf of pictures' })
  // No waiting between the keys: Enter takes the first of what the whole word finds.
  await page.keyboard.type('aufzug')
  await page.keyboard.press('Enter')
  await expect(shelf).toHaveCount(0)
  await expect(topic(rana.page, /^Lift/).getByRole('img', { name: 'Picture of Lift' })).toBeVisible()
  await page.getByRole('tree').focus()
  await page.keyboard.press('Control+z')
  await expect(topic(rana.page, /^Lift/).getByRole('img', { name: 'Picture of Lift' })).toHaveCount(0)

  // As a marker, on all that are selected, in one edit.
  await topic(page, /^Lift/).click()
  await topic(page, /^Regale/).click({ modifiers: ['Shift'] })
  await page.keyboard.press('m')
  await page.getByRole('button', { name: 'From the shelf of pictures …' }).click()
  await page.keyboard.type('BUCHER')
  await expect(shelf.getByRole('button', { name: 'Bücherstapel' })).toBeVisible()
  expect(await seriousViolations(page)).toEqual([])
  await page.keyboard.press('ArrowDown')
  await expect(shelf.getByRole('button', { name: 'Bücherstapel' })).toBeFocused()
  await page.keyboard.press('ArrowUp')
  await expect(shelf.getByLabel('Words for a picture')).toBeFocused()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  for (const title of [/^Lift/, /^Regale/])
    await expect(topic(rana.page, title).getByRole('img', { name: 'Bücherstapel' })).toBeVisible()
  // The same once more is the same marker.
  await page.getByRole('button', { name: 'From the shelf of pictures …' }).click()
  await page.keyboard.type('bücherstapel')
  await page.keyboard.press('Enter')
  await expect(shelf).toHaveCount(0)
  const { fields } = (await ines.caller.open(id)).snapshot
  expect(fields.markerSets).toMatchObject([{ id: 'shelf', markers: [{ name: 'Bücherstapel', emoji: '📚️' }] }])
  await page.getByRole('button', { name: 'From the shelf of pictures …' }).click()
  await page.keyboard.type('qqqzzz')
  await expect(shelf.getByText('Nothing on the shelf is called “qqqzzz”.')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(shelf).toHaveCount(0)
})
