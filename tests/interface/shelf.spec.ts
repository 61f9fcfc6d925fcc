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

test('a picture hangs beside a branch on a thread: moved, undone and taken away like any topic', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pour(page, ['Lift', 'Crates'])
  await topic(page, /^Lift/).click()
  const part = page
    .getByRole('complementary', { name: 'About the selection' })
    .getByRole('group', { name: 'A picture beside it' })
  await part.getByRole('button', { name: 'Beside it: from the shelf' }).click()
  await page.keyboard.type('key')
  await page.keyboard.press('Enter')
  const hung = rana.page.getByRole('treeitem').filter({ has: rana.page.getByRole('img', { name: /^Picture of/ }) })
  await expect(hung).toBeVisible()
  const { topics } = (await ines.caller.open(id)).snapshot
  const lift = topics.find(one => one.title === 'Lift')!
  const free = topics.find(one => one.picture)!
  expect(free).toMatchObject({ parent: null, ties: [{ to: lift.id, ends: 'none', label: '' }] })
  // It lies over no plank.
  const boxes = await rana.page
    .getByRole('treeitem')
    .evaluateAll(all =>
      all.map(one => one.getBoundingClientRect()).map(({ x, y, right, bottom }) => ({ x, y, right, bottom })),
    )
  for (const [i, a] of boxes.entries())
    for (const b of boxes.slice(i + 1))
      expect(a.x < b.right && b.x < a.right && a.y < b.bottom && b.y < a.bottom).toBe(false)
  await page.getByRole('tree').focus()
  await page.keyboard.press('Control+z')
  await expect(hung).toHaveCount(0)
  await page.keyboard.press('Control+Shift+z')
  await expect(hung).toBeVisible()
})
