import type { Page } from '@playwright/test'
import { picture, slideDeck, wordDocument, workbook } from '../office-files'
import { seriousViolations } from './accessibility'
import { expect, openTree, test, topic, visitor } from './porch'

/* Documents that hang on a topic are shown in place. */

/** A second of a tone: pulse code modulation with 8 bits, 8,000 times a second (RIFF WAVE). */
function tone(): Buffer {
  const samples = Buffer.from(Array.from({ length: 8000 }, (_, i) => 128 + Math.round(60 * Math.sin(i / 3))))
  const head = Buffer.alloc(44)
  head.write('RIFF', 0)
  head.writeUInt32LE(36 + samples.length, 4)
  head.write('WAVEfmt ', 8)
  head.writeUInt32LE(16, 16)
  head.writeUInt16LE(1, 20)
  head.writeUInt16LE(1, 22)
  head.writeUInt32LE(8000, 24)
  head.writeUInt32LE(8000, 28)
  head.writeUInt16LE(1, 32)
  head.writeUInt16LE(8, 34)
  head.write('data', 36)
  head.writeUInt32LE(samples.length, 40)
  return Buffer.concat([head, samples])
}

async function hang(page: Page, tree: string, topic: string, name: string, data: Uint8Array): Promise<object> {
  const sent = await page.request.post(`/api/trees/${tree}/attachments?name=${name}`, {
    headers: { 'content-type': 'application/octet-stream' },
    data: Buffer.from(data),
  })
  expect([name, sent.status()]).toEqual([name, 200])
  const arrived = (await sent.json()) as object
  return { op: 'put', topic, set: 'files', member: { id: name.replaceAll('.', '-'), name, ...arrived } }
}

test('a document, a workbook, slides, rows, a page, sound and a scan are looked at in place, and Esc leads back', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const tree = await caller.makeTree('Fit-out')
  const { centre } = (await caller.open(tree)).snapshot
  await caller.edit(tree, [{ op: 'add', topic: 'offers', parent: centre, order: 'a0', with: { title: 'Offers' } }])
  const files: [string, Uint8Array][] = [
    ['plan.docx', await wordDocument()],
    ['costs.xlsx', await workbook()],
    ['day.pptx', await slideDeck()],
    ['lamps.csv', Buffer.from('Lamp;Price\nHall;1.250,50')],
    [
      'page.html',
      Buffer.from(
        '<h1>Firms</h1><p>Two <a href="https://firms.example/">of them</a></p><script>document.title="x"</script>',
      ),
    ],
    ['call.wav', tone()],
    ['scan.tiff', await picture().tiff().toBuffer()],
    ['torn.docx', Buffer.concat([Buffer.from(await wordDocument()).subarray(0, 2000), Buffer.alloc(50)])],
  ]
  for (const [name, data] of files) await caller.edit(tree, [(await hang(page, tree, 'offers', name, data)) as never])
  await openTree(page, tree)
  await topic(page, 'Offers').click({ position: { x: 8, y: 8 } })
  await page.keyboard.press('Alt+Enter')
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  await sheet.getByRole('button', { name: 'plan.docx', exact: true }).click()
  const viewer = page.getByRole('dialog', { name: /^File / })
  await expect(viewer.getByRole('heading', { name: 'The move' })).toBeVisible()
  await expect(viewer.getByText('first', { exact: true })).toHaveCSS('font-weight', '650')
  await expect(viewer.getByRole('cell', { name: 'June' })).toBeVisible()
  await expect(viewer.locator('img')).toHaveJSProperty('complete', true)
  // One after the other by an arrow, without a mouse.
  await page.keyboard.press('ArrowRight')
  await expect(viewer.getByRole('tab', { name: 'Costs' })).toHaveAttribute('aria-selected', 'true')
  await expect(viewer.getByRole('cell', { name: '1250.5' })).toHaveCSS('text-align', 'right')
  await viewer.getByRole('tab', { name: 'Costs' }).focus()
  await page.keyboard.press('ArrowRight')
  await expect(viewer.getByRole('tab', { name: 'Dates' })).toBeFocused()
  await expect(viewer.getByRole('cell', { name: '2027-03-15' })).toBeVisible()
  await viewer.getByRole('button', { name: 'Next file' }).click()
  await expect(viewer.getByRole('region', { name: 'Slide 1' })).toContainText('Doors at ten')
  await expect(viewer.getByRole('region', { name: 'Slide 1' })).toContainText('Thank the firms first.')
  await expect(viewer.getByAltText('The hall from the gallery')).toBeVisible()
  await expect(viewer.getByRole('status')).toContainText('2 slides')
  await page.keyboard.press('ArrowRight')
  await expect(viewer.getByRole('cell', { name: '1.250,50' })).toBeVisible()
  await viewer.getByRole('button', { name: 'Next file' }).click()
  await expect(viewer.getByRole('link', { name: 'of them' })).toHaveAttribute('rel', /noopener/)
  await expect(page).not.toHaveTitle('x')
  await page.keyboard.press('ArrowRight')
  const sound = viewer.locator('audio')
  await expect.poll(() => sound.evaluate((it: HTMLAudioElement) => Math.round(it.duration * 10))).toBe(10)
  await sound.evaluate((it: HTMLAudioElement) => {
    it.currentTime = 0.5
  })
  await expect.poll(() => sound.evaluate((it: HTMLAudioElement) => it.currentTime)).toBeCloseTo(0.5, 1)
  await viewer.getByRole('button', { name: 'Next file' }).click()
  await expect(viewer.getByAltText('scan.tiff')).toBeVisible()
  await page.keyboard.press('ArrowRight')
  await expect(viewer.getByRole('alert')).toContainText('broken')
  await page.keyboard.press('Escape')
  await expect(viewer).toBeHidden()
  await expect(page.getByRole('complementary', { name: 'About the selection' })).toBeVisible()
})

for (const scheme of ['light', 'dark'] as const)
  test(`what is shown in place can be read by everybody, ${scheme}`, async ({ browser }) => {
    const { page, caller } = await visitor(browser, 'Ines Brandt', { colorScheme: scheme })
    const tree = await caller.makeTree('Fit-out')
    const { centre } = (await caller.open(tree)).snapshot
    const made = [
      ['plan.docx', await wordDocument()],
      ['costs.xlsx', await workbook()],
      ['day.pptx', await slideDeck()],
    ] as const
    for (const [name, data] of made) await caller.edit(tree, [(await hang(page, tree, centre, name, data)) as never])
    await openTree(page, tree)
    await page.keyboard.press('Alt+Enter')
    await page
      .getByRole('complementary', { name: 'About the selection' })
      .getByRole('button', { name: 'plan.docx', exact: true })
      .click()
    const viewer = page.getByRole('dialog', { name: /^File / })
    for (const there of [
      viewer.getByRole('heading', { name: 'The move' }),
      viewer.getByRole('tab', { name: 'Costs' }),
      viewer.getByRole('region', { name: 'Slide 1' }),
    ]) {
      await expect(there).toBeVisible()
      await expect.poll(() => seriousViolations(page)).toEqual([])
      // Nothing is cut on a phone.
      await page.setViewportSize({ width: 390, height: 780 })
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
      await expect(viewer.getByRole('button', { name: 'Back to the tree' })).toBeInViewport({ ratio: 1 })
      await page.setViewportSize({ width: 1280, height: 800 })
      await page.keyboard.press('ArrowRight')
    }
  })
