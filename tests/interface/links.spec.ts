import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { expect, openTree, pasteText, test, topic, tree, two, visitor } from './porch'

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
  await expect(links).toContainText('Whoever has it (no word) may')
  await expect(links.getByRole('combobox', { name: 'What they may do' })).toHaveValue('look')
  await expect(links.getByRole('listitem')).toContainText('“Lift”, until')
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

test('a guest on a phone, without scripts, comments and then edits under a name; those who are in see it at once and can say so', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const { page } = ines
  const id = await ines.caller.makeTree('Move')
  await openTree(page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\n\tLift\n\t\tBolts\n\t\tSizes' })
  await topic(page, /^Lift/).click()
  await page.keyboard.press('u')
  await page.keyboard.press('o')
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  await dialog.getByRole('combobox', { name: 'What', exact: true }).selectOption({ label: '“Lift” and what is below' })
  const links = dialog.getByRole('region', { name: 'Links without an account' })
  await links.getByRole('button', { name: 'Make a link to “Lift” and what is below' }).press('Enter')
  const address = await links.getByRole('textbox', { name: 'Address of the link' }).inputValue()
  const may = links.getByRole('combobox', { name: 'What they may do' })
  await may.selectOption('comment')
  await expect(links.getByRole('status')).toContainText('under a name they give')
  const context = await browser.newContext({
    javaScriptEnabled: false,
    viewport: { width: 390, height: 780 },
    hasTouch: true,
  })
  const guest = await context.newPage()
  await guest.goto(address)
  await guest.getByRole('link', { name: 'Comment: Bolts' }).tap()
  await guest.getByRole('textbox', { name: 'Your name' }).fill('Tove Lind')
  await guest.getByRole('textbox', { name: 'What do you want to say about it?' }).fill('M8 is too thin for the doors')
  await guest.getByRole('button', { name: 'Say it' }).tap()
  await expect(guest.getByRole('status')).toHaveText('It was said.')
  await expect(guest.locator('body')).toContainText('M8 is too thin for the doors')
  // In the tree: a sign on the plank, and the words with the name that was given.
  await page.keyboard.press('Escape')
  await expect(topic(page, /^Bolts, has a comment/)).toBeVisible()
  await page.getByRole('button', { name: 'has a comment: open' }).click()
  const said = page.locator('[data-part="comment"]')
  await expect(said).toContainText('M8 is too thin for the doors')
  await expect(said).toContainText('Tove Lind (guest)')
  // Another guest, while it's open: a name that nobody here has heard of yet.
  const other = await (await browser.newContext()).newPage()
  await other.goto(address)
  await other.getByRole('link', { name: 'Comment: Bolts' }).click()
  await other.getByRole('textbox', { name: 'Your name' }).fill('Mads Holt')
  await other.getByRole('textbox', { name: 'What do you want to say about it?' }).fill('Or the doors too heavy')
  await other.getByRole('button', { name: 'Say it' }).click()
  await expect(said).toContainText('Or the doors too heavy')
  await expect(said).toContainText('Mads Holt (guest)')
  // Now they may edit: the page offers it once it's opened anew.
  await page.keyboard.press('u')
  await page.keyboard.press('o')
  await may.selectOption('edit')
  await expect(links.getByRole('status')).toContainText('History says who did what')
  await page.keyboard.press('Escape')
  await guest.goto(address)
  await guest.getByRole('link', { name: 'Change: Bolts' }).tap()
  await expect(guest.getByText('You are Tove Lind.')).toBeVisible()
  expect(await guest.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await guest.getByRole('textbox', { name: 'Title' }).fill('Bolts, M10')
  await guest.getByRole('combobox', { name: 'How far' }).selectOption('open')
  await guest.getByRole('button', { name: 'Keep it' }).tap()
  await expect(topic(page, /^Bolts, M10/)).toBeVisible()
  await guest.getByRole('link', { name: /^Change: Bolts/ }).tap()
  await guest.getByRole('textbox', { name: /New topics below/ }).fill('Nuts\nWashers')
  await guest.getByRole('button', { name: 'Keep it' }).tap()
  await expect(topic(page, /^Washers/)).toBeVisible()
  await guest.getByRole('button', { name: 'Undo' }).tap()
  await expect(topic(page, /^Washers/)).toHaveCount(0)
  await expect(topic(page, /^Bolts, M10/)).toBeVisible()
  // The owner takes it back as anybody's; history has the name.
  await page.goto(`/trees/${id}/history`)
  await expect(page.locator('body')).toContainText('Tove Lind (guest)')
  await context.close()
})

test('a page on another site shows a branch in a frame, panned and zoomed; a site that isn’t listed can’t', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  const { centre } = (await ines.caller.open(id)).snapshot
  const added = Array.from({ length: 12 }, (_, i) => ({
    op: 'add' as const,
    topic: `t${i}`,
    parent: i < 4 ? centre : `t${i % 4}`,
    order: `a${i % 10}`,
    with: {
      title: `Shelf ${i}`,
      ...(i === 0 ? { links: [{ id: 'l', url: 'https://oak.example/', title: 'Oak' }] } : {}),
    },
  }))
  await ines.caller.edit(id, added as never)
  let snippet = ''
  const site = createServer((_, answer) => {
    answer.setHeader('content-type', 'text/html; charset=utf-8')
    answer.end(`<!doctype html><h1>The haven library</h1>${snippet}`)
  })
  await new Promise<void>(done => site.listen(0, '127.0.0.1', done))
  const { port } = site.address() as AddressInfo
  const { page } = ines
  await openTree(page, id)
  await tree(page).focus()
  await page.keyboard.press('u')
  await page.keyboard.press('o')
  const links = page.getByRole('dialog', { name: 'Hand out' }).getByRole('region', { name: 'Links without an account' })
  await links.getByRole('button', { name: 'Make a link to the whole tree' }).press('Enter')
  await links.getByRole('button', { name: '(in no other page)' }).press('Enter')
  await links.getByRole('textbox', { name: /Sites whose pages/ }).fill(`http://localhost:${port}/`)
  await links.getByRole('button', { name: 'Keep', exact: true }).press('Enter')
  await expect(links.getByRole('status')).toHaveText('Pages of these sites may show it.')
  snippet = await links.getByRole('textbox', { name: /put into such a page/ }).inputValue()
  const reader = await (await browser.newContext({ viewport: { width: 900, height: 700 } })).newPage()
  await reader.goto(`http://localhost:${port}/`)
  const frame = reader.frameLocator('iframe')
  await expect(frame.getByRole('region', { name: 'Picture' })).toBeVisible()
  await expect(frame.getByRole('heading', { name: 'Shelf 3' })).toBeVisible()
  const drawn = frame.locator('svg.drawn')
  const width = async (): Promise<number> => (await drawn.boundingBox())!.width
  const before = await width()
  await frame.getByRole('button', { name: 'Larger' }).click()
  await frame.getByRole('button', { name: 'Larger' }).click()
  await expect.poll(width).toBeGreaterThan(before * 1.5)
  const box = frame.getByRole('region', { name: 'Picture' })
  const scrolled = (): Promise<number> => box.evaluate(at => at.scrollLeft)
  const at = await scrolled()
  const { x, y, width: wide } = (await box.boundingBox())!
  await reader.mouse.move(x + wide / 2, y + 40)
  await reader.mouse.down()
  await reader.mouse.move(x + wide / 2 - 60, y + 40)
  await reader.mouse.up()
  await expect.poll(scrolled).toBeGreaterThan(at + 30)
  await box.press('0')
  await expect.poll(width).toBeLessThan(before + 1)
  await frame.locator('summary').first().click()
  await expect(frame.getByRole('link', { name: 'Oak' })).toBeHidden()
  await frame.locator('summary').first().click()
  await expect(frame.getByRole('link', { name: 'Oak' })).toHaveAttribute('target', '_blank')
  await expect(frame.locator('form')).toHaveCount(0)
  // The same page by another name of the machine is another site.
  const refused: string[] = []
  reader.on('console', message => refused.push(message.text()))
  await reader.goto(`http://127.0.0.1:${port}/`)
  await expect.poll(() => refused.join(' ')).toContain('frame-ancestors')
  await expect(frame.getByRole('heading', { name: 'Shelf 3' })).toHaveCount(0)
  await new Promise(done => site.close(done))
})
