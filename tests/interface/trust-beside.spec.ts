import { bringIn, newId } from '../caller'
import { expect, openTree, pasteText, test, topic, tree, visitor } from './porch'
import type { Page } from '@playwright/test'
import type { Topic } from '#core/tree'
import { notice, sheet, topicsOf, withTree } from './trust-stage'

test.describe('days', () => {
  test('the sheet, the filter, the tray and cells read the same words, show what they understood or say that they didn’t', async ({
    browser,
  }) => {
    const ines = await withTree(browser, ['Lift'])
    const { page, id } = ines
    const lift = async (): Promise<Topic> => (await topicsOf(ines, id)).get('Lift')!
    await topic(page, 'Lift').click()
    for (const [field, said, day] of [
      ['Due', '2027-12-11', '2027-12-11'],
      ['Due', '12 May 2027', '2027-05-12'],
      ['Start', '15.12.2027', '2027-12-15'],
      ['Due', 'Dec 15, 2028', '2028-12-15'],
    ] as const) {
      await sheet(page).getByLabel(field, { exact: true }).fill(said)
      await expect(sheet(page).getByRole('status').filter({ hasText: /\d{4}/ })).toBeVisible()
      await sheet(page).getByLabel(field, { exact: true }).press('Enter')
      await expect.poll(async () => (await lift())[field === 'Due' ? 'due' : 'start']).toBe(day)
    }
    for (const said of ['fri', 'in 2 weeks', '7 Dec', 'end of month']) {
      await sheet(page).getByLabel('Due', { exact: true }).fill(said)
      await sheet(page).getByLabel('Due', { exact: true }).press('Enter')
      await expect(sheet(page).getByLabel('Due', { exact: true })).toHaveValue(/^\d{1,2} \w{3,4} \d{4}$/)
    }
    await sheet(page).getByLabel('Due', { exact: true }).fill('last friday')
    await sheet(page).getByLabel('Due', { exact: true }).press('Enter')
    await expect(sheet(page).getByText('“last friday” isn’t a day.')).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(tree(page)).toBeFocused()
    await page.keyboard.press('l')
    await page.keyboard.type('Order lamps // 12 May 2027')
    await page.keyboard.press('Enter')
    await expect.poll(async () => (await topicsOf(ines, id)).get('Order lamps')?.due).toBe('2027-05-12')
    await page.keyboard.press('Escape')
    await page.keyboard.press('Shift+Q')
    await page.getByLabel('Add a condition', { exact: true }).selectOption({ label: 'Due' })
    await page.getByRole('combobox', { name: 'Due' }).selectOption('before')
    await page.getByLabel('Day', { exact: true }).fill('1 June 2027')
    await page.getByLabel('Day', { exact: true }).press('Enter')
    await expect(page.getByText('due before 1 Jun 2027').first()).toBeVisible()
  })

  test('tomorrow is tomorrow also past midnight, in a tab that stayed open', async ({ browser }) => {
    const ines = await visitor(browser, 'Ines Brandt', { timezoneId: 'America/Los_Angeles' })
    const id = await ines.caller.makeTree('Move')
    await ines.page.clock.install({ time: new Date('2027-03-03T23:58:00-08:00') })
    await openTree(ines.page, id)
    const { page } = ines
    await page.keyboard.press('Tab')
    await page.keyboard.type('Lift // tomorrow')
    await page.keyboard.press('Enter')
    await page.keyboard.press('Escape')
    await expect.poll(async () => (await topicsOf(ines, id)).get('Lift')?.due).toBe('2027-03-04')
    await expect(topic(page, /^Lift/)).toContainText('tomorrow')
    await page.clock.fastForward('05:00')
    await expect(topic(page, /^Lift/)).toContainText('today')
    await topic(page, /^Lift/).click()
    await page.keyboard.press('Enter')
    await page.keyboard.type('Lamps // tomorrow, 4 Mar')
    await page.keyboard.press('Enter')
    await page.keyboard.press('Escape')
    await expect.poll(async () => (await topicsOf(ines, id)).get('Lamps')?.due).toBe('2027-03-04')
    await page.keyboard.press('Enter')
    await page.keyboard.type('Doors // tomorrow')
    await page.keyboard.press('Enter')
    await expect.poll(async () => (await topicsOf(ines, id)).get('Doors')?.due).toBe('2027-03-05')
  })
})

test.describe('people', () => {
  test('who joins is named, found and given work in an open browser at once; two of one first name are asked about', async ({
    browser,
  }) => {
    const ines = await withTree(browser, [])
    const { page, id } = ines
    const rana = await visitor(browser, 'Rana Tahiri')
    const other = await visitor(browser, 'Rana Sand')
    await bringIn(ines.caller, id, rana.caller, 'editor')
    await page.keyboard.press('Tab')
    await page.keyboard.type('Lift // Rana')
    await expect(page.getByText('Rana Tahiri', { exact: true })).toBeVisible()
    await page.keyboard.type(' ')
    // Somebody joins while she types: it's asked with no further key.
    await bringIn(ines.caller, id, other.caller, 'viewer')
    await expect(page.getByText('Which Rana?')).toBeVisible()
    await page.getByRole('button', { name: 'Rana Sand' }).click()
    await page.keyboard.press('Enter')
    await page.keyboard.press('Escape')
    await expect.poll(async () => (await topicsOf(ines, id)).get('Lift')?.people).toEqual([other.caller.id])
  })

  test('many addresses are invited at once, listed while they wait, and withdrawn; the rail and Home say so to whom it concerns', async ({
    browser,
  }) => {
    const ines = await withTree(browser, [])
    const rana = await visitor(browser, 'Rana Tahiri')
    const { page } = ines
    const guest = `${newId().toLowerCase()}@porch.example`
    await page.getByRole('button', { name: 'Share' }).click()
    await page.keyboard.type(`Rana <${rana.caller.email}>, ${guest}; nobody`)
    const dialog = page.getByRole('dialog', { name: 'Share' })
    await expect(dialog.getByRole('status')).toContainText('nobody')
    await dialog.getByRole('button', { name: 'Invite 2' }).click()
    const list = dialog.getByRole('list', { name: 'Pending invitations' })
    await expect(list.getByRole('listitem')).toHaveCount(2)
    await expect(list).toContainText('asked by Ines Brandt')
    await expect(dialog.getByLabel('Mail addresses')).toHaveValue('nobody')
    await list.getByRole('button', { name: `Withdraw the invitation to ${guest}` }).click()
    await expect(list.getByRole('listitem')).toHaveCount(1)

    await rana.page.goto('/')
    await expect(rana.page.getByRole('link', { name: 'Letterbox, 1 unread' })).toBeVisible()
    await rana.page.getByRole('link', { name: /Move.*Ines Brandt asks you to take part/ }).click()
    await expect(tree(rana.page)).toBeVisible()
    await expect(dialog.getByText('Rana Tahiri')).toBeVisible()
    await expect(list).toHaveCount(0)
  })

  test('in the brief a name that nobody has yet is a wish; whoever joins with it owns the item', async ({
    browser,
  }) => {
    const ines = await withTree(browser, ['Meeting 1'])
    const { page, id } = ines
    await topic(page, 'Meeting 1').click()
    await page.keyboard.press('Shift+M')
    await page.locator('.items .fresh').fill('Two offers // decide, 20 min, Oskar')
    await page.locator('.items .fresh').press('Enter')
    await expect(page.getByRole('button', { name: 'Waits for Oskar: drop the wish' })).toBeVisible()
    const oskar = await visitor(browser, 'Oskar Moreau')
    await bringIn(ines.caller, id, oskar.caller, 'editor')
    await expect(page.getByRole('combobox', { name: 'Owner of Two offers' })).toHaveText('Oskar Moreau')
    await expect(page.getByRole('button', { name: /^Waits for/ })).toHaveCount(0)
  })
})

test.describe('capture', () => {
  test('quick details in pasted lines work like typed ones', async ({ browser }) => {
    const ines = await withTree(browser, [])
    await pasteText(ines.page, { 'text/plain': 'Lift // 12 May 2027, 40%\n\tShaft // risk, 2,5 days' })
    await expect.poll(async () => (await topicsOf(ines, ines.id)).get('Lift')?.due).toBe('2027-05-12')
    expect((await topicsOf(ines, ines.id)).get('Shaft')).toMatchObject({ markers: ['risk'], duration: 2.5 })
  })

  test('a file that doesn’t say how it’s written is shown before it becomes a tree', async ({ browser }) => {
    const { page } = await visitor(browser)
    await page.goto('/trees')
    const bytes = Buffer.from(
      [...'Umzug\n- B']
        .map(letter => letter.charCodeAt(0))
        .concat(
          0xfc,
          ...[...'cher und M'].map(letter => letter.charCodeAt(0)),
          0xf6,
          ...[...'bel\n'].map(letter => letter.charCodeAt(0)),
        ),
    )
    await page.getByLabel('File to import').setInputFiles({ name: 'umzug.txt', mimeType: 'text/plain', buffer: bytes })
    const dialog = page.getByRole('dialog', { name: /Import/ })
    await expect(dialog.getByRole('list', { name: 'Preview' })).toContainText('Bücher und Möbel')
    await expect(dialog.getByLabel('Encoding of the file')).toBeFocused()
    await dialog.getByLabel('Encoding of the file').selectOption('windows-1251')
    await expect(dialog.getByRole('list', { name: 'Preview' })).not.toContainText('Bücher')
    await dialog.getByLabel('Encoding of the file').selectOption('windows-1252')
    await dialog.getByRole('button', { name: 'Import', exact: true }).click()
    await expect(topic(page, 'Bücher und Möbel')).toBeVisible()
    await expect(notice(page)).toContainText('Read as windows-1252')
  })

  test('a CSV parent that two rows may be is asked about', async ({ browser }) => {
    const { page } = await visitor(browser)
    await page.goto('/trees')
    await page
      .getByLabel('File to import')
      .setInputFiles({
        name: 'plan.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from('title,parent\nA,\nB,\nPaint,A\nPaint,B\nCeiling,Paint\n'),
      })
    await page.getByLabel('Which “Paint”').selectOption({ label: 'row 5, under B' })
    await page.getByRole('button', { name: 'Import', exact: true }).last().click()
    // What comes out is seen first: the ceiling below the second “Paint”.
    const seen = page.getByRole('dialog', { name: '“plan.csv” would be this tree' }).getByRole('listitem')
    await expect(seen).toHaveText(['A', 'Paint', 'B', 'Paint', 'Ceiling'])
    await page.getByRole('button', { name: 'Take it in' }).press('Enter')
    await expect(topic(page, 'Ceiling')).toBeVisible()
  })
})

test.describe('the meeting', () => {
  /** Whatever isn't meant to scroll has stayed where it is. */
  const scrolledAside = (page: Page): Promise<string[]> =>
    page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('*')]
        .filter(element => {
          const { overflowY, overflowX } = getComputedStyle(element)
          return (
            (element.scrollTop !== 0 && !/auto|scroll/.test(overflowY)) ||
            (element.scrollLeft !== 0 && !/auto|scroll/.test(overflowX))
          )
        })
        .map(element => `${element.tagName}.${element.className}`),
    )

  test('a click on a finding leads to its field and scrolls nothing but the pane it stands in', async ({ browser }) => {
    const { page } = await withTree(browser, ['Meeting 1'])
    await page.setViewportSize({ width: 1000, height: 500 })
    await topic(page, 'Meeting 1').click()
    await page.keyboard.press('Shift+M')
    const findings = page.getByRole('button', { name: /can mend it/ })
    await expect(findings.first()).toBeVisible()
    for (let i = 0; i < (await findings.count()); i++) {
      await findings.nth(i).click()
      expect(await scrolledAside(page)).toEqual([])
      await expect(page.getByRole('tablist', { name: 'Parts of the meeting' })).toBeInViewport()
    }
  })

  test('what stands outside of the page for a moment doesn’t let the page be scrolled away', async ({ browser }) => {
    const { page } = await withTree(browser, ['Lift'])
    await page.evaluate(() => {
      const box = document.createElement('div')
      box.style.cssText = 'position: absolute; top: 1500px; left: 0; width: 10px; height: 10px'
      document.body.append(box)
      box.scrollIntoView()
    })
    await expect.poll(() => page.evaluate(() => window.scrollY)).toBe(0)
    await expect(page.getByRole('textbox', { name: 'Title of the tree' })).toBeInViewport()
  })

  test('what stands far down in a pane belongs to the pane: the page has nothing to scroll', async ({ browser }) => {
    const { page } = await withTree(browser, ['Lift'])
    await topic(page, 'Lift').click()
    await page.setViewportSize({ width: 1280, height: 560 })
    const field = page.locator('.side input[type=file]').last()
    await expect(field).toBeAttached()
    const box = (await field.boundingBox())!
    expect(box.y + box.height, 'the field is under the fold').toBeGreaterThan(560)
    const room = await page.evaluate(() => [document.documentElement.scrollHeight, innerHeight])
    expect(room[0]).toBe(room[1])
    // What would scroll a page that has more than one sees, at once and not only until a listener has put it back.
    expect(
      await page.evaluate(() => {
        scrollTo(0, 10_000)
        return scrollY
      }),
    ).toBe(0)
  })

  test('“Next” at the last item offers to end; the letters are seen before they go', async ({ browser }) => {
    const ines = await withTree(browser, [])
    const { page, caller, id } = ines
    const { snapshot } = await caller.open(id)
    await caller.edit(id, [
      {
        op: 'add',
        topic: 'm',
        parent: snapshot.centre,
        order: 'a0',
        with: {
          title: 'Meeting 1',
          meeting: [
            { id: 'begins', kind: 'begins', day: '2027-03-02', time: '10:00', zone: 'UTC' },
            { id: 'p1', kind: 'person', user: caller.id, mail: null, name: '', needed: true, role: 'chair' },
          ],
        },
      },
      ...['Lift', 'Lamps'].map((title, i) => ({
        op: 'add' as const,
        topic: `i${i}`,
        parent: 'm',
        order: `a${i}`,
        with: { title, item: [{ id: 'minutes' as const, kind: 'minutes' as const, minutes: 10 }] },
      })),
    ])
    await topic(page, 'Meeting 1').click()
    await page.keyboard.press('j')
    await page.getByRole('button', { name: 'Begin', exact: true }).click()
    await expect(page.getByRole('heading', { name: 'Lift' })).toBeVisible()
    await page.keyboard.press('PageDown')
    await expect(page.getByRole('heading', { name: 'Lamps' })).toBeVisible()
    await page.keyboard.press('PageDown')
    await notice(page).getByRole('button', { name: 'End the meeting' }).click()
    await expect(page.getByRole('heading', { name: 'Meeting 1' })).toBeVisible()
    await page.keyboard.press('Control+k')
    await page.keyboard.type('Mail the minutes')
    await page.keyboard.press('Enter')
    const dialog = page.getByRole('dialog', { name: 'The minutes as letters' })
    await expect(dialog).toContainText(`Ines Brandt <${caller.email}>`)
    await expect(dialog.frameLocator('iframe').getByRole('heading', { name: 'Meeting 1' })).toBeVisible()
    expect((await caller.call<object[]>('GET', '/api/letters')).data).toHaveLength(0)
    await dialog.getByRole('button', { name: 'Send it' }).click()
    await expect.poll(async () => (await caller.call<object[]>('GET', '/api/letters')).data.length).toBe(1)
  })

  test('the help has no raw placeholders', async ({ browser }) => {
    const { page } = await withTree(browser, [])
    await page.keyboard.press('h')
    const help = page.getByRole('dialog', { name: 'Help' })
    const pages = help.getByRole('navigation', { name: 'Help pages' }).getByRole('button')
    await expect(pages.first()).toBeVisible()
    for (const one of await pages.all()) {
      await one.click()
      expect(await help.locator('article').textContent()).not.toMatch(/\{[\w-]*\}/)
    }
  })
})
