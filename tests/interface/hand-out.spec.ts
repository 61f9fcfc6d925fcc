import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import mammoth from 'mammoth'
import sharp from 'sharp'
import { demoCopy, expect, openTree, pasteText, test, topic, two, visitor } from './porch'

/** A tree of two branches with something to filter by. */
async function begun(browser: Parameters<typeof visitor>[0]) {
  const { ines, rana, id } = await two(browser)
  await openTree(ines.page, id)
  await pasteText(ines.page, { 'text/plain': 'Fit-out\n\tLift // risk\n\t\tBolts\n\tLamps\nBooks\n\tCrates' })
  await expect(topic(ines.page, /^Crates/)).toBeVisible()
  return { ines, rana, id }
}

test('a branch leaves as a Word document by key: a sentence says what, and what isn’t chosen isn’t in it', async ({
  browser,
}) => {
  const { ines } = await begun(browser)
  const { page } = ines
  await topic(page, /^Lift/).click()
  await page.keyboard.press('u')
  await page.keyboard.press('o')
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  const what = dialog.getByRole('combobox', { name: 'What', exact: true })
  await expect(what).toBeFocused()
  await what.selectOption({ label: '“Lift” and what is below' })
  await dialog.getByRole('button', { name: 'Markers', exact: true }).press('Enter')
  await expect(dialog.getByRole('button', { name: 'Markers', exact: true })).toHaveAttribute('aria-pressed', 'false')
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('button', { name: 'To my machine' }).press('Enter'),
  ])
  expect(download.suggestedFilename()).toBe('Lift.docx')
  const { value } = await mammoth.extractRawText({ path: await download.path() })
  expect(value).toContain('Bolts')
  for (const word of ['Lamps', 'Crates', 'Risk']) expect(value).not.toContain(word)
  await expect(dialog.getByRole('status')).toContainText('“Lift.docx” is in your downloads.')
  await page.keyboard.press('Escape')
  await expect(dialog).toBeHidden()
  // The keys are the tree's again.
  await page.keyboard.press('F2')
  await expect(page.getByRole('textbox', { name: 'Title', exact: true })).toBeFocused()
})

test('what a filter leaves is offered first, is seen as a picture before it’s made, and is kept under a name for the other person', async ({
  browser,
}) => {
  const { ines, rana, id } = await begun(browser)
  const { page } = ines
  await page.keyboard.press('/')
  await page.keyboard.type('Crates')
  await expect(page.getByRole('search').getByText('1 found')).toBeVisible()
  await page.getByRole('button', { name: 'Hand out' }).click()
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  await expect(dialog.getByRole('combobox', { name: 'What', exact: true }).locator('option:checked')).toHaveText(
    'what the filter leaves (1)',
  )
  await dialog.getByRole('combobox', { name: 'As what' }).selectOption('png')
  const seen = dialog.getByRole('img', { name: 'The picture as it will be' })
  await expect(seen).toBeVisible()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('button', { name: 'To my machine' }).click(),
  ])
  const { width, height } = await sharp(await download.path()).metadata()
  expect(width! / height!).toBeCloseTo(
    await seen.evaluate(image => (image as HTMLImageElement).naturalWidth / (image as HTMLImageElement).naturalHeight),
    1,
  )
  await dialog.getByRole('textbox', { name: 'Keep this under a name' }).fill('For the director')
  await page.keyboard.press('Enter')
  await expect(dialog.getByRole('button', { name: 'For the director', exact: true })).toBeVisible()
  await openTree(rana.page, id)
  await rana.page.keyboard.press('u')
  await rana.page.keyboard.press('o')
  const [again] = await Promise.all([
    rana.page.waitForEvent('download'),
    rana.page.getByRole('button', { name: 'For the director', exact: true }).press('Enter'),
  ])
  expect(again.suggestedFilename()).toBe('Move.png')
  await rana.page.getByRole('button', { name: 'Forget For the director' }).click()
  await expect(dialog.getByRole('button', { name: 'For the director', exact: true })).toHaveCount(0)
})

test('onto paper by the browser’s own printing: a page or a picture, on A4 or Letter, in black and white', async ({
  browser,
}) => {
  const { ines } = await begun(browser)
  const { page } = ines
  // What would be printed, instead of the browser's own window for it.
  await page.evaluate(() => {
    const printed: string[] = []
    Object.assign(window, { printed })
    document.addEventListener(
      'load',
      ({ target }) => {
        if (target instanceof HTMLIFrameElement) target.contentWindow!.print = () => void printed.push(target.srcdoc)
      },
      true,
    )
  })
  const printed = (i: number) => page.evaluate(at => (window as unknown as { printed: string[] }).printed[at] ?? '', i)
  const sheet = await ines.context.newPage()
  const asPaper = async (html: string): Promise<{ size: string; pages: number; words: string }> => {
    await sheet.setContent(html)
    const file = test.info().outputPath('paper.pdf')
    await sheet.pdf({ path: file, preferCSSPageSize: true })
    const said = execFileSync('pdfinfo', [file], { encoding: 'utf8' })
    return {
      size: /Page size:\s+(\d+)[\d.]* x (\d+)/.exec(said)!.slice(1).join('x'),
      pages: Number(/Pages:\s+(\d+)/.exec(said)![1]),
      words: execFileSync('pdftotext', [file, '-'], { encoding: 'utf8' }),
    }
  }
  await page.keyboard.press('u')
  await page.keyboard.press('o')
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  await dialog.getByRole('button', { name: 'To the printer' }).click()
  await expect.poll(() => printed(0)).toContain('Crates')
  await expect(dialog.getByRole('status')).toContainText('It is with the browser’s printing.')
  const outline = await asPaper(await printed(0))
  // ISO 216: A4 is 210 by 297 mm, 595 by 841 points.
  expect(outline.size).toMatch(/^59[45]x84[12]$/)
  for (const word of ['Fit-out', 'Bolts', 'Risk', 'Crates']) expect(outline.words).toContain(word)
  await dialog.getByRole('combobox', { name: 'As what' }).selectOption('png')
  await dialog.getByRole('combobox', { name: 'Paper to print on' }).selectOption('Letter')
  await dialog.getByRole('checkbox', { name: 'black and white' }).check()
  await dialog.getByRole('button', { name: 'To the printer' }).click()
  await expect.poll(() => printed(1)).toContain('data:image/svg+xml')
  const drawn = await printed(1)
  expect(drawn).toContain('grayscale(1)')
  // US Letter is 8.5 by 11 inches, 612 by 792 points; the picture is wider than tall, on one sheet.
  expect(await asPaper(drawn)).toMatchObject({ size: '792x612', pages: 1 })
  // Nothing of what is printed runs or stays over the page, and Esc leads back.
  await expect(page.locator('iframe[title="What is printed"]').first()).toHaveAttribute(
    'sandbox',
    'allow-same-origin allow-modals',
  )
  await page.keyboard.press('Escape')
  await expect(dialog).toBeHidden()
})

test('a viewer hands out and keeps nothing; what goes wrong is said and the dialog stays', async ({ browser }) => {
  const { ines, id } = await begun(browser)
  const vera = await visitor(browser, 'Vera Lund')
  await ines.caller.call('POST', `/api/trees/${id}/invitations`, { email: vera.caller.email, role: 'viewer' })
  const { data: letters } = await vera.caller.call<{ link: string }[]>('GET', '/api/letters')
  await vera.caller.call('POST', `/api/invitations/${letters[0]!.link.split('/').at(-1)}`)
  const { page } = vera
  await openTree(page, id)
  await page.keyboard.press('u')
  await page.keyboard.press('o')
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  await dialog.getByRole('combobox', { name: 'As what' }).selectOption('markdown')
  await expect(dialog.getByRole('textbox', { name: 'Keep this under a name' })).toHaveCount(0)
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('button', { name: 'To my machine' }).click(),
  ])
  expect(readFileSync(await download.path(), 'utf8')).toContain('## 1 Fit-out')
  await page.context().setOffline(true)
  await dialog.getByRole('button', { name: 'To my machine' }).click()
  await expect(dialog.getByRole('alert')).toContainText('There is no line to the server just now.')
  await page.context().setOffline(false)
  await dialog.getByRole('button', { name: 'To my machine' }).click()
  await expect(dialog.getByRole('status')).toContainText('in your downloads')
  await expect(dialog.getByRole('alert')).toHaveCount(0)
})

/** Red, green, blue and alpha of each dot. */
interface Dots {
  readonly data: Buffer
  readonly width: number
  readonly height: number
}
const dotsOf = async (bytes: Buffer): Promise<Dots> => {
  const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  return { data, width: info.width, height: info.height }
}

test('the picture is what the screen shows: of what is inked at most one part in a hundred differs', async ({
  browser,
}) => {
  // Nobody else works on a copy between the one picture and the other.
  const { page, caller, id } = await demoCopy(browser)
  await page.setViewportSize({ width: 2700, height: 2500 })
  await openTree(page, id)
  await page.keyboard.press('Control+0')
  await page.keyboard.press('f')
  // What lies over the canvas, and what only the screen has: where one is, and where others are.
  await page.addStyleTag({
    content:
      '.strip, .other, .ring, [role=status], .near, .offer { display: none !important } .plank { outline: none !important } .plank.selected .ground { background: var(--ground) !important }',
  })
  const world = page.locator('.world').first()
  const svg = await (
    await fetch(`${caller.url}/api/trees/${id}/hand-out`, {
      method: 'POST',
      headers: { cookie: caller.cookie, 'content-type': 'application/json' },
      body: JSON.stringify({
        as: 'svg',
        shapes: true,
        // The day it is where the screen is, as the dialog says it.
        today: await page.evaluate(() => new Date().toLocaleDateString('sv')),
        with: [
          'notes',
          'tasks',
          'markers',
          'links',
          'files',
          'pictures',
          'comments',
          'cross-links',
          'numbers',
          'figures',
        ],
      }),
    })
  ).text()
  // Fitted, and come to rest: where it looks and where each plank lies, the same for half a second and while the picture is taken.
  const lies = () =>
    page.evaluate(() =>
      Array.from(document.querySelectorAll<HTMLElement>('.world, .plank'), ({ style }) => style.cssText).join('\n'),
    )
  const rested = async (): Promise<string> => {
    for (let before = await lies(); ;) {
      await page.waitForTimeout(500)
      const now = await lies()
      if (now === before && now.includes('transform')) return now
      before = now
    }
  }
  const [left, top, wide, tall] = /viewBox="([^"]+)"/.exec(svg)![1]!.split(' ').map(Number) as [
    number,
    number,
    number,
    number,
  ]
  const takePicture = async () => {
    const before = await rested()
    const [x, y, zoom] = (await world.evaluate(one => (one as HTMLElement).style.transform))
      .match(/-?[\d.]+/g)!
      .map(Number) as [number, number, number]
    const canvas = (await page.locator('.canvas').boundingBox())!
    // The same stretch of the canvas, dot by dot.
    const clip = {
      x: Math.round(canvas.x + x + left * zoom),
      y: Math.round(canvas.y + y + top * zoom),
      width: Math.round(wide * zoom),
      height: Math.round(tall * zoom),
    }
    const screen = await dotsOf(await page.screenshot({ clip }))
    const fits = clip.x >= canvas.x && clip.y >= canvas.y && clip.x + clip.width <= 2700 && clip.y + clip.height <= 2500
    return { screen, clip, canvas, x, y, zoom, still: fits && (await lies()) === before }
  }
  let picture = await takePicture()
  while (!picture.still) picture = await takePicture()
  const { screen, clip, canvas, x, y, zoom } = picture
  // To a fraction of a dot: lines of one dot lie between two otherwise.
  const exact = [(clip.x - canvas.x - x) / zoom, (clip.y - canvas.y - y) / zoom, clip.width / zoom, clip.height / zoom]
  const drawn = await dotsOf(
    await sharp(
      Buffer.from(
        svg.replace(
          /width="[\d.]+" height="[\d.]+" viewBox="[^"]+"/,
          `width="${clip.width}" height="${clip.height}" viewBox="${exact.join(' ')}"`,
        ),
      ),
      { unlimited: true },
    )
      .png()
      .toBuffer(),
  )
  const { differ, inked } = compare(screen, drawn)
  expect(inked).toBeGreaterThan(20_000)
  expect(differ / inked).toBeLessThan(0.01)
})

/**
 * Dots that aren't ground in either picture, and those of them that have nothing like them within a dot's reach in the other: the two
 * smooth their edges each in its own way.
 */
function compare(a: Dots, b: Dots): { differ: number; inked: number } {
  const ground = [a.data[0]!, a.data[1]!, a.data[2]!]
  const at = ({ data, width }: Dots, x: number, y: number): [number, number, number] => {
    const i = (y * width + x) * 4
    return [data[i]!, data[i + 1]!, data[i + 2]!]
  }
  const off = (p: readonly number[], q: readonly number[]): number =>
    Math.max(...p.map((value, i) => Math.abs(value - q[i]!)))
  const near = (p: readonly number[], other: Dots, x: number, y: number): boolean => {
    // The ink of an edge lies somewhere between what is around it.
    const around: [number, number, number][] = []
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++)
        if (x + dx >= 0 && y + dy >= 0 && x + dx < other.width && y + dy < other.height)
          around.push(at(other, x + dx, y + dy))
    return p.every((value, i) => {
      const values = around.map(one => one[i]!)
      return value >= Math.min(...values) - 40 && value <= Math.max(...values) + 40
    })
  }
  let [differ, inked] = [0, 0]
  for (let y = 0; y < a.height; y++)
    for (let x = 0; x < a.width; x++) {
      const [p, q] = [at(a, x, y), at(b, x, y)]
      if (off(p, ground) < 24 && off(q, ground) < 24) continue
      inked++
      if (!near(p, b, x, y) || !near(q, a, x, y)) differ++
    }
  return { differ, inked }
}

test('a branch goes by mail to somebody of the tree and to an address, seen before it goes', async ({ browser }) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\n\tLift\n\t\tDoors' })
  await topic(page, /^Lift/).click()
  await page.keyboard.press('u')
  await page.keyboard.press('o')
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  await dialog.getByRole('combobox', { name: 'What', exact: true }).selectOption({ label: '“Lift” and what is below' })
  await dialog.getByRole('combobox', { name: 'As what' }).selectOption('markdown')
  await dialog.getByRole('button', { name: 'By mail' }).press('Enter')
  const mail = dialog.getByRole('region', { name: 'By mail' })
  await expect(mail.getByRole('button', { name: 'See the letter' })).toBeDisabled()
  await mail.getByRole('textbox', { name: 'To' }).fill('not an address')
  await expect(mail.getByRole('status')).toContainText('can’t be a mail address')
  await mail.getByRole('textbox', { name: 'To' }).fill('Tove Lind <tove@oak.example>')
  await mail.getByRole('button', { name: 'Rana Tahiri' }).click()
  await mail.getByRole('textbox', { name: 'Words' }).fill('Please read before Tuesday.')
  await mail.getByRole('button', { name: 'See the letter' }).press('Enter')
  const letter = mail.getByRole('article', { name: 'The letter as it will go' })
  await expect(letter).toContainText('to Tove Lind, ')
  await expect(letter).toContainText('Please read before Tuesday.')
  await expect(letter.getByRole('link')).toContainText('.md, 1 kB')
  // Nothing has gone yet; what is changed is seen anew.
  await mail.getByRole('textbox', { name: 'Subject' }).fill('The lift')
  await expect(letter).toBeHidden()
  await mail.getByRole('button', { name: 'See the letter' }).press('Enter')
  await mail.getByRole('button', { name: 'Send 2 letters' }).press('Enter')
  await expect(dialog.getByRole('status').filter({ hasText: '2 letters are out.' })).toBeVisible()
  await rana.page.goto('/letterbox')
  await rana.page.getByRole('button', { name: /^The lift/ }).press('Enter')
  await expect(rana.page.getByText('Please read before Tuesday.')).toBeVisible()
  const [download] = await Promise.all([
    rana.page.waitForEvent('download'),
    rana.page.getByRole('link', { name: /\.md$/ }).click(),
  ])
  expect(readFileSync((await download.path())!, 'utf8')).toContain('Doors')
})

test('what takes long is left to be made: one goes on, has a letter, and finds it under Hand out for a day', async ({
  browser,
}) => {
  const { ines } = await begun(browser)
  const { page } = ines
  // A server that takes its time while one waits for it.
  await page.route('**/hand-out', () => new Promise(() => {}))
  await page.keyboard.press('u')
  await page.keyboard.press('o')
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  await dialog.getByRole('combobox', { name: 'As what' }).selectOption('docx')
  await dialog.getByRole('button', { name: 'To my machine' }).click()
  await dialog.getByRole('button', { name: 'Meanwhile I do something else' }).click()
  const made = dialog.getByRole('list', { name: 'Made within a day' })
  await expect(made.getByRole('button', { name: /\.docx$/ }).first()).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(dialog).toBeHidden()
  await expect
    .poll(async () =>
      (await ines.caller.call<{ subject: string }[]>('GET', '/api/letters')).data.map(one => one.subject),
    )
    .toContainEqual(expect.stringContaining('is made'))
  await page.reload()
  await expect(topic(page, /^Crates/)).toBeVisible()
  await page.keyboard.press('u')
  await page.keyboard.press('o')
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    made.getByRole('button', { name: /^[^T].*\.docx$/ }).click(),
  ])
  const { value } = await mammoth.extractRawText({ path: await download.path() })
  for (const word of ['Lift', 'Bolts', 'Crates']) expect(value).toContain(word)
  await made.getByRole('button', { name: /^Take away/ }).click()
  await expect(made).toBeHidden()
})
