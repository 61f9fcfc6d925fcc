import type { Page } from '@playwright/test'
import mammoth from 'mammoth'
import { bodyOf } from '../../core/talk/body'
import { bringIn, newId } from '../caller'
import { expect, openTree, test, topic, tree, visitor } from './porch'
import { COST, give } from './figures-stage'
import { put } from '../meeting-parts'
import { staged, openMeeting, said } from './meeting-stage'

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
  await ines.caller.edit(id, [
    COST,
    give('i1', 'cost', '640'),
    give((await ines.caller.open(id)).snapshot.centre, 'cost', '', { target: '500' }),
  ] as never)
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
  // What the tree came to when the meeting ended stays what it was, whatever comes later.
  await ines.caller.edit(id, [give('i1', 'cost', '12')] as never)
  const came = page.getByRole('table', { name: 'Figures at the end of each meeting' })
  await expect(came.getByRole('row', { name: /Meeting 3/ })).toContainText('640.00 EUR; 140.00 EUR over 500.00 EUR')
})
