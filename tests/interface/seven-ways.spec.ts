import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { readFileSync } from 'node:fs'
import type { Locator, Page } from '@playwright/test'
import { Document, Header, Packer, Paragraph } from 'docx'
import { strFromU8, unzipSync } from 'fflate'
import sharp from 'sharp'
import { demoCopy, expect, openTree, test, type Visitor } from './porch'

/*
 * The demo's plan, filtered to decisions and three levels, leaves in seven ways, each within four steps from the tree, and each is opened
 * and looked at.
 */

const LEFT = ['Sort before packing', 'Colour by room']
const NOT_LEFT = 'Ramp approved'

/** Counts what somebody does: a press, a choice, a word that is written. */
class Steps {
  private count = 0
  async take(act: () => Promise<unknown>): Promise<void> {
    this.count++
    expect(this.count).toBeLessThanOrEqual(4)
    await act()
  }
}
/** A plan narrowed by a view that the tree keeps, and the firm's letter among its templates. */
async function narrowed(browser: Parameters<typeof demoCopy>[0]): Promise<Visitor & { id: string }> {
  const nora = await demoCopy(browser)
  const { page, caller, id } = nora
  const letter = await Packer.toBuffer(
    new Document({
      sections: [
        {
          headers: { default: new Header({ children: [new Paragraph('Town of Alder, building office')] }) },
          children: [new Paragraph('{{title}}'), new Paragraph('{{tree}}')],
        },
      ],
    }),
  )
  const sent = await page.request.post(`/api/trees/${id}/attachments?name=letter.docx`, {
    headers: { 'content-type': 'application/octet-stream' },
    data: letter,
  })
  const { file } = (await sent.json()) as { file: string }
  await caller.edit(id, [
    { op: 'tree-put', set: 'templates', member: { id: 'letter', name: 'Town letter', file } },
    {
      op: 'tree-put',
      set: 'views',
      member: {
        id: 'decided',
        name: 'What is decided',
        query: {
          join: 'all',
          of: [
            { about: 'marker', marker: 'decision' },
            { about: 'depth', least: 0, most: 3 },
          ],
        },
        text: '',
        rest: 'dim',
        view: 'canvas',
        depth: null,
        outline: null,
      },
    },
  ])
  await openTree(page, id)
  await page.keyboard.press('Shift+Q')
  await page.getByRole('button', { name: /^What is decided/ }).click()
  await page.getByRole('tree').focus()
  return nora
}
const dialogOf = (page: Page): Locator => page.getByRole('dialog', { name: 'Hand out' })
async function open(page: Page, steps: Steps): Promise<Locator> {
  await steps.take(async () => {
    await page.keyboard.press('u')
    await page.keyboard.press('o')
  })
  const dialog = dialogOf(page)
  await expect(dialog.getByRole('combobox', { name: 'What', exact: true }).locator('option:checked')).toHaveText(
    /^what the filter leaves \(\d+\)$/,
  )
  return dialog
}
async function saved(page: Page, dialog: Locator, steps: Steps): Promise<Buffer> {
  const download = page.waitForEvent('download')
  await steps.take(() => dialog.getByRole('button', { name: 'To my machine' }).press('Enter'))
  const bytes = readFileSync(await (await download).path())
  await page.keyboard.press('Escape')
  await expect(dialog).toHaveCount(0)
  return bytes
}
const wordsIn = (bytes: Buffer, part: RegExp): string =>
  Object.entries(unzipSync(bytes))
    .filter(([name]) => part.test(name))
    .map(([, each]) => strFromU8(each))
    .join('\n')

test('seven ways out of the tree, in four steps each', async ({ browser }) => {
  const { page } = await narrowed(browser)
  const left = (words: string): void => {
    for (const title of LEFT) expect(words).toContain(title)
    expect(words).not.toContain(NOT_LEFT)
  }

  await test.step('the firm’s own Word document', async () => {
    const steps = new Steps()
    const dialog = await open(page, steps)
    await steps.take(() => dialog.getByRole('combobox', { name: 'As what' }).selectOption('docx'))
    await steps.take(() => dialog.getByRole('combobox', { name: /template/i }).selectOption({ label: 'Town letter' }))
    const bytes = await saved(page, dialog, steps)
    left(wordsIn(bytes, /^word\/document\.xml$/))
    expect(wordsIn(bytes, /^word\/header\d*\.xml$/)).toContain('Town of Alder')
  })
  await test.step('slides', async () => {
    const steps = new Steps()
    const dialog = await open(page, steps)
    await steps.take(() => dialog.getByRole('combobox', { name: 'As what' }).selectOption('pptx'))
    left(wordsIn(await saved(page, dialog, steps), /^ppt\/slides\/slide\d+\.xml$/))
  })
  await test.step('a picture', async () => {
    const steps = new Steps()
    const dialog = await open(page, steps)
    await steps.take(() => dialog.getByRole('combobox', { name: 'As what' }).selectOption('svg'))
    left((await saved(page, dialog, steps)).toString())
    const again = new Steps()
    const second = await open(page, again)
    await again.take(() => second.getByRole('combobox', { name: 'As what' }).selectOption('png'))
    expect((await sharp(await saved(page, second, again)).metadata()).width).toBeGreaterThan(300)
  })
  await test.step('paper', async () => {
    await page.evaluate(() => {
      document.addEventListener(
        'load',
        ({ target }) => {
          if (target instanceof HTMLIFrameElement)
            target.contentWindow!.print = () => Object.assign(window, { printed: target.srcdoc })
        },
        true,
      )
    })
    const steps = new Steps()
    const dialog = await open(page, steps)
    await steps.take(() => dialog.getByRole('combobox', { name: 'As what' }).selectOption('docx'))
    await steps.take(() => dialog.getByRole('button', { name: 'To the printer' }).press('Enter'))
    await expect.poll(() => page.evaluate(() => String('printed' in window && window.printed))).toContain(LEFT[0]!)
    left(await page.evaluate(() => String('printed' in window && window.printed)))
    await page.keyboard.press('Escape')
    await expect(dialog).toHaveCount(0)
  })
  await test.step('a link for a guest who may take no copy, and a frame in a page', async () => {
    let snippet = ''
    const site = createServer((_, answer) => {
      answer.setHeader('content-type', 'text/html; charset=utf-8')
      answer.end(`<!doctype html><h1>The haven library</h1>${snippet}`)
    })
    await new Promise<void>(done => site.listen(0, '127.0.0.1', done))
    const { port } = site.address() as AddressInfo
    const steps = new Steps()
    const links = (await open(page, steps)).getByRole('region', { name: 'Links without an account' })
    await steps.take(() => links.getByRole('button', { name: /^Make a link to what the filter leaves/ }).press('Enter'))
    const address = await links.getByRole('textbox', { name: 'Address of the link' }).inputValue()
    await steps.take(() => links.getByRole('button', { name: '(in no other page)' }).press('Enter'))
    await steps.take(async () => {
      await links.getByRole('textbox', { name: /Sites whose pages/ }).fill(`http://localhost:${port}/`)
      await links.getByRole('button', { name: 'Keep', exact: true }).press('Enter')
    })
    snippet = await links.getByRole('textbox', { name: /put into such a page/ }).inputValue()
    const guest = await (await browser.newContext()).newPage()
    await guest.goto(address)
    await expect(guest.getByRole('heading', { name: LEFT[1]! })).toBeVisible()
    await expect(guest.locator('body')).not.toContainText(NOT_LEFT)
    await expect(guest.getByRole('link', { name: 'Word document' })).toHaveCount(0)
    await guest.goto(`http://localhost:${port}/`)
    await expect(guest.frameLocator('iframe').getByRole('heading', { name: LEFT[1]! })).toBeVisible()
    site.close()
    await page.keyboard.press('Escape')
    await expect(dialogOf(page)).toHaveCount(0)
  })
  await test.step('the projector', async () => {
    const steps = new Steps()
    const dialog = await open(page, steps)
    await steps.take(() => dialog.getByRole('button', { name: 'To the projector' }).press('Enter'))
    const strip = page.getByRole('region', { name: 'Presenting' })
    await expect(strip.getByRole('status')).toHaveText(/^1 of \d+\s+Move to the tannery/)
    const titles: string[] = []
    const count = Number(/of (\d+)/.exec((await strip.getByRole('status').textContent())!)![1])
    for (let i = 1; i < count; i++) {
      await page.keyboard.press('PageDown')
      await expect(strip.getByRole('status')).toHaveText(new RegExp(`^${i + 1} of ${count}`))
      titles.push((await strip.getByRole('status').textContent())!)
    }
    left(titles.join('\n'))
    await page.keyboard.press('Escape')
    await expect(strip).toHaveCount(0)
  })
})
