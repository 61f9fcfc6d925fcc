import { expect, openTree, pour, test, topic, two } from './porch'
import { seriousViolations } from './accessibility'

const LOFT = 'https://haven.example/loft'

test('pages behind links: an owner lets them be asked, they show by pointer and by key, and a check finds what is gone', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await pour(page, ['Loft', 'Stairs', 'Tower'])
  const give = (title: string, url: string) =>
    ines.caller
      .open(id)
      .then(({ snapshot }) =>
        ines.caller.edit(id, [
          {
            op: 'put',
            topic: snapshot.topics.find(one => one.title === title)!.id,
            set: 'links',
            member: { id: 'l1', url, title: '' },
          },
        ]),
      )
  await expect.poll(async () => (await ines.caller.open(id)).snapshot.topics.length).toBe(4)
  await give('Loft', LOFT)
  await give('Stairs', 'https://haven.example/none')
  await topic(page, /^Loft/).click()
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  const link = sheet.getByRole('link', { name: 'haven.example' })
  await link.hover()
  await expect(sheet.getByRole('figure')).toHaveCount(0)

  // What it's for, and that others can see it, is said where it's turned on.
  await page.keyboard.press('Control+k')
  await page.getByLabel('Search everything').fill('describe and tag')
  await page.keyboard.press('Enter')
  const about = page.getByRole('dialog', { name: 'About this tree' })
  const part = about.getByRole('region', { name: 'Pages behind links' })
  await expect(part.getByRole('button', { name: 'Check the links' })).toHaveCount(0)
  await part.getByRole('checkbox', { name: /^Ask the web pages/ }).check()
  await part.getByRole('button', { name: 'Check the links' }).click()
  const found = part.getByRole('group', { name: 'What the check found' })
  await expect(found).toContainText('1 of 2 answer.')
  await expect(found).toContainText('https://haven.example/none (404)')
  expect(await seriousViolations(page)).toEqual([])
  // What is beside them and has none can be gone to.
  await found.getByRole('button', { name: 'Tower' }).click()
  await expect(about).toHaveCount(0)
  await expect(topic(page, /^Tower/)).toHaveAttribute('aria-selected', 'true')

  await topic(page, /^Loft/).click()
  await sheet.getByRole('link').first().hover()
  await expect(sheet.getByRole('figure')).toContainText('Where hides dried, and books will be read.')
  await expect(sheet.getByRole('figure').locator('img')).toHaveJSProperty('complete', true)
  // The link has the page's name by now; the other one sees it too, by the key that looks at a topic.
  await expect(sheet.getByRole('link', { name: 'The drying loft' })).toBeVisible()
  await openTree(rana.page, id)
  await topic(rana.page, /^Loft/).click()
  await rana.page.keyboard.press('Space')
  await expect(rana.page.getByRole('dialog', { name: 'What hangs on Loft' })).toContainText('The drying loft')

  // A page's address given for a picture offers the one that the page names.
  await topic(page, /^Tower/).click()
  await sheet.getByRole('textbox', { name: 'Address of a picture' }).fill(LOFT)
  await page.keyboard.press('Enter')
  await expect(sheet.getByText('That is a page, “The drying loft”. It names a picture.')).toBeVisible()
  await sheet.getByRole('button', { name: 'Take that picture' }).click()
  await expect(topic(page, /^Tower/).getByRole('img', { name: 'Picture of Tower' })).toBeVisible()
})
