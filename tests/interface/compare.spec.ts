import { writeFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { expect, openTree, test, topic, two } from './porch'

const entry = (page: Page, name: string) => page.getByRole('article', { name, exact: true })

test('last year’s opening day becomes this year’s, and what was learned goes back; what both changed is asked', async ({
  browser,
}, info) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(id, [
    { op: 'add', topic: 'music', parent: centre, order: 'a0', with: { title: 'Music in the yard' } },
    { op: 'add', topic: 'guests', parent: centre, order: 'a1', with: { title: 'Guests' } },
    { op: 'add', topic: 'chairs', parent: 'guests', order: 'a0', with: { title: 'Chairs', due: '2026-05-12' } },
    { op: 'add', topic: 'band', parent: 'music', order: 'a0', with: { title: 'Brass band' } },
  ])
  const copy = await caller.call<{ id: string }>('POST', `/api/trees/${id}/duplicate`, {
    notes: true,
    people: true,
    dates: true,
    progress: false,
    shift: 364,
    title: 'Opening day, again',
  })
  await caller.edit(copy.data.id, [
    { op: 'set', topic: 'chairs', field: 'title', value: 'Chairs: 40 were too few' },
    { op: 'set', topic: 'band', field: 'title', value: 'Brass band, six of them' },
    { op: 'add', topic: 'lamps', parent: 'guests', order: 'a1', with: { title: 'Lamps for the evening' } },
    { op: 'place', topic: 'band', parent: 'guests', order: 'a2' },
  ])
  await rana.caller.edit(id, [{ op: 'set', topic: 'band', field: 'title', value: 'Strings' }])

  await openTree(page, id)
  await openTree(rana.page, id)
  await topic(page, 'Guests').click()
  // No pause between the steps of the key and what it opens.
  await page.keyboard.press('u')
  await page.keyboard.press('s')
  await page.getByRole('button', { name: /^Opening day, again/ }).click()
  // What was done there since it was copied is chosen already; the days that the copy moved aren't.
  await expect(page.getByRole('button', { name: 'Take over 3' })).toBeEnabled()
  await expect(page.getByRole('checkbox', { name: 'Take over Lamps for the evening' })).toBeChecked()
  const chairs = entry(page, 'Chairs')
  await expect(chairs).toContainText('Chairs: 40 were too few')
  await expect(chairs).toContainText('due date')
  await expect(entry(page, 'Strings')).toContainText('changed on both sides')
  await expect(page.getByRole('status').filter({ hasText: '1 changed on both sides, as here' })).toBeVisible()
  await entry(page, 'Strings')
    .getByRole('group', { name: 'Which title' })
    .getByRole('button', { name: 'as there' })
    .click()
  await expect(page.getByRole('status').filter({ hasText: 'on both sides, as here' })).toHaveCount(0)
  await page.getByLabel('Kind of difference').selectOption('moved')
  await expect(chairs).toHaveCount(0)
  await expect(entry(page, 'Strings')).toBeVisible()
  await page.getByRole('button', { name: 'All', exact: true }).click()

  await page.getByRole('tab', { name: 'Two columns' }).click()
  const table = page.getByRole('table', { name: 'Side by side' })
  await expect(table.getByRole('row').filter({ hasText: 'Lamps for the evening' })).toContainText('only there')
  await expect(table.getByRole('row').filter({ hasText: 'Strings' })).toContainText('moved, changed')
  await page.getByRole('tab', { name: 'Folded into one' }).click()
  await expect(topic(page, /^only there, Lamps for the evening/)).toBeVisible()
  await expect(topic(page, /^moved, Strings/)).toBeVisible()
  // Letters that change a tree change nothing here.
  await topic(page, /Lamps/).click()
  await page.keyboard.press('Delete')
  await expect(topic(page, /^only there, Lamps for the evening/)).toBeVisible()

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    (async () => {
      await page.getByRole('button', { name: 'Save' }).click()
      await page.getByRole('menuitem', { name: 'As Markdown' }).click()
    })(),
  ])
  const saved = info.outputPath('compared.md')
  await download.saveAs(saved)
  const { readFileSync } = await import('node:fs')
  expect(readFileSync(saved, 'utf8')).toContain('**only there** Lamps for the evening')

  await page.getByRole('button', { name: /^Take over/ }).click()
  await expect(topic(page, 'Lamps for the evening')).toBeVisible()
  await expect(topic(page, 'Brass band, six of them')).toBeVisible()
  await expect(page.getByRole('status').filter({ hasText: 'Taken over from' })).toBeVisible()
  await expect(topic(rana.page, 'Lamps for the evening')).toBeVisible()
  const after = (await caller.open(id)).snapshot.topics.find(one => one.id === 'chairs')
  expect(after).toMatchObject({ title: 'Chairs: 40 were too few', due: '2026-05-12' })
  await page.keyboard.press('Control+z')
  await expect(topic(page, 'Strings')).toBeVisible()
  await expect(topic(page, 'Lamps for the evening')).toHaveCount(0)
})

test('what was learned goes back into the starter that a tree began from', async ({ browser }) => {
  const { ines, id } = await two(browser)
  const { page, caller } = ines
  const starter = (
    await caller.call<{ id: string }>('POST', `/api/trees/${id}/duplicate`, {
      notes: true,
      people: true,
      dates: true,
      progress: true,
      shift: 0,
      starter: true,
      title: 'Opening day',
    })
  ).data.id
  const begun = (await caller.call<{ id: string }>('POST', '/api/trees', { starter })).data.id
  const { centre } = (await caller.open(begun)).snapshot
  await caller.edit(begun, [
    { op: 'add', topic: 'lamps', parent: centre, order: 'a1', with: { title: 'Lamps for the evening' } },
  ])
  await openTree(page, begun)
  await page.keyboard.press('u')
  await page.keyboard.press('s')
  await page.getByRole('link', { name: 'Give what was learned here back to Opening day' }).click()
  await page.getByRole('button', { name: 'Take over 1' }).click()
  await expect(topic(page, 'Lamps for the evening')).toBeVisible()
  expect((await caller.open(starter)).snapshot.topics.map(({ title }) => title)).toContain('Lamps for the evening')
})

test('a file that went elsewhere comes back changed; a viewer compares and takes nothing over; a wrecked file is told', async ({
  browser,
}, info) => {
  const { ines, rana, id } = await two(browser)
  const { page, caller } = ines
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(id, [{ op: 'add', topic: 'lift', parent: centre, order: 'a0', with: { title: 'Lift' } }])
  const { data: file } = await caller.call<{ tree: { topics: { id: string; title?: string }[] } }>(
    'GET',
    `/api/trees/${id}/export/json`,
  )
  for (const one of file.tree.topics) if (one.id === 'lift') one.title = 'Lift <script>alert(1)</script>'
  await caller.edit(id, [{ op: 'add', topic: 'ramp', parent: centre, order: 'a1', with: { title: 'Ramp' } }])
  const [good, bad] = [info.outputPath('move.json'), info.outputPath('bad.json')]
  writeFileSync(good, JSON.stringify(file))
  writeFileSync(bad, '{"format":"sun-porch-tree"')

  await page.goto(`/trees/${id}/compare`)
  const field = page.getByLabel('A Sun Porch JSON file')
  await field.setInputFiles(bad)
  await expect(page.getByRole('alert')).toContainText('isn’t JSON')
  await page.getByRole('button', { name: 'Beside something else' }).click()
  await field.setInputFiles(good)
  await expect(entry(page, 'Ramp')).toContainText('only here')
  await expect(page.getByRole('checkbox', { name: 'Take over Ramp' })).not.toBeChecked()
  await page.getByRole('button', { name: 'Take over 1' }).click()
  await expect(topic(page, /^Lift <script>/)).toBeVisible()
  await expect(topic(page, 'Ramp')).toBeVisible()

  await caller.call('PUT', `/api/trees/${id}/members/${rana.caller.id}`, { role: 'viewer' })
  await rana.page.goto(`/trees/${id}/compare?moment=1`)
  await expect(entry(rana.page, 'Ramp')).toContainText('only here')
  await expect(rana.page.getByRole('checkbox')).toHaveCount(0)
  await expect(rana.page.getByRole('button', { name: /^Take over/ })).toHaveCount(0)
})
