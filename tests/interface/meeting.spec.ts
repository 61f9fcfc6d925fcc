import type { Browser, Page } from '@playwright/test'
import mammoth from 'mammoth'
import type { BriefPart, Change } from '../../core/tree'
import { bodyOf } from '../../core/talk/body'
import { bringIn, newId } from '../caller'
import { demoVisitor, expect, intercept, openTree, test, topic, tree, two, type Visitor, visitor } from './porch'

const put = (at: string, member: BriefPart): Change => ({ op: 'put', topic: at, set: 'meeting', member })

/**
 * Two people and a tree with a meeting of two items that is ready to be begun. `minutes`: of each item; `slot`: set
 * aside.
 */
async function staged(
  browser: Browser,
  minutes = 20,
  slot = 60,
): Promise<{ ines: Visitor; rana: Visitor; id: string }> {
  const { ines, rana, id } = await two(browser)
  const { snapshot } = await ines.caller.open(id)
  const item = (topicId: string, order: string, title: string, owner: string): Change => ({
    op: 'add',
    topic: topicId,
    parent: 'm',
    order,
    with: {
      title,
      people: [owner],
      item: [
        { id: 'intent', kind: 'intent', intent: 'decide' },
        { id: 'minutes', kind: 'minutes', minutes },
      ],
    },
  })
  const { status } = await ines.caller.edit(id, [
    {
      op: 'add',
      topic: 'm',
      parent: snapshot.centre,
      order: 'a0',
      with: {
        title: 'Meeting 3',
        meeting: [
          { id: 'why', kind: 'why', text: 'Decide who moves us.' },
          { id: 'slot', kind: 'slot', minutes: slot },
          { id: 'm1', kind: 'must', order: 'a0', text: 'Which firm' },
          { id: 'rule', kind: 'rule', rule: 'FREQ=WEEKLY;BYDAY=TU', closed: [] },
          { id: 'begins', kind: 'begins', day: '2027-03-02', time: '14:00', zone: 'Europe/Copenhagen' },
          { id: 'p1', kind: 'person', user: ines.caller.id, mail: null, name: '', needed: true, role: 'chair' },
          { id: 'p2', kind: 'person', user: rana.caller.id, mail: null, name: '', needed: true, role: null },
        ],
      },
    },
    item('i1', 'a0', 'Two offers', rana.caller.id),
    item('i2', 'a1', 'Neighbours', ines.caller.id),
    {
      op: 'add',
      topic: 'r1',
      parent: 'i1',
      order: 'a0',
      with: { title: 'Report', links: [{ id: 'l1', url: 'topic:i2', title: 'The neighbours' }] },
    },
  ])
  expect(status).toBe(200)
  return { ines, rana, id }
}
const openMeeting = async (page: Page, id: string): Promise<void> => {
  await page.goto(`/trees/${id}?topic=m&view=meeting`)
  await expect(page.getByRole('tablist', { name: 'Parts of the meeting' })).toBeVisible()
}
const said = (page: Page) => page.getByRole('status').filter({ hasText: /\w/ })

test('what is filled in is read beforehand: it counts when somebody has it open, everybody sees who, one press asks the rest', async ({
  browser,
}) => {
  const { ines, rana, id } = await staged(browser)
  const lev = await visitor(browser, 'Lev Orlow')
  await bringIn(ines.caller, id, lev.caller, 'viewer')
  await ines.caller.edit(id, [
    put('m', { id: 'p3', kind: 'person', user: lev.caller.id, mail: null, name: '', needed: true, role: null }),
    { op: 'put', topic: 'i1', set: 'item', member: { id: 'ready', kind: 'ready', at: 1, by: ines.caller.id } },
  ])
  await ines.caller.call('POST', `/api/trees/${id}/meetings/m/invitation`, {})
  await openMeeting(ines.page, id)
  const ready = ines.page.getByRole('complementary', { name: 'How ready it is' })
  const finding = ready.getByRole('listitem').filter({ hasText: 'have read “Two offers”' })
  await expect(finding).toContainText('0 of 2 have read')
  await expect(finding).toContainText(/Not yet: .*Lev Orlow/)
  // By the letter's address, with nothing pressed: the item is in the sheet, and after a moment it counts.
  await lev.page.goto(`/trees/${id}?topic=i1`)
  const sheet = lev.page.getByRole('complementary', { name: 'About the selection' })
  await expect(sheet).toContainText('That you opened it is shown to those in the tree.')
  await expect(sheet).toContainText('1 of 2 have read this, and you are one of them.')
  await expect(finding).toContainText('1 of 2 have read')
  await expect(finding).not.toContainText('Lev Orlow')
  // What is said anew has to be read anew; whoever has it open reads it.
  await rana.page.goto(`/trees/${id}?topic=i1`)
  await expect(rana.page.getByRole('complementary', { name: 'About the selection' })).toContainText(
    'Not yet: Ines Brandt',
  )
  await rana.caller.edit(id, [{ op: 'set', topic: 'r1', field: 'title', value: 'Report of both firms' }])
  await expect(sheet).toContainText('1 of 2 have read this, and you are one of them.')
  await lev.page.goto('/trees')
  await rana.caller.edit(id, [{ op: 'set', topic: 'r1', field: 'title', value: 'Report of three firms' }])
  await expect(finding).toContainText('Before it changed: Lev Orlow')
  const remind = finding.getByRole('button', { name: 'Remind them by letter' })
  await remind.click()
  await expect(said(ines.page).filter({ hasText: 'One letter is on the way.' })).toBeVisible()
  await remind.click()
  await expect(said(ines.page).filter({ hasText: 'They were reminded today already.' })).toBeVisible()
})

test('a brief is written from nothing by keyboard: why, what must be settled, the way there, when, who; laid out twice, nothing doubles', async ({
  browser,
}) => {
  const ines = await visitor(browser, 'Ines Brandt')
  const id = await ines.caller.makeTree('Coordination')
  const { page } = ines
  await openTree(page, id)
  await page.keyboard.press('Tab')
  await page.keyboard.type('Meeting 1')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await topic(page, 'Meeting 1').click()
  await page.keyboard.press('Shift+M')
  const ready = page.getByRole('complementary', { name: 'How ready it is' })
  await expect(ready).toContainText('It doesn’t say why you meet')
  await ready.getByRole('button', { name: /doesn’t say why/ }).click()
  await page.keyboard.type('Decide who moves us.')
  await page.keyboard.press('Enter')
  await expect(ready).not.toContainText('why you meet')
  await ready.getByRole('button', { name: /Nothing is said that must/ }).click()
  for (const must of ['Which firm', 'Which week', 'Who pays', 'The old clock', 'The name of the café']) {
    await page.keyboard.type(must)
    await page.keyboard.press('Enter')
  }
  await expect(page.getByText('To a later meeting', { exact: true })).toBeVisible()
  await expect(ready).toContainText('5 things are to be settled')
  await expect(ready).toContainText('No item leads to “Which firm”')
  const next = page.getByRole('textbox', { name: 'Next item of the agenda' })
  await next.focus()
  await page.keyboard.type('Two offers // decide, 20 min, Ines')
  await page.keyboard.press('Enter')
  await page.keyboard.type('Neighbours // inform, 10')
  await page.keyboard.press('Enter')
  await expect(page.getByText('30 min needed')).toBeVisible()
  await expect(ready).toContainText('Nobody owns “Neighbours”')
  for (const n of [1, 2, 3, 4])
    await page
      .getByRole('group', { name: 'What Two offers settles' })
      .getByRole('button', { name: new RegExp(`^Settles ${n}`) })
      .press('Enter')
  await expect(ready).not.toContainText('No item leads')
  await page.getByRole('checkbox', { name: 'Choose Two offers' }).check()
  await page.getByRole('combobox', { name: 'Inner pattern' }).click()
  await page.getByRole('option', { name: 'Where it stands, what worries us, what we propose' }).click()
  await page.getByRole('button', { name: 'Lay out the agenda' }).click()
  await expect(said(page).filter({ hasText: '5 topics added' })).toBeVisible()
  await page.getByRole('button', { name: 'Lay out the agenda' }).click()
  await expect(said(page).filter({ hasText: 'nothing to add' })).toBeVisible()
  const field = page.getByRole('textbox', { name: 'Minutes for Neighbours' })
  await field.fill('0')
  await field.press('Enter')
  await expect(said(page).filter({ hasText: 'whole number from 1' })).toBeVisible()
  await expect(field).toHaveValue('10')
  await page.getByLabel('Day', { exact: true }).fill('28 Mar 2027')
  await page.getByLabel('Day', { exact: true }).press('Enter')
  await page.getByLabel('at', { exact: true }).fill('2.30')
  await page.getByLabel('at', { exact: true }).press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: 'clocks go forward' })).toBeVisible()
  await page.getByLabel('at', { exact: true }).fill('25')
  await page.getByLabel('at', { exact: true }).press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: 'isn’t a time' })).toBeVisible()
  await page.getByLabel('at', { exact: true }).fill('14')
  await page.getByLabel('at', { exact: true }).press('Enter')
  await expect(page.getByLabel('at', { exact: true })).toHaveValue('14:00')
  const who = page.getByRole('textbox', { name: 'Ask somebody to come' })
  await who.fill('nobody@')
  await who.press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: 'can’t be a mail address' })).toBeVisible()
  await who.fill('Tove Lind <tove@oak.example>')
  await who.press('Enter')
  await expect(page.getByText('guest, tove@oak.example')).toBeVisible()
  // A call's address in the place can be joined from the head.
  await page.getByLabel('Where', { exact: true }).fill('Drying loft, or https://call.example/loft')
  await page.getByLabel('Where', { exact: true }).press('Enter')
  await expect(page.getByRole('link', { name: 'Join the call' })).toHaveAttribute('href', 'https://call.example/loft')
  await page.keyboard.press('Escape')
  await page.getByRole('tab', { name: 'Canvas' }).click()
  await expect(topic(page, /^What worries us/)).toHaveCount(1)
  await page.keyboard.press('j')
  await expect(page.getByRole('heading', { name: 'Why we meet' })).toBeVisible()
})

test('beside a meeting that runs one talks, and votes on the item that is on; the minutes say what it came to', async ({
  browser,
}) => {
  const { ines, rana, id } = await staged(browser)
  await openMeeting(ines.page, id)
  await openMeeting(rana.page, id)
  await rana.page.keyboard.press('Alt+2')
  await ines.page.getByRole('button', { name: 'Begin', exact: true }).press('Enter')
  const now = (page: Page) => page.locator('[aria-current="step"]')
  await expect(now(rana.page)).toContainText('Two offers')
  // The bench stands beside the room; what is typed there makes no lines of the record.
  await rana.page.keyboard.press('u')
  await rana.page.keyboard.press('t')
  await rana.page.keyboard.type('quick aside: da pi qi')
  await rana.page.keyboard.press('Enter')
  const bench = rana.page.getByRole('complementary', { name: 'Talk of the tree' })
  await expect(bench.getByRole('article')).toContainText('quick aside: da pi qi')
  await expect(rana.page.locator('[data-entry]')).toHaveCount(0)
  // Esc leads back to the room, whose keys are keys again.
  await rana.page.keyboard.press('Escape')
  await rana.page.keyboard.press('u')
  await rana.page.keyboard.press('v')
  await rana.page.keyboard.type('Two Rivers?')
  await rana.page.keyboard.press('Enter')
  const ballot = rana.page.getByRole('dialog', { name: 'Vote' })
  await expect(ballot.getByRole('region', { name: 'Two Rivers?' })).toContainText('asks about “Two offers”, openly')
  await ines.page
    .getByRole('status')
    .filter({ hasText: 'Rana Tahiri asks: Two Rivers?' })
    .getByRole('button', { name: 'Vote' })
    .click()
  const own = ines.page.getByRole('dialog', { name: 'Vote' })
  await own.getByLabel('Yes', { exact: true }).check()
  await own.getByRole('button', { name: 'Vote', exact: true }).click()
  await expect(own).toContainText('1 has voted: Ines Brandt')
  await own.getByRole('button', { name: 'Close and keep it' }).click()
  await expect(ballot.getByRole('region', { name: 'Two Rivers?' })).toHaveCount(0)
  await ines.page.keyboard.press('Escape')
  await rana.page.keyboard.press('Escape')
  await rana.page.keyboard.press('Alt+3')
  await expect(
    rana.page.getByText('Vote “Two Rivers?”: Yes 1, No 0, Abstain 0. 1 voted (Yes: Ines Brandt).'),
  ).toBeVisible()
})

test('a commenter says twelve things; all are settled, two as tasks and one by a vote, and the minutes name them', async ({
  browser,
}) => {
  const { ines, rana, id } = await staged(browser)
  const { page } = ines
  await ines.caller.call('PUT', `/api/trees/${id}/members/${rana.caller.id}`, { role: 'commenter' })
  await ines.caller.call('POST', `/api/trees/${id}/meetings/m/moves`, { to: 'begin' })
  for (let i = 1; i <= 12; i++) {
    const thread = newId()
    const body = bodyOf(`Thing ${i} of the two offers`)
    await rana.caller.call('POST', `/api/trees/${id}/talk`, {
      ...{ id: newId(), op: 'say', comment: thread, thread, place: { on: 'topic', topic: 'i1' }, body },
    })
  }
  await openMeeting(page, id)
  await expect(page.locator('[aria-current="step"]')).toContainText('Two offers')
  await page.keyboard.press('u')
  await page.keyboard.press('l')
  const panel = page.getByRole('complementary', { name: 'Comments' })
  const thing = (i: number) =>
    panel.locator('section.thread').filter({ has: page.getByText(`Thing ${i} of the two offers`, { exact: true }) })
  await expect(panel.locator('section.thread')).toHaveCount(12)
  for (const i of [1, 2]) await thing(i).getByRole('button', { name: 'Task', exact: true }).press('Enter')
  const vote = newId()
  const asked = {
    id: vote,
    topic: 'i1',
    question: 'Thing 3 of the two offers',
    kind: 'yes-no',
    choices: ['Yes', 'No', 'Abstain'],
  }
  expect(await ines.caller.call('POST', `/api/trees/${id}/votes`, { ...asked, secret: false })).toMatchObject({
    status: 200,
  })
  for (const { caller } of [ines, rana])
    expect(await caller.call('POST', `/api/trees/${id}/votes/${vote}`, { cast: [1, 0, 0] })).toMatchObject({
      status: 200,
    })
  expect(await ines.caller.call('POST', `/api/trees/${id}/votes/${vote}/close`)).toMatchObject({ status: 200 })
  for (let i = 1; i <= 12; i++) {
    await thing(i).getByRole('button', { name: 'Settle', exact: true }).click()
    await expect(panel.locator('section.thread.settled')).toHaveCount(i)
  }
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'End the meeting' }).press('Enter')
  await expect(page.getByRole('dialog', { name: 'Before it ends' })).toContainText('Which firm')
  await page.keyboard.press('Enter')
  const minutes = page.locator('main')
  await expect(page.getByRole('heading', { name: 'Give it out' })).toBeVisible()
  for (const i of [1, 2])
    await expect(minutes.getByRole('textbox', { name: `Action: Thing ${i} of the two offers` }).first()).toBeVisible()
  await expect(minutes).toContainText('Vote “Thing 3 of the two offers”: Yes 2, No 0, Abstain 0.')
  const { topics } = (await ines.caller.open(id)).snapshot
  expect(topics.filter(({ entry }) => entry?.kind === 'action').map(({ title }) => title)).toEqual([
    'Thing 1 of the two offers',
    'Thing 2 of the two offers',
  ])
})

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

test('an owner is asked, goes straight to the section, fills it in and marks it ready; the lead sees who is', async ({
  browser,
}) => {
  const { ines, rana, id } = await staged(browser)
  await openMeeting(ines.page, id)
  await ines.page.getByRole('button', { name: 'Ask the owners' }).click()
  await expect(said(ines.page).filter({ hasText: '2 letters ask' })).toBeVisible()
  await rana.page.goto('/')
  await expect(rana.page.getByRole('heading', { name: 'To fill in' })).toBeVisible()
  await rana.page.getByRole('link', { name: /^Two offers for Meeting 3/ }).click()
  await expect(topic(rana.page, /^Two offers/)).toHaveAttribute('aria-selected', 'true')
  await expect(rana.page.getByText(/Asked to be filled in by/)).toBeVisible()
  await tree(rana.page).focus()
  await rana.page.keyboard.press('Shift+Y')
  await expect(rana.page.getByText('This section is ready.')).toBeVisible()
  await expect(ines.page.locator('[data-item="i1"]')).toContainText('ready')
  await expect(ines.page.getByRole('complementary', { name: 'How ready it is' })).not.toContainText(
    '“Two offers” isn’t filled in',
  )
})

/** Reads the seconds left in every browser in the same moment. */
async function secondsLeft(pages: readonly Page[]): Promise<number[]> {
  const read = await Promise.all(
    pages.map(page =>
      page.evaluate(() => {
        const text = document.querySelector('[data-clock="left"]')?.textContent ?? ''
        const [, sign, minutes, seconds] = /(−?)(\d+):(\d+)/.exec(text) ?? []
        return {
          left: (sign ? -1 : 1) * (Number(minutes) * 60 + Number(seconds)),
          at: performance.timeOrigin + performance.now(),
        }
      }),
    ),
  )
  // They aren't asked in quite the same moment: each is carried on to the last one's. The machine's own time is the
  // yardstick, not the page's Date.
  const last = Math.max(...read.map(({ at }) => at))
  return read.map(({ left, at }) => left - (last - at) / 1000)
}

test('somebody who may only read answers, follows, and looks around by the same keys without moving anybody', async ({
  browser,
}) => {
  const { ines, id } = await staged(browser)
  const lev = await visitor(browser, 'Lev Aalto')
  await bringIn(ines.caller, id, lev.caller, 'viewer')
  await ines.caller.edit(id, [
    put('m', { id: 'p4', kind: 'person', user: lev.caller.id, mail: null, name: '', needed: false, role: null }),
  ])
  await ines.caller.call('POST', `/api/trees/${id}/meetings/m/invitation`, {})
  await openMeeting(lev.page, id)
  await expect(lev.page.getByRole('textbox', { name: 'Why we meet' })).toHaveAttribute('readonly', '')
  await expect(lev.page.getByRole('button', { name: 'Lay out the agenda' })).toHaveCount(0)
  await lev.page.getByRole('group', { name: 'Your answer' }).getByRole('button', { name: 'Perhaps' }).press('Enter')
  await expect(lev.page.getByText('You said: perhaps.')).toBeVisible()
  await ines.caller.call('POST', `/api/trees/${id}/meetings/m/moves`, { to: 'begin' })
  await lev.page.keyboard.press('Alt+2')
  await expect(lev.page.locator('[aria-current="step"]')).toContainText('Two offers')
  await lev.page.keyboard.press('PageDown')
  await expect(lev.page.getByText('You are looking around.')).toBeVisible()
  await expect(lev.page.getByRole('heading', { level: 1, name: /Neighbours/ })).toBeVisible()
  await lev.page.keyboard.press('d')
  // A later key that does something says that this one has been heard.
  await lev.page.keyboard.press('Control+k')
  await expect(lev.page.getByRole('dialog', { name: 'Everything box' })).toBeVisible()
  await expect(lev.page.getByRole('group', { name: 'Capture' })).toHaveCount(0)
  await lev.page.keyboard.press('Escape')
  await expect(lev.page.getByRole('dialog', { name: 'Everything box' })).toBeHidden()
  expect((await ines.caller.open(id)).snapshot.topics.find(one => one.id === 'm')!.meeting).toContainEqual(
    expect.objectContaining({ kind: 'run', step: 1, current: 'i1' }),
  )
  await lev.page.keyboard.press('Escape')
  await expect(lev.page.getByRole('heading', { level: 1, name: /Two offers/ })).toBeVisible()
})

// How twenty clocks agree is computed in app/session/server-clock.test.ts; here it's seen on the screens of three.
for (const count of [3]) {
  test(
    `${count} browsers in one running meeting agree on the clock within a second, whatever their own clocks say`,
    { tag: '@alone' },
    async ({ browser }) => {
      test.setTimeout(600_000)
      const { ines, id } = await staged(browser)
      await openMeeting(ines.page, id)
      await ines.page.getByRole('button', { name: 'Begin', exact: true }).click()
      const pages = [ines.page]
      for (let i = 1; i < count; i++) {
        const other = await visitor(browser, `Guest ${i}`)
        await bringIn(ines.caller, id, other.caller, 'viewer')
        // Clocks that are wrong by up to half an hour either way.
        await other.page.addInitScript(
          `{ const real = Date.now; Date.now = () => real.call(Date) + ${(i % 2 === 0 ? 1 : -1) * i * 90_000} }`,
        )
        await openMeeting(other.page, id)
        await expect(other.page.locator('[data-clock="left"]')).toHaveText(/\d:\d\d/)
        pages.push(other.page)
      }
      // Whole seconds are shown, four times a second: agreement within one second of what each shows, and the drawing's
      // quarter. A busy machine may keep one page from drawing now and then, but clocks that agree do so nearly always.
      const apart: number[] = []
      for (let sample = 0; sample < 24; sample++) {
        const left = await secondsLeft(pages)
        apart.push(Math.max(...left) - Math.min(...left))
        await ines.page.waitForTimeout(250)
      }
      expect(apart.filter(seconds => seconds <= 1.3).length, apart.join()).toBeGreaterThanOrEqual(20)
      await Promise.all(pages.map(page => page.context().close()))
    },
  )
}

test('meetings are listed with how ready they are; a new one begins in a tree of its own or in another', async ({
  browser,
}) => {
  const { ines, id } = await staged(browser)
  const { page } = ines
  await page.goto('/meetings')
  await expect(page.getByRole('link', { name: /Meeting 3/ })).toContainText('to mend')
  await page.getByRole('button', { name: 'New meeting' }).click()
  await page.getByLabel('What it’s called').fill('Opening day')
  await page.getByRole('button', { name: 'Write its brief' }).click()
  await expect(page.getByRole('heading', { name: 'Why we meet' })).toBeVisible()
  await page.goto('/meetings')
  await page.getByRole('button', { name: 'New meeting' }).click()
  await page.getByLabel('What it’s called').fill('Meeting 9')
  await page.getByRole('combobox', { name: 'Where it stands' }).click()
  await page.getByRole('option', { name: 'Move' }).click()
  await page.getByRole('button', { name: 'Write its brief' }).click()
  await expect(page.getByRole('combobox', { name: 'Which meeting' })).toContainText('Meeting 9')
  expect((await ines.caller.open(id)).snapshot.topics.filter(one => one.meeting?.length)).toHaveLength(2)
})

test('how many things a meeting settles, and its inner patterns, are settings of the tree', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Coordination')
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(id, [
    { op: 'add', topic: 'm', parent: centre, order: 'a0', with: { title: 'Meeting 1' } },
    { op: 'put', topic: 'm', set: 'meeting', member: { id: 'why', kind: 'why', text: 'Settle the lift.' } },
    ...['The lift', 'The ramp'].map((text, i) => ({
      op: 'put' as const,
      topic: 'm',
      set: 'meeting' as const,
      member: { id: `must${i}`, kind: 'must' as const, order: `a${i}`, text },
    })),
  ])
  await openTree(page, id)
  await topic(page, /^Meeting 1/).click()
  await page.keyboard.press('j')
  const brief = page.getByRole('region', { name: 'Meeting' })
  for (const part of ['Is it worth meeting?', 'The way there', 'When and who'])
    await expect(page.getByRole('heading', { name: part, level: 2 })).toBeVisible()
  await expect(brief.getByText('To a later meeting', { exact: true })).toHaveCount(0)
  await page.keyboard.press('Control+k')
  await page.keyboard.type('describe and tag')
  await page.keyboard.press('Enter')
  const about = page.getByRole('dialog', { name: 'About this tree' })
  await expect(about.getByLabel('Things one must settle at most')).toHaveValue('4')
  await about.getByLabel('Things one must settle at most').fill('1')
  await about.getByLabel(/^Inner patterns/).fill('What happened, What we learned')
  await page.keyboard.press('Escape')
  await expect(page.getByText('To a later meeting', { exact: true })).toBeVisible()
  await page.getByRole('textbox', { name: 'Next item of the agenda' }).fill('The lift')
  await page.keyboard.press('Enter')
  await page.getByRole('combobox', { name: 'Inner pattern' }).click()
  await page.getByRole('option', { name: 'What happened, What we learned' }).click()
  await expect
    .poll(async () => (await caller.open(id)).snapshot.fields)
    .toMatchObject({ mostMusts: 1, patterns: [['What happened', 'What we learned']] })
})

test('what was to be settled is in sight with its tally, said by hand or by a decision; ending asks about what is open, one key each', async ({
  browser,
}) => {
  const { ines, rana, id } = await staged(browser)
  const { page } = ines
  const must = (key: string, order: string, text: string) => put('m', { id: key, kind: 'must', order, text })
  await ines.caller.edit(id, [
    must('m2', 'a1', 'Which week'),
    must('m3', 'a2', 'Who pays'),
    must('m4', 'a3', 'The old clock'),
    { op: 'put', topic: 'i1', set: 'item', member: { id: 'm1', kind: 'serves' } },
  ])
  await openMeeting(page, id)
  await page.getByRole('button', { name: 'Begin', exact: true }).click()
  await expect(page.getByRole('group', { name: 'Capture' })).toBeVisible()
  await openMeeting(rana.page, id)
  const musts = (of: Page) => of.getByRole('region', { name: 'What must be settled' })
  await expect(musts(page)).toContainText('0 of 4 reached, 4 open')
  // A decision in the item that serves it.
  await page.keyboard.press('d')
  await page.keyboard.type('Two Rivers moves us')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  for (const one of [page, rana.page]) await expect(musts(one)).toContainText('1 of 4 reached, 3 open')
  await expect(musts(rana.page)).toContainText('by “Two Rivers moves us”')
  // By hand, by the other one, with a word of why; a second press leaves it to the decisions again.
  const week = musts(rana.page).getByRole('group', { name: 'Which week' })
  await week.getByRole('button', { name: 'partly reached' }).click()
  await musts(rana.page).getByLabel('Why “Which week” is partly reached').fill('the lift isn’t sure')
  await musts(rana.page).getByLabel('Why “Which week” is partly reached').press('Enter')
  await expect(musts(page)).toContainText('1 of 4 reached, 1 partly, 2 open')
  await expect(musts(page).getByLabel('Why “Which week” is partly reached')).toHaveValue('the lift isn’t sure')
  const firm = musts(page).getByRole('group', { name: 'Which firm' })
  await firm.getByRole('button', { name: 'not reached' }).click()
  await expect(musts(rana.page)).toContainText('0 of 4 reached')
  await firm.getByRole('button', { name: 'not reached' }).click()
  await expect(musts(rana.page)).toContainText('1 of 4 reached')
  // It ends: what is open is asked, without a pause between the keys, and nothing else hears them.
  await page.getByRole('button', { name: 'End the meeting' }).click()
  const box = page.getByRole('dialog', { name: 'Before it ends' })
  await expect(box.getByRole('listitem')).toHaveText([/Who pays/, /The old clock/])
  await page.keyboard.press('Escape')
  await expect(box).toHaveCount(0)
  await page.getByRole('button', { name: 'End the meeting' }).click()
  await expect(box).toBeVisible()
  await page.keyboard.type('31')
  await expect(box).toContainText('All of it is said.')
  await page.keyboard.press('Enter')
  const minutes = page.locator('main')
  await expect(page.getByRole('heading', { name: 'Give it out' })).toBeVisible()
  await expect(minutes).toContainText('Which firm: reached: Two Rivers moves us')
  await expect(minutes).toContainText('Which week: partly reached: the lift isn’t sure')
  await expect(minutes).toContainText('Who pays: not reached')
  await expect(minutes).toContainText('The old clock: reached')
  const document = await page.request.get(
    (await page.getByRole('link', { name: 'Word document' }).getAttribute('href'))!,
  )
  expect((await mammoth.extractRawText({ buffer: await document.body() })).value).toContain(
    'Which week: partly reached: the lift isn’t sure',
  )
  await page.getByRole('tab', { name: 'Series' }).click()
  await expect(page.getByRole('cell', { name: '2 of 4 reached, 1 partly, 1 not' })).toBeVisible()
})
