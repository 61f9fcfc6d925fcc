import { expect, openTree, pasteText, test, topic, two } from './porch'
import type { Page } from '@playwright/test'

const bench = (page: Page) => page.getByRole('complementary', { name: 'Talk of the tree' })
const comments = (page: Page) => page.locator('[data-part="comment"]')

test('a comment is said by key, seen and answered by the other, made a task and settled; a word is found by a filter', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\n\tLift\n\tRamp\nBooks' })
  await expect(topic(rana.page, 'Ramp')).toBeVisible()
  await topic(page, 'Lift').click()
  // No pause between the keys of the command and the words.
  await page.keyboard.press('u')
  await page.keyboard.press('c')
  await page.keyboard.type('Is the shaft wide enough for @ran')
  await expect(page.getByRole('listbox', { name: 'People' }).getByRole('option')).toHaveCount(1)
  await page.keyboard.press('Enter')
  // Quicker than any list: what the letters mean is taken all the same.
  await page.keyboard.type('and the #ram')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Enter')
  await expect(comments(page)).toContainText('Is the shaft wide enough for @Rana Tahiri and the #Ramp')
  await expect(comments(page).getByRole('article').getByRole('button', { name: '#Ramp' })).toBeVisible()
  await expect(comments(page).getByRole('textbox', { name: 'Comment' })).toHaveText('')

  // On the other screen the plank has a sign, by which the comment is read.
  await expect(topic(rana.page, /^Lift, has a comment/)).toBeVisible()
  await rana.page.getByRole('button', { name: 'has a comment: open' }).click()
  const read = comments(rana.page)
  await expect(read).toContainText('Is the shaft wide enough')
  await read.getByRole('button', { name: 'Answer' }).click()
  await rana.page.keyboard.type('By 4 cm. <img src=x onerror=alert(1)>')
  await rana.page.keyboard.press('Control+Enter')
  await expect(comments(page)).toContainText('By 4 cm. <img src=x')
  // The topic that is named leads there.
  await comments(page).getByRole('button', { name: '#Ramp' }).click()
  await expect(topic(page, 'Ramp')).toHaveAttribute('aria-selected', 'true')
  await topic(page, /^Lift/).click()

  // Made a task in one step, with the way there and back.
  await comments(page).getByRole('article').first().hover()
  await comments(page).getByRole('article').first().getByRole('button', { name: 'Task' }).click()
  await expect(topic(page, /^Is the shaft wide enough/)).toHaveAttribute('aria-selected', 'true')
  await expect(topic(rana.page, /^Is the shaft wide enough/)).toBeVisible()
  await expect(read.getByRole('button', { name: /^task: Is the shaft/ })).toBeVisible()
  await expect(page.getByRole('complementary', { name: 'About the selection' })).toContainText('Said by Ines')
  await rana.page.getByRole('button', { name: 'Settle' }).click()
  await expect(topic(page, /^Lift, .*settled/)).toBeVisible()

  // A filter by what was said.
  await rana.caller.call('POST', `/api/trees/${id}/talk`, {
    id: 'later',
    op: 'say',
    comment: 'later',
    thread: 'later',
    place: {
      on: 'topic',
      topic: (await rana.caller.open(id)).snapshot.topics.find(({ title }) => title === 'Books')!.id,
    },
    body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'How many crates?' }] }] },
  })
  await expect(topic(page, /^Books, has a comment/)).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('u')
  await page.keyboard.press('l')
  const all = page.getByRole('complementary', { name: 'Comments' })
  await expect(all).toContainText('How many crates?')
  await expect(all).not.toContainText('Is the shaft')
  // What others say meanwhile comes by itself.
  await rana.caller.call('POST', `/api/trees/${id}/talk`, {
    id: 'meanwhile',
    op: 'say',
    comment: 'meanwhile',
    thread: 'meanwhile',
    place: { on: 'topic', topic: (await rana.caller.open(id)).snapshot.centre },
    body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Who has the keys?' }] }] },
  })
  await expect(all).toContainText('Who has the keys?')
  await all.getByRole('button', { name: 'Settled', exact: true }).click()
  await expect(all).toContainText('Settled by Rana')
})

test('the bench: a fast hand talks, the other reads; unread is counted; a line is dropped as a topic', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pasteText(page, { 'text/plain': 'Fit-out\nBooks' })
  await expect(topic(rana.page, 'Books')).toBeVisible()
  await page.keyboard.press('u')
  await page.keyboard.press('t')
  for (const line of ['Doors tomorrow?', 'The painter is late', 'Look at #Boo']) {
    await page.keyboard.type(line)
    if (line.includes('#')) await page.keyboard.press('Enter')
    await page.keyboard.press('Enter')
  }
  const lines = bench(page).getByRole('article')
  await expect(lines).toHaveCount(3)
  await expect(bench(page)).not.toContainText('waits')
  const sign = rana.page.getByRole('button', { name: 'Talk of the tree, 3 unread' })
  await expect(sign).toBeVisible()
  await sign.click()
  await expect(bench(rana.page).getByRole('article')).toHaveCount(3)
  await expect(bench(rana.page)).toContainText('new since you were here')
  await expect(rana.page.getByRole('button', { name: 'Talk of the tree', exact: true })).toBeVisible()
  // What is named in it is pointed out on the canvas.
  await expect(topic(rana.page, /^named, Books/)).toBeVisible()
  // Read on one device is read on all.
  await rana.page.reload()
  await expect(rana.page.getByRole('button', { name: 'Talk of the tree', exact: true })).toBeVisible()
  // Dragged to the canvas a line becomes a topic there.
  await bench(page)
    .getByRole('article')
    .nth(1)
    .dragTo(topic(page, /Fit-out$/))
  await page.getByRole('dialog', { name: 'What becomes of the line' }).getByRole('button', { name: 'Topic' }).click()
  await expect(topic(rana.page, 'The painter is late')).toBeVisible()
  await expect(bench(page).getByRole('button', { name: 'topic: The painter is late' })).toBeVisible()
})

test('words of a note are commented on, also by whoever may only comment', async ({ browser }) => {
  const { ines, rana, id } = await two(browser, 'commenter')
  await openTree(ines.page, id)
  await pasteText(ines.page, { 'text/plain': 'Lift' })
  await topic(ines.page, 'Lift').click()
  await ines.page.keyboard.press('n')
  await ines.page.keyboard.type('The shaft is 140 cm wide and 3 m deep.')
  await expect(topic(ines.page, /^Lift, has a note/)).toBeVisible()
  const { page } = rana
  await openTree(page, id)
  await topic(page, /^Lift/).click()
  const note = page.locator('.note-text')
  await expect(note).toContainText('140 cm')
  await note.evaluate(element => {
    const text = element.querySelector('p')!.firstChild!
    getSelection()!.setBaseAndExtent(text, 'The shaft is '.length, text, 'The shaft is 140 cm wide'.length)
  })
  await page.getByRole('button', { name: 'Comment on these words' }).click()
  await expect(comments(page)).toContainText('“140 cm wide”')
  await page.keyboard.type('I measured 138.')
  await page.keyboard.press('Enter')
  await expect(comments(page).locator('.thread .words')).toHaveText('“140 cm wide”')
  await topic(ines.page, /^Lift/).click()
  await expect(comments(ines.page)).toContainText('“140 cm wide”')
  await expect(comments(ines.page)).toContainText('I measured 138.')
  // The next comment is on the topic again.
  await page.keyboard.type('And the lift?')
  await page.keyboard.press('Enter')
  await expect(comments(page).locator('.thread')).toHaveCount(2)
  await expect(comments(page).locator('.thread .words')).toHaveCount(1)
})

test('what is said without a line waits, outlives the tab, and is said once; a commenter says and changes nothing', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser, 'commenter')
  await openTree(ines.page, id)
  await pasteText(ines.page, { 'text/plain': 'Lift' })
  const { page, context } = rana
  await openTree(page, id)
  await topic(page, 'Lift').click()
  await page.keyboard.press('u')
  await page.keyboard.press('c')
  await page.keyboard.type('Before')
  await page.keyboard.press('Enter')
  await expect(topic(ines.page, /^Lift, has a comment/)).toBeVisible()
  await context.setOffline(true)
  await page.keyboard.type('In the tunnel')
  await page.keyboard.press('Enter')
  await expect(comments(page)).toContainText('waits')
  // Half a sentence stays in its field, whatever happens to the tab.
  await page.keyboard.type('Half a')
  await context.setOffline(false)
  await expect(comments(page)).not.toContainText('waits')
  await expect(topic(ines.page, /^Lift, has 2 comments/)).toBeVisible()
  await page.reload()
  await topic(page, /^Lift/).click()
  await expect(comments(page).getByRole('textbox', { name: 'Comment' })).toHaveText('Half a')
  await expect(comments(page).getByRole('article')).toHaveCount(2)
  // Keys that change the tree say that they can't.
  await topic(page, /^Lift/).click()
  await page.keyboard.press('Tab')
  await expect(page.getByRole('status').filter({ hasText: /commenter/ })).toBeVisible()
  await expect(comments(page).getByRole('button', { name: 'Task' })).toHaveCount(0)
  // Becomes a viewer: the field goes, what was said stays.
  await ines.caller.call('PUT', `/api/trees/${id}/members/${rana.caller.id}`, { role: 'viewer' })
  await expect(comments(page).getByRole('textbox', { name: 'Comment' })).toHaveCount(0)
  await expect(comments(page).getByRole('article')).toHaveCount(2)
})
