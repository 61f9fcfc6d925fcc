import type { Page } from '@playwright/test'
import mammoth from 'mammoth'
import { demoVisitor, expect, intercept, test, topic, tree } from './porch'
import { put } from '../meeting-parts'
import { staged, openMeeting, said } from './meeting-stage'

test('a meeting is held by two browsers: one key a line, everybody follows, looks around and comes back; it survives a reload and ends in minutes', async ({
  browser,
}) => {
  const { ines, rana, id } = await staged(browser)
  await openMeeting(ines.page, id)
  await openMeeting(rana.page, id)
  await rana.page.keyboard.press('Alt+2')
  await ines.page.getByRole('button', { name: 'Begin', exact: true }).press('Enter')
  const now = (page: Page) => page.locator('[aria-current="step"]')
  await expect(now(ines.page)).toContainText('Two offers')
  await expect(now(rana.page)).toContainText('Two offers')
  // Rana looks around, is told so, and comes back.
  await rana.page
    .getByRole('button', { name: /Neighbours/ })
    .first()
    .click()
  await expect(rana.page.getByText('You are looking around.')).toBeVisible()
  await rana.page.keyboard.press('Escape')
  await expect(rana.page.getByText('You are looking around.')).toBeHidden()
  // One key each, on both sides, with details at once.
  await ines.page.keyboard.press('d')
  await ines.page.keyboard.type('Two Rivers moves us')
  await ines.page.keyboard.press('Enter')
  await ines.page.keyboard.press('Escape')
  await rana.page.keyboard.press('a')
  await rana.page.keyboard.type('Sign the offer // Rana, 5 Mar 2027')
  await expect(rana.page.getByText('due 5 Mar 2027', { exact: true })).toBeVisible()
  await rana.page.keyboard.press('Enter')
  await rana.page.keyboard.press('Escape')
  await expect(ines.page.locator('.record').getByText('Rana Tahiri, due 5 Mar 2027')).toBeVisible()
  const wording = ines.page.getByRole('textbox', { name: 'Action: Sign the offer' })
  await wording.fill('Sign the offer of Two Rivers')
  await wording.press('Enter')
  await expect(rana.page.getByRole('textbox', { name: 'Action: Sign the offer of Two Rivers' })).toBeVisible()
  // A line of the record is talked about under it, without a way out of the meeting; letters are words there.
  const talkOf = (page: Page) => page.getByRole('button', { name: /comments? on Sign the offer of Two Rivers$/i })
  await talkOf(rana.page).press('Enter')
  await rana.page.keyboard.type('dad will pay a part')
  await rana.page.keyboard.press('Enter')
  await expect(ines.page.getByRole('button', { name: '1 comment on Sign the offer of Two Rivers' })).toBeVisible()
  await rana.page.keyboard.press('Escape')
  await expect(talkOf(rana.page)).toBeFocused()
  await expect(ines.page.locator('[data-entry]')).toHaveCount(2)
  for (const [key, line] of [
    ['q', 'Who holds the keys?'],
    ['i', 'Soup at noon'],
    ['p', 'Late opening'],
  ] as const) {
    await rana.page.keyboard.press(key)
    await rana.page.keyboard.type(line)
    await rana.page.keyboard.press('Enter')
    await rana.page.keyboard.press('Escape')
  }
  await expect(ines.page.locator('[data-entry]')).toHaveCount(5)
  // What somebody is typing stays while others add to the same list.
  const half = rana.page.getByRole('textbox', { name: 'Decision: Two Rivers moves us' })
  await half.focus()
  await rana.page.keyboard.press('End')
  await rana.page.keyboard.type(', in five')
  await ines.page.keyboard.press('i')
  await ines.page.keyboard.type('Buns for the carriers')
  await ines.page.keyboard.press('Enter')
  await ines.page.keyboard.press('Escape')
  await expect(rana.page.locator('[data-entry]')).toHaveCount(6)
  await expect(half).toHaveValue('Two Rivers moves us, in five')
  await rana.page.keyboard.type(' days')
  await rana.page.keyboard.press('Enter')
  await expect(ines.page.getByRole('textbox', { name: 'Decision: Two Rivers moves us, in five days' })).toBeVisible()
  // A link of the item opens, and Esc leads back to the meeting's item.
  await expect(ines.page.getByRole('group', { name: 'Files and links of the item' })).toContainText('The neighbours')
  await ines.page.getByRole('button', { name: 'Rana Tahiri: not noted' }).press('Enter')
  await expect(rana.page.getByRole('button', { name: 'Rana Tahiri: there', exact: true })).toBeVisible()
  // A line that was begun under an item stays there, though the chair moves on before it's kept.
  await rana.page.keyboard.press('q')
  await rana.page.keyboard.type('Until when is the offer good')
  await ines.page.keyboard.press('PageDown')
  await expect(now(rana.page)).toContainText('Neighbours')
  await expect(rana.page.getByText('stays under “Two offers”')).toBeVisible()
  await rana.page.keyboard.press('Enter')
  await rana.page.keyboard.press('Escape')
  await expect
    .poll(
      async () =>
        (await ines.caller.open(id)).snapshot.topics.find(one => one.title === 'Until when is the offer good')?.parent,
    )
    .toBe('i1')
  // Keys in quick succession are moves one after the other: through, back twice.
  for (const key of ['PageDown', 'PageUp', 'PageUp']) await ines.page.keyboard.press(key)
  await expect(now(rana.page)).toContainText('Two offers')
  await expect(now(ines.page)).toContainText('Two offers')
  // Two chairs press at once: it moves on once. Neither press leaves the house before the other is there.
  const held: (() => void)[] = []
  for (const { page } of [ines, rana])
    await intercept(page, '**/moves', async route => {
      await new Promise<void>(done => {
        held.push(done)
        if (held.length === 2) for (const go of held) go()
      })
      await route.continue()
    })
  await Promise.all([ines.page.keyboard.press('PageDown'), rana.page.keyboard.press('PageDown')])
  await expect.poll(() => held.length).toBe(2)
  for (const { page } of [ines, rana]) await page.unroute('**/moves')
  await expect(now(ines.page)).toContainText('Neighbours')
  await expect(now(rana.page)).toContainText('Neighbours')
  await ines.page.reload()
  await expect(now(ines.page)).toContainText('Neighbours')
  await ines.page.getByRole('button', { name: 'End the meeting' }).press('Enter')
  await expect(ines.page.getByRole('dialog', { name: 'Before it ends' })).toBeVisible()
  await ines.page.keyboard.press('Enter')
  await expect(ines.page.getByRole('heading', { name: 'Give it out' })).toBeVisible()
  await expect(rana.page.getByText('This meeting has ended.')).toBeVisible()
  const [download] = await Promise.all([
    ines.page.waitForEvent('download'),
    ines.page.getByRole('link', { name: 'Word document' }).click(),
  ])
  const html = (await mammoth.convertToHtml({ path: await download.path() })).value
  for (const part of ['Sign the offer of Two Rivers', '5 Mar 2027', 'Two Rivers moves us', 'Rana Tahiri'])
    expect(html).toContain(part)
  await ines.page.getByRole('button', { name: 'What has changed' }).press('Enter')
  await expect(ines.page.locator('.since')).toContainText('added Two Rivers moves us')
  // The next one: by the rule, with what is still open.
  await ines.page.getByRole('button', { name: 'Next meeting' }).first().press('Enter')
  await expect(ines.page.getByText('“Meeting 4” is laid out')).toBeVisible()
  await expect(ines.page.getByRole('textbox', { name: 'Item 1' })).toHaveValue('Still open')
  await rana.page.goto('/work')
  await expect(rana.page.getByRole('treeitem').filter({ hasText: 'Sign the offer of Two Rivers' })).toBeVisible()
  await expect(rana.page.getByRole('treeitem').filter({ hasText: 'Two offers' })).toHaveCount(0)
})

test('in the demo, next week’s meeting is prepared, held with a second browser, ended and followed, by keyboard, in less than five minutes @alone', async ({
  browser,
}) => {
  const began = Date.now()
  const [ines, oskar] = [await demoVisitor(browser), await demoVisitor(browser, 'oskar@porch.example')]
  const { page } = ines
  await page.goto('/meetings')
  await page.getByRole('link', { name: /Meeting 3/ }).press('Enter')
  const ready = page.getByRole('complementary', { name: 'How ready it is' })
  const mend = async (finding: RegExp): Promise<void> =>
    ready.getByRole('button', { name: finding }).first().press('Enter')
  const command = async (name: string): Promise<void> => {
    await page.keyboard.press('Control+k')
    await page.getByRole('combobox', { name: 'Search everything' }).fill(name)
    await expect(page.getByRole('listbox', { name: 'Found' }).getByRole('option').first()).toContainText(name, {
      ignoreCase: true,
    })
    await page.keyboard.press('Enter')
  }
  // Each finding leads to the field that mends it.
  await mend(/“Next steps” has no minutes/)
  await page.keyboard.type('5')
  await page.keyboard.press('Enter')
  await mend(/No item leads to “Where the lorry/)
  await page.keyboard.press('Enter')
  await expect(ready.getByRole('button', { name: /No item leads/ })).toHaveCount(0)
  await mend(/hasn’t been invited/)
  await page.keyboard.press('Enter')
  await expect(said(page).filter({ hasText: '5 letters are out' })).toBeVisible()
  await expect(ready.getByRole('button')).toContainText([
    /“Shelving is late” isn’t filled in yet/,
    /“Two offers for the removal” isn’t filled in yet/,
  ])
  // Oskar answers and fills in his section, where the letter leads.
  await oskar.page.goto('/')
  await oskar.page.getByRole('link', { name: /Two offers for the removal/ }).press('Enter')
  await expect(topic(oskar.page, /^Two offers/)).toHaveAttribute('aria-selected', 'true')
  await tree(oskar.page).focus()
  await oskar.page.keyboard.press('Shift+Y')
  await oskar.page.keyboard.press('j')
  await oskar.page
    .getByRole('group', { name: 'Your answer' })
    .getByRole('button', { name: 'I come', exact: true })
    .press('Enter')
  await expect(page.locator('.people li', { hasText: 'Oskar Moreau' })).toContainText('comes')
  await page.keyboard.press('Escape')
  await page.getByRole('tab', { name: 'Canvas' }).press('Enter')
  await tree(page).focus()
  await topic(page, /^Shelving is late/).click()
  await page.keyboard.press('Shift+Y')
  await page.keyboard.press('j')
  await expect(ready).toContainText('Nothing stands in the way')
  // Held.
  await command('Begin the meeting')
  await oskar.page.keyboard.press('Alt+2')
  for (const one of [page, oskar.page]) await expect(one.locator('[aria-current="step"]')).toContainText('Still open')
  const on = async (title: string): Promise<void> => {
    await page.keyboard.press('PageDown')
    for (const one of [page, oskar.page]) await expect(one.locator('[aria-current="step"]')).toContainText(title)
  }
  await on('Shelving is late')
  await on('Two offers for the removal')
  const keep = async (at: Page, key: string, line: string): Promise<void> => {
    await at.keyboard.press(key)
    await at.keyboard.type(line)
    await at.keyboard.press('Enter')
    await at.keyboard.press('Escape')
  }
  await keep(page, 'd', 'Two Rivers moves us')
  await keep(oskar.page, 'a', 'Sign the offer // Oskar, 5 Mar 2027')
  await keep(page, 'a', 'Tell Lindqvist // Ines, 3 Mar 2027')
  await expect(page.locator('[data-entry]')).toHaveCount(3)
  await on('Neighbours')
  await on('Next steps')
  await command('End the meeting')
  // What was to be settled and is open is asked: one key each.
  const ending = page.getByRole('dialog', { name: 'Before it ends' })
  await expect(ending).toContainText('Does the shelving date hold')
  await page.keyboard.press('3')
  await page.keyboard.press('1')
  await expect(ending).toContainText('All of it is said')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Give it out' })).toBeVisible()
  // The document has the right owners and days.
  const address = await page.getByRole('link', { name: 'Word document' }).getAttribute('href')
  const document = await page.request.get(address!)
  const html = (await mammoth.convertToHtml({ buffer: await document.body() })).value
  const rows = [...html.matchAll(/<tr>(.*?)<\/tr>/gs)].map(([, row]) =>
    [...row!.matchAll(/<p>(.*?)<\/p>/gs)].map(([, cell]) => cell),
  )
  expect(rows).toContainEqual(['Sign the offer', 'Oskar Moreau', '5 Mar 2027', 'Two offers for the removal'])
  expect(rows).toContainEqual(['Tell Lindqvist', 'Ines Brandt', '3 Mar 2027', 'Two offers for the removal'])
  await command('Mail the minutes')
  await page
    .getByRole('dialog', { name: 'The minutes as letters' })
    .getByRole('button', { name: 'Send 5 letters' })
    .press('Enter')
  await expect(said(page).filter({ hasText: 'The minutes are out in 5 letters' })).toBeVisible()
  await command('Next meeting of the series')
  await expect(page.getByRole('combobox', { name: 'Which meeting' })).toContainText('Meeting 4')
  await page.keyboard.press('Alt+2')
  for (const open of ['Sign the offer', 'Tell Lindqvist', 'Late opening on Thursdays'])
    await expect(page.locator('.carried')).toContainText(open)
  // Each person's list is right.
  await oskar.page.goto('/work')
  await expect(oskar.page.getByRole('treeitem').filter({ hasText: 'Sign the offer' })).toContainText(
    'Coordination meetings',
  )
  await expect(oskar.page.getByRole('treeitem').filter({ hasText: 'Tell Lindqvist' })).toHaveCount(0)
  await page.goto('/work')
  await expect(page.getByRole('treeitem').filter({ hasText: 'Tell Lindqvist' })).toBeVisible()
  await page.goto('/letterbox')
  await page.getByRole('button', { name: /Minutes: Meeting 3/ }).press('Enter')
  await expect(page.getByText(/Yours to do\s+-+\s+- Tell Lindqvist, due 3 Mar 2027/)).toBeVisible()
  expect(Date.now() - began).toBeLessThan(300_000)
})

test('an overrun is told, and one key cuts what is left evenly so that it ends on time', async ({ browser }) => {
  const { ines, id } = await staged(browser, 20, 30)
  await openMeeting(ines.page, id)
  await ines.page.getByRole('button', { name: 'Begin', exact: true }).click()
  // Twice twenty minutes in thirty: ten too many, and the last item gives them.
  await expect(ines.page.getByText(/To end on time the last item gives up 1[01] min/)).toBeVisible()
  await ines.page.keyboard.press('c')
  await expect(said(ines.page).filter({ hasText: 'ends on time again' })).toBeVisible()
  await expect(ines.page.getByText(/To end on time/)).toBeHidden()
  await expect(ines.page.getByRole('navigation', { name: 'Agenda' })).toContainText(/(9|10) min \(of 20\)/)
})

test('a guest answers by the link in their letter, without an account; the lead sees it', async ({ browser }) => {
  const { ines, id } = await staged(browser)
  await ines.caller.edit(id, [
    put('m', {
      id: 'p3',
      kind: 'person',
      user: null,
      mail: 'tove@oak.example',
      name: 'Tove Lind',
      needed: false,
      role: null,
    }),
  ])
  await openMeeting(ines.page, id)
  await ines.page.getByRole('button', { name: 'Invite everybody' }).click()
  await expect(said(ines.page).filter({ hasText: '3 letters are out' })).toBeVisible()
  const { data: sent } = await ines.caller.call<{ to: string; link: string }[]>('GET', '/api/letters?box=sent')
  const guest = await browser.newContext({ baseURL: ines.caller.url })
  const page = await guest.newPage()
  await page.goto(sent.find(({ to }) => to === 'tove@oak.example')!.link)
  await expect(page.getByRole('heading', { name: 'Meeting 3' })).toBeVisible()
  await expect(page.getByText('2 Mar 2027, 14:00 to 15:00 (Europe/Copenhagen)').first()).toBeVisible()
  await page.getByRole('button', { name: 'I don’t come' }).click()
  await expect(page.getByText(/Thank you\. Ines Brandt sees your answer/)).toBeVisible()
  await expect(ines.page.locator('[data-person="p3"]')).toContainText('doesn’t come')
  // A calendar file with another answer is dropped in; a broken one changes nothing and says why.
  const reply = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\nMETHOD:REPLY\r\nBEGIN:VEVENT\r\nUID:m.${id}@sun-porch\r\nDTSTAMP:20270201T080000Z\r\nATTENDEE;PARTSTAT=ACCEPTED:mailto:tove@oak.example\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n`
  const file = ines.page.getByLabel('Calendar file with an answer')
  await file.setInputFiles({
    name: 'broken.ics',
    mimeType: 'text/calendar',
    buffer: Buffer.from('BEGIN:VCALENDAR\nwhat'),
  })
  await expect(said(ines.page).filter({ hasText: 'isn’t a calendar file' })).toBeVisible()
  await file.setInputFiles({ name: 'reply.ics', mimeType: 'text/calendar', buffer: Buffer.from(reply) })
  await expect(ines.page.locator('[data-person="p3"]')).toContainText('comes')
})
