import { expect, expectTitles, openTree, pasteText, pour, test, topic, tree, two, visitor } from './porch'
import { notice, sheet, topicsOf, saved, withTree } from './trust-stage'

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
    await page.routeWebSocket(/\/live\?as=/, socket => {
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
    await page.routeWebSocket(/\/live\?as=/, socket => {
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
