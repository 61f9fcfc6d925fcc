import { bringIn, newId } from '../caller'
import { expect, expectTitles, openTree, pasteText, pour, test, topic, tree, two, visitor, type Visitor } from './porch'
import type { Page } from '@playwright/test'
import type { Topic } from '#core/tree'

/* What is typed goes where the eye is, and stays: each of these once went wrong. */

const notice = (page: Page) => page.locator('.offer')
const sheet = (page: Page) => page.getByRole('complementary', { name: 'About the selection' })
async function topicsOf(person: Visitor, id: string): Promise<Map<string, Topic>> {
  return new Map((await person.caller.open(id)).snapshot.topics.map(one => [one.title ?? '', one as Topic]))
}
async function saved(page: Page): Promise<void> {
  await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible()
}
/** A person with an open tree of these topics. */
async function withTree(
  browser: Parameters<typeof visitor>[0],
  titles: readonly string[],
  options: object = {},
): Promise<Visitor & { id: string }> {
  const person = await visitor(browser, 'Ines Brandt', options)
  const id = await person.caller.makeTree('Move')
  await openTree(person.page, id)
  if (titles.length > 0) await pasteText(person.page, { 'text/plain': titles.join('\n') })
  await saved(person.page)
  return { ...person, id }
}

test.describe('the focus', () => {
  test('the label of the second cross-link takes what is typed, as the first did', async ({ browser }) => {
    const ines = await withTree(browser, ['Lift', 'Lamps', 'Doors'])
    const { page } = ines
    await topic(page, 'Lift').click()
    for (const [to, label] of [
      ['Lamps', 'hangs on v and s'],
      ['Doors', 'needs q'],
    ] as const) {
      await page.keyboard.press('x')
      await page.keyboard.type(to)
      await page.keyboard.press('Enter')
      await page.keyboard.type(label)
      await page.keyboard.press('Enter')
    }
    await expect
      .poll(async () => (await topicsOf(ines, ines.id)).get('Lift')?.ties?.map(({ label }) => label))
      .toEqual(['hangs on v and s', 'needs q'])
    await expect(sheet(page)).toBeVisible()
    await expect(tree(page)).toBeFocused()
  })

  test('a button that is pressed by keyboard keeps the focus; one that is clicked leaves it in the tree', async ({
    browser,
  }) => {
    const { page } = await withTree(browser, ['Lift'])
    const zoom = page.getByRole('button', { name: 'Zoom in' })
    await zoom.focus()
    await page.keyboard.press('Enter')
    await expect(zoom).toBeFocused()
    await zoom.click()
    await expect(tree(page)).toBeFocused()
    await sheet(page).getByRole('button', { name: '75 % done' }).click()
    await expect(tree(page)).toBeFocused()
    await page.getByRole('tab', { name: 'Outline' }).click()
    await expect(page.getByRole('tree', { name: 'Outline' })).toBeFocused()
  })

  test('a new tree begins at Enter while its starters are still on their way, and at Enter with one hit', async ({
    browser,
  }) => {
    const { page } = await visitor(browser)
    let answer: () => void = () => {}
    const held = new Promise<void>(done => {
      answer = done
    })
    await page.route('**/api/starters', async route => {
      await held
      await route.fallback()
    })
    await page.goto('/trees')
    await page.getByRole('button', { name: 'New tree' }).click()
    await page.keyboard.type('Fit-out')
    await page.keyboard.press('Enter')
    await expect(topic(page, 'Fit-out')).toBeVisible()
    const late = page.waitForResponse('**/api/starters')
    answer()
    await late
    await page.unroute('**/api/starters')
    await page.goto('/trees')
    await page.getByRole('button', { name: 'New tree' }).click()
    const dialog = page.getByRole('dialog', { name: 'New tree' })
    const name = (await dialog.locator('li b').first().textContent())!
    await dialog.getByLabel('Search starters').fill(name)
    await expect(dialog.locator('li')).toHaveCount(1)
    await page.keyboard.press('Enter')
    await expect(tree(page)).toBeVisible()
  })

  test('from a meeting, dialogs take what is typed and give the keys back to the meeting', async ({ browser }) => {
    const { page } = await withTree(browser, ['Meeting 1'])
    await topic(page, 'Meeting 1').click()
    await page.keyboard.press('Shift+M')
    await expect(page.getByRole('heading', { name: 'Why we meet' })).toBeVisible()
    for (const [command, field] of [
      ['Help', 'Search the help'],
      ['List of keys', 'Which command or key'],
      ['Share', 'Mail addresses'],
    ] as const) {
      await page.keyboard.press('Control+k')
      await page.keyboard.type(command)
      await page.keyboard.press('Enter')
      await page.keyboard.type('zz')
      await expect(page.getByLabel(field)).toHaveValue('zz')
      await page.keyboard.press('Escape')
      await expect(page.locator('[data-home]')).toBeFocused()
    }
    await page.keyboard.press('j')
    await expect(tree(page)).toBeFocused()
  })
})

test.describe('nothing typed is lost', () => {
  test('Esc ends typing: a new topic keeps its text, a changed title goes back and redo brings what was typed', async ({
    browser,
  }) => {
    const { page, caller, id } = await withTree(browser, ['Lift'])
    await topic(page, 'Lift').click()
    await page.keyboard.press('Enter')
    await page.keyboard.type('Lamps // 40%')
    await page.keyboard.press('Escape')
    await expectTitles(caller, id, ['Lift', 'Lamps'])
    await topic(page, 'Lift').click()
    await page.keyboard.press('e')
    await page.keyboard.type('Glass lift')
    await page.keyboard.press('Escape')
    await expectTitles(caller, id, ['Lift', 'Lamps'])
    await page.keyboard.press('Control+Shift+z')
    await expectTitles(caller, id, ['Glass lift', 'Lamps'])
    await page.keyboard.press('Control+z')
    await expectTitles(caller, id, ['Lift', 'Lamps'])
  })

  test('“Undo” in a notice takes back just what it names, over what came later, and goes when that can’t be done', async ({
    browser,
  }) => {
    const ines = await withTree(browser, ['Lift', 'Lamps'])
    const { page, caller, id } = ines
    await topic(page, 'Lift').click()
    await page.keyboard.press('Delete')
    await expect(notice(page)).toContainText('Removed “Lift”')
    await topic(page, 'Lamps').click()
    await page.keyboard.press('d')
    await notice(page).getByRole('button', { name: 'Undo' }).click()
    await expectTitles(caller, id, ['Lift', 'Lamps'])
    expect((await topicsOf(ines, id)).get('Lamps')!.done).toBe(100)
    await topic(page, 'Lift').click()
    await page.keyboard.press('Delete')
    await expect(notice(page).getByRole('button', { name: 'Undo' })).toBeVisible()
    await page.keyboard.press('Control+z')
    await expect(notice(page).getByRole('button', { name: 'Undo' })).toHaveCount(0)
    await expectTitles(caller, id, ['Lift', 'Lamps'])
  })

  test('two changes of one thing in the sheet, in one frame, are both kept', async ({ browser }) => {
    const ines = await withTree(browser, ['Lift'])
    const { page, id } = ines
    const lift = (await topicsOf(ines, id)).get('Lift')!.id
    await ines.caller.edit(id, [
      {
        op: 'put',
        topic: lift,
        set: 'checks',
        member: { id: 'k', order: 'a0', text: 'Measure', done: false, due: null, priority: null },
      },
    ])
    await topic(page, 'Lift').click()
    const line = page.getByRole('textbox', { name: 'Line Measure' })
    await line.fill('Measure twice')
    // The field is left and the box pressed before anything is drawn anew.
    await page.evaluate(() => {
      ;(document.activeElement as HTMLElement).blur()
      document.querySelector<HTMLElement>('.checks .check input[type=checkbox]')!.click()
    })
    await expect
      .poll(async () => (await topicsOf(ines, id)).get('Lift')!.checks)
      .toMatchObject([{ text: 'Measure twice', done: true }])
  })

  test('a checklist that is filled at any pace stands in the order it was typed', async ({ browser }) => {
    const ines = await withTree(browser, ['Lift'])
    const { page, id } = ines
    await topic(page, 'Lift').click()
    await page.keyboard.press('Shift+T')
    const lines = Array.from({ length: 12 }, (_, i) => `Step ${i + 1}`)
    for (const [i, line] of lines.entries()) {
      await page.keyboard.type(line)
      await page.keyboard.press('Enter', { delay: i % 2 === 0 ? 0 : 60 })
    }
    await expect
      .poll(async () =>
        [...((await topicsOf(ines, id)).get('Lift')!.checks ?? [])]
          .sort((a, b) => (a.order < b.order ? -1 : 1))
          .map(({ text }) => text),
      )
      .toEqual(lines)
  })

  test('undo of one’s own topic keeps what somebody has put there since, and says so', async ({ browser }) => {
    const { ines, rana, id } = await two(browser)
    await openTree(ines.page, id)
    await openTree(rana.page, id)
    await pour(ines.page, ['Lift'])
    await topic(rana.page, 'Lift').click()
    await rana.page.keyboard.press('Tab')
    await rana.page.keyboard.type('Shaft')
    await rana.page.keyboard.press('Enter')
    await rana.page.keyboard.press('Escape')
    await expect(topic(ines.page, 'Shaft')).toBeVisible()
    await ines.page.keyboard.press('Control+z')
    await expect(notice(ines.page)).toContainText('“Lift” stays: somebody has put work there since.')
    await expectTitles(ines.caller, id, [['Lift', 'Shaft']])
  })

  test('undo of a move whose old place has gone leaves the branch in sight', async ({ browser }) => {
    const { ines, rana, id } = await two(browser)
    await openTree(ines.page, id)
    await pasteText(ines.page, { 'text/plain': 'Fit-out\n\tLift\nBooks' })
    await openTree(rana.page, id)
    await topic(ines.page, 'Lift').click()
    await ines.page.keyboard.press('g')
    await ines.page.keyboard.type('Books')
    await ines.page.keyboard.press('Enter')
    await expectTitles(ines.caller, id, ['Fit-out', ['Books', 'Lift']])
    await topic(rana.page, 'Fit-out').click()
    await rana.page.keyboard.press('Delete')
    await expect(topic(ines.page, 'Fit-out')).toHaveCount(0)
    await ines.page.keyboard.press('Control+z')
    await expect(notice(ines.page)).toContainText('“Lift” stays where it is: the old place has gone.')
    await expectTitles(ines.caller, id, [['Books', 'Lift']])
  })

  test('what is done right before one leaves is known to the next page; and goes out when the line is late, or the tab was closed', async ({
    browser,
  }) => {
    const ines = await withTree(browser, ['Lift'])
    const { page, context, id } = ines
    const title = page.getByLabel('Title of the tree')
    const rename = async (to: string): Promise<void> => {
      await title.fill(to)
      await title.press('Enter')
      await page.getByRole('link', { name: 'Trees' }).click()
    }
    const centre = async () => (await ines.caller.open(id)).snapshot.topics.find(one => one.parent === null)?.title
    // The answer takes its time: the list waits for it.
    let late = 700
    let held: (() => void)[] | null = null
    await page.routeWebSocket(/\/live$/, socket => {
      const server = socket.connectToServer()
      server.onMessage(text => {
        if (held) held.push(() => socket.send(text))
        else setTimeout(() => socket.send(text), late)
      })
      socket.onMessage(text => {
        setTimeout(() => server.send(text), late)
      })
    })
    await openTree(page, id)
    await rename('Opening day')
    await expect(page.getByRole('link', { name: /Opening day/ })).toBeVisible()
    // The line doesn't stand yet when one leaves again.
    late = 0
    held = []
    await page.goto(`/trees/${id}`)
    await expect(tree(page)).toBeVisible()
    await rename('Opening night')
    await expect(page.getByRole('heading', { name: 'Trees' })).toBeVisible()
    expect(await centre()).toBe('Opening day')
    for (const go of held) go()
    held = null
    await expect.poll(centre).toBe('Opening night')
    // Without a line, and the tab is closed: it goes out from wherever one comes back to.
    await openTree(page, id)
    await context.setOffline(true)
    await title.fill('Opening week')
    await title.press('Enter')
    await expect(page.getByRole('status').filter({ hasText: /^offline, 1 edit waiting$/ })).toBeVisible()
    await page.close()
    await context.setOffline(false)
    const next = await context.newPage()
    await next.goto('/trees')
    await expect.poll(centre).toBe('Opening week')
    // Nothing waits any more.
    await next.getByRole('button', { name: /account/ }).click()
    await next.getByRole('menuitem', { name: 'Sign out', exact: true }).click()
    await expect(next).toHaveURL(/sign-in/)
  })

  test('an edit that is refused for good says what it was, and isn’t sent again', async ({ browser }) => {
    const ines = await withTree(browser, ['Lift'])
    const { page, id } = ines
    let sent = 0
    await page.routeWebSocket(/\/live$/, socket => {
      const server = socket.connectToServer()
      socket.onMessage(text => {
        const message = JSON.parse(String(text)) as { type: string; edit?: { id: string } }
        if (message.type === 'edit') {
          sent++
          socket.send(
            JSON.stringify({ type: 'refused', edit: message.edit!.id, code: 'invalid', message: 'That isn’t a day.' }),
          )
        } else server.send(text)
      })
    })
    await openTree(page, id)
    await topic(page, 'Lift').click()
    await page.keyboard.press('e')
    await page.keyboard.type('Glass lift')
    await page.keyboard.press('Enter')
    await expect(notice(page)).toContainText('Not kept: the title “Glass lift”. That isn’t a day.')
    await expect(topic(page, 'Lift')).toBeVisible()
    expect(sent).toBe(1)
    await openTree(page, id)
    await saved(page)
    expect(sent).toBe(1)
  })

  test('what was begun in a field belongs to its topic: a draft waits there, and a click on another topic doesn’t take it along', async ({
    browser,
  }) => {
    const ines = await withTree(browser, ['Lift', 'Lamps'])
    const { page, id } = ines
    await topic(page, 'Lift').click()
    await sheet(page).getByLabel('Address of a picture').fill('https://lift.example/a.png')
    await sheet(page).getByLabel('Add a link').fill('lift.example')
    await topic(page, 'Lamps').click()
    await expect(sheet(page).getByLabel('Address of a picture')).toHaveValue('')
    await expect(sheet(page).getByLabel('Add a link')).toHaveValue('')
    await topic(page, 'Lift').click()
    await expect(sheet(page).getByLabel('Address of a picture')).toHaveValue('https://lift.example/a.png')
    await expect(sheet(page).getByLabel('Add a link')).toHaveValue('lift.example')
    await sheet(page).getByLabel('Title of the selected topic').fill('Glass lift')
    await topic(page, 'Lamps').click()
    await sheet(page).getByLabel('Length').fill('3')
    await topic(page, 'Glass lift').click()
    await expect
      .poll(async () => [...(await topicsOf(ines, id)).values()].map(one => [one.title, one.duration ?? null]))
      .toEqual([
        ['Move', null],
        ['Glass lift', null],
        ['Lamps', 3],
      ])
  })

  test('by hand from the outline writes no places of a canvas that has gone', async ({ browser }) => {
    const ines = await withTree(browser, ['Lift', 'Lamps'])
    const { page, id } = ines
    await page.keyboard.press('v')
    await page.keyboard.press('Control+k')
    await page.keyboard.type('Arrange the tree: by hand')
    await page.keyboard.press('Enter')
    await expect.poll(async () => (await ines.caller.open(id)).snapshot.fields.arrangement).toBe('hand')
    for (const one of (await topicsOf(ines, id)).values()) expect([one.x ?? null, one.y ?? null]).toEqual([null, null])
  })
})

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
