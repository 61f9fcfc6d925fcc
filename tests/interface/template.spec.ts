import { readFileSync } from 'node:fs'
import type { Locator } from '@playwright/test'
import { Document, Header, Packer, Paragraph } from 'docx'
import { strFromU8, unzipSync, zipSync } from 'fflate'
import { firmSlides } from '../office-files'
import { seriousViolations } from './accessibility'
import { expect, openTree, pasteText, test, topic, two, visitor } from './porch'

/* Word documents in a firm's own look. */

/** A letter with a header, a field that is known and one that isn't, and no place for what is written. */
const townsLetter = (): Promise<Buffer> =>
  Packer.toBuffer(
    new Document({
      sections: [
        {
          headers: { default: new Header({ children: [new Paragraph('Town of Alder: {{title}}')] }) },
          children: [new Paragraph('Prepared by {{author}} for {{board}}')],
        },
      ],
    }),
  )
const bringInto = (place: Locator, name: string, buffer: Buffer): Promise<void> =>
  place.getByLabel('Word document to use as a template').setInputFiles({ name, mimeType: '', buffer })
/** A part of a Word document, as text. */
function partOf(bytes: Buffer, name: RegExp): string {
  const parts = unzipSync(bytes)
  return strFromU8(parts[Object.keys(parts).find(one => name.test(one))!]!)
}

test('a Word document goes out in the firm’s own template, which says what it lacks before anything is made; one with macros isn’t kept', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\n\tLift\n\t\tBolts' })
  await expect(topic(page, /^Bolts/)).toBeVisible()
  const letter = await townsLetter()
  await page.keyboard.press('Control+k')
  await page.getByLabel('Search everything').fill('Hand out')
  await page.keyboard.press('Enter')
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  await dialog.getByLabel('As what').selectOption('docx')
  const bring = (name: string, buffer: Buffer) => bringInto(dialog, name, buffer)
  await bring('Macros.docx', Buffer.from(zipSync({ ...unzipSync(letter), 'word/vbaProject.bin': new Uint8Array(4) })))
  await expect(dialog.getByRole('alert')).toContainText('macros')
  await expect(dialog.getByRole('combobox', { name: 'Template' })).toHaveText('Sun Porch')
  await bring('The town’s letter.docx', letter)
  await expect(dialog.getByRole('combobox', { name: 'Template' }).locator('option:checked')).toHaveText(
    'The town’s letter',
  )
  await expect(dialog.getByRole('list', { name: 'What the template lacks' }).getByRole('listitem')).toHaveText([
    'It doesn’t say where the tree goes, {{tree}}: it follows the last line.',
    '{{board}} is no field there and stays as it stands.',
  ])
  expect(await seriousViolations(page)).toEqual([])
  const coming = page.waitForEvent('download')
  await dialog.getByRole('button', { name: 'To my machine' }).click()
  const bytes = readFileSync(await (await coming).path())
  expect(partOf(bytes, /^word\/header/)).toContain('Town of Alder: ')
  expect(partOf(bytes, /^word\/document\.xml/)).toContain('Bolts')
  // A tree that has as many as it may keeps what was chosen, and says so.
  for (let i = 1; i < 20; i++)
    await ines.caller.edit(id, [
      { op: 'tree-put', set: 'templates', member: { id: `x${i}`, name: `Letter ${i}`, file: '0'.repeat(64) } },
    ])
  await expect(dialog.getByRole('combobox', { name: 'Template' }).locator('option')).toHaveCount(21)
  await bring('Another letter.docx', letter)
  await expect(dialog.getByRole('alert')).toHaveText('A tree keeps 20 templates at most. Forget one of them first.')
  await expect(dialog.getByRole('combobox', { name: 'Template' }).locator('option:checked')).toHaveText(
    'The town’s letter',
  )
  await ines.caller.edit(
    id,
    Array.from({ length: 19 }, (_, i) => ({
      op: 'tree-take' as const,
      set: 'templates' as const,
      member: `x${i + 1}`,
    })),
  )
  // Kept with the tree: the other one has it, and is told when it's forgotten.
  await openTree(rana.page, id)
  await rana.page.keyboard.press('Control+k')
  await rana.page.getByLabel('Search everything').fill('Hand out')
  await rana.page.keyboard.press('Enter')
  const hers = rana.page.getByRole('dialog', { name: 'Hand out' })
  await hers.getByLabel('As what').selectOption('docx')
  await hers.getByRole('combobox', { name: 'Template' }).selectOption('The town’s letter')
  await dialog.getByRole('button', { name: 'Forget the template The town’s letter' }).click()
  await expect(hers.getByRole('combobox', { name: 'Template' }).locator('option')).toHaveText(['Sun Porch'])
  await expect(hers.getByRole('combobox', { name: 'Template' }).locator('option:checked')).toHaveText('Sun Porch')
})

test('the minutes go out in it too', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Meetings')
  const { snapshot } = await caller.open(id)
  await caller.edit(id, [
    { op: 'add', topic: 'm', parent: snapshot.centre, order: 'a0', with: { title: 'Meeting 3' } },
    { op: 'put', topic: 'm', set: 'meeting', member: { id: 'why', kind: 'why', text: 'Settle the lift.' } },
  ])
  await page.goto(`/trees/${id}?topic=m&view=meeting`)
  await expect(page.getByRole('region', { name: 'Meeting' })).toBeFocused()
  await page.keyboard.press('Alt+3')
  await expect(page.getByRole('heading', { name: 'Give it out' })).toBeVisible()
  const look = page.getByRole('group', { name: 'In whose look' })
  await bringInto(look, 'The town’s letter.docx', await townsLetter())
  await expect(look.getByRole('list', { name: 'What the template lacks' }).getByRole('listitem')).toHaveText([
    'It doesn’t say where the minutes go, {{minutes}}: they follow the last line.',
    '{{board}} is no field there and stays as it stands.',
  ])
  expect(await seriousViolations(page)).toEqual([])
  const coming = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Word document' }).click()
  const bytes = readFileSync(await (await coming).path())
  expect(partOf(bytes, /^word\/header/)).toContain('Meeting 3')
  expect(partOf(bytes, /^word\/document\.xml/)).toContain('Settle the lift.')
  // What can't be made is said here, and one stays where one is.
  await page.route('**/minutes/pdf', route =>
    route.fulfill({ status: 503, json: { error: { code: 'unavailable', message: 'The database doesn’t answer.' } } }),
  )
  await page.getByRole('link', { name: 'PDF' }).click()
  await expect(page.getByText('The database doesn’t answer.')).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Give it out' })).toBeVisible()
})

test('a template for oneself alone is at hand in every tree, for whoever may only read too, and nobody else has it', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = rana
  await ines.caller.call('PUT', `/api/trees/${id}/members/${rana.caller.id}`, { role: 'viewer' })
  const other = await rana.caller.makeTree('Another tree')
  const handOut = async (at: typeof page, tree: string) => {
    await openTree(at, tree)
    await at.keyboard.press('u')
    await at.keyboard.press('o')
    const dialog = at.getByRole('dialog', { name: 'Hand out' })
    await dialog.getByLabel('As what').selectOption('docx')
    return dialog
  }
  const dialog = await handOut(page, id)
  const chooser = page.waitForEvent('filechooser')
  await dialog.getByRole('button', { name: 'one for me alone …' }).click()
  await (await chooser).setFiles({ name: 'Rana’s letter.docx', mimeType: '', buffer: await townsLetter() })
  const template = dialog.getByRole('combobox', { name: 'Template' })
  await expect(template.locator('option:checked')).toHaveText('Rana’s letter')
  await expect(dialog.getByRole('list', { name: 'What the template lacks' })).toContainText('{{board}}')
  const coming = page.waitForEvent('download')
  await dialog.getByRole('button', { name: 'To my machine' }).click()
  expect(partOf(readFileSync(await (await coming).path()), /^word\/header/)).toContain('Town of Alder: ')
  // Ines has nothing of it in the same tree; Rana has it in another one, and keeps nothing for others with it.
  const hers = await handOut(ines.page, id)
  await expect(hers.getByRole('combobox', { name: 'Template' }).locator('option')).toHaveText(['Sun Porch'])
  const again = await handOut(page, other)
  await again.getByRole('combobox', { name: 'Template' }).selectOption('Rana’s letter')
  await again.getByRole('textbox', { name: 'Keep this under a name' }).fill('For the town')
  await again.getByRole('button', { name: 'Keep', exact: true }).click()
  await expect(again.getByRole('alert')).toContainText('for you alone')
  await again.getByRole('button', { name: 'Forget the template Rana’s letter' }).click()
  await expect(again.getByRole('combobox', { name: 'Template' }).locator('option')).toHaveText(['Sun Porch'])
})

test('slides go out in the colours and fonts of others that were brought, and a template for documents is none for them', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Opening day')
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Doors\n\tAt ten\nCake' })
  await expect(topic(page, /^Cake/)).toBeVisible()
  await page.keyboard.press('u')
  await page.keyboard.press('o')
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  await dialog.getByLabel('As what').selectOption('docx')
  await bringInto(dialog, 'Letter.docx', await townsLetter())
  await expect(dialog.getByRole('combobox', { name: 'Template' }).locator('option:checked')).toHaveText('Letter')
  await dialog.getByLabel('As what').selectOption('pptx')
  await expect(dialog.getByRole('combobox', { name: 'Template' }).locator('option')).toHaveText(['Sun Porch'])
  await dialog
    .getByLabel('Slides to use the theme of')
    .setInputFiles({ name: 'Alder.pptx', mimeType: '', buffer: Buffer.from(await firmSlides()) })
  await expect(dialog.getByRole('combobox', { name: 'Template' }).locator('option:checked')).toHaveText('Alder')
  await expect(dialog.locator('.swatch').nth(2)).toHaveCSS('background-color', 'rgb(107, 43, 26)')
  await expect(dialog).toContainText('Georgia, Verdana')
  expect(await seriousViolations(page)).toEqual([])
  const coming = page.waitForEvent('download')
  await dialog.getByRole('button', { name: 'To my machine' }).click()
  const bytes = readFileSync(await (await coming).path())
  expect(partOf(bytes, /^ppt\/slides\/slide1\.xml$/)).toContain('6B2B1A')
  expect(partOf(bytes, /^ppt\/theme\/theme1\.xml$/)).toContain('Georgia')
})
