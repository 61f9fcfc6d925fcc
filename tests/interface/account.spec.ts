import { Secret, TOTP } from 'otpauth'
import { bringIn, Caller, newId, signUp } from '../caller'
import { browserFor, expect, houseUrl, test, topic } from './porch'

test.describe('one’s account', () => {
  test('a name and a picture are one’s own at once, and others see both', async ({ browser }) => {
    const ines = await signUp(houseUrl())
    const { page } = await browserFor(browser, ines, houseUrl())
    await page.goto('/')
    await page.getByRole('button', { name: /: account/ }).click()
    await page.getByRole('menuitem', { name: 'Your account' }).click()
    await expect(page.getByRole('heading', { name: 'Your account' })).toBeVisible()
    const you = page.getByRole('region', { name: 'You' })
    await you.getByLabel('Name').fill('Ines Brandt-Okafor')
    await page.keyboard.press('Enter')
    await expect(you.getByText('Kept.')).toBeVisible()
    const dot = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg=='
    await you
      .locator('input[type=file]')
      .setInputFiles({ name: 'me.png', mimeType: 'image/png', buffer: Buffer.from(dot, 'base64') })
    await expect(page.getByRole('navigation').locator('.face img')).toBeVisible()
    expect((await ines.call<{ name: string }>('GET', '/api/me')).data.name).toBe('Ines Brandt-Okafor')
    // Beside the tree of both, where the other one is.
    const rana = await signUp(houseUrl(), 'Rana Tahiri')
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'editor')
    const other = await browserFor(browser, rana, houseUrl())
    await page.goto(`/trees/${tree}`)
    await other.page.goto(`/trees/${tree}`)
    const here = other.page.getByRole('group', { name: 'Who is here' })
    await expect(here.getByRole('button', { name: 'Ines Brandt-Okafor is here' }).locator('img')).toBeVisible()
    await expect(here.getByRole('button', { name: 'Rana Tahiri, you' })).toContainText('RT')
    // On the planks of what is theirs, in the place that the initials keep: nobody's plank changes its size for it.
    const { centre } = (await ines.open(tree)).snapshot
    const add = (id: string, order: string, ...people: string[]) => ({
      ...{ op: 'add' as const, topic: id, parent: centre, order },
      with: { title: `Task ${id}`, people },
    })
    await ines.edit(tree, [add('a', 'a0', ines.id, rana.id), add('b', 'a1', rana.id)])
    const mine = topic(other.page, /^Task a/)
    await expect(mine.locator('.people img')).toHaveCount(1)
    await expect(mine.locator('.people')).toHaveText('IB RT')
    await expect(topic(other.page, /^Task b/).locator('.people img')).toHaveCount(0)
    const widthOf = (one: typeof mine) => one.evaluate(plank => (plank as HTMLElement).offsetWidth)
    const withPicture = await widthOf(mine)
    const radius = () => mine.locator('.people .face').evaluate(face => getComputedStyle(face).borderTopLeftRadius)
    expect(await radius()).toBe('50%')
    // Cut square, and then taken away.
    await page.goto('/account')
    await you.getByRole('group', { name: 'How your picture is cut' }).getByRole('button', { name: 'Square' }).click()
    await expect(you.getByText('Kept.')).toBeVisible()
    await other.page.reload()
    await expect.poll(radius).toBe('14%')
    await you.getByRole('button', { name: 'Take it away' }).click()
    await expect(you.getByText('Taken away.')).toBeVisible()
    await other.page.reload()
    await expect(mine).toBeVisible()
    await expect(mine.locator('.people img')).toHaveCount(0)
    expect(await widthOf(mine)).toBe(withPicture)
  })

  test('a second factor is turned on, and asked for when one comes again', async ({ browser }) => {
    const ines = await signUp(houseUrl())
    const { page } = await browserFor(browser, ines, houseUrl())
    await page.goto('/account')
    const part = page.getByRole('region', { name: 'Second factor' })
    await part.getByLabel('Your password').fill('a long enough one')
    await part.getByRole('button', { name: 'Begin' }).click()
    await expect(part.getByRole('img', { name: /square/ })).toBeVisible()
    const secret = (await part.locator('.secret').textContent())!.trim()
    const totp = new TOTP({ secret: Secret.fromBase32(secret) })
    await part.getByLabel('The code that it shows').fill(totp.generate())
    await page.keyboard.press('Enter')
    await expect(part.locator('.codes li')).toHaveCount(10)
    const recovery = (await part.locator('.codes li').first().textContent())!.trim()

    await page.getByRole('button', { name: /: account/ }).click()
    await page.getByRole('menuitem', { name: 'Sign out', exact: true }).click()
    await page.getByRole('textbox', { name: 'Mail address' }).fill(ines.email)
    await page.getByRole('textbox', { name: 'Password' }).fill('a long enough one')
    await page.keyboard.press('Enter')
    // The code’s field has the focus: what is typed next goes there.
    await expect(page.getByLabel('Code from your authenticator')).toBeFocused()
    await page.keyboard.type(recovery)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('navigation', { name: 'Main' })).toBeVisible()
  })

  for (const way of ['signed out', 'was signed out elsewhere'])
    test(`who signs in after somebody else, in the same tab, finds nothing of theirs: who ${way}`, async ({
      browser,
    }) => {
      const ines = await signUp(houseUrl())
      const rana = await signUp(houseUrl(), 'Rana Tahiri')
      const id = await ines.makeTree('Move')
      await bringIn(ines, id, rana, 'editor')
      await ines.call('PUT', `/api/groups/${newId()}`, { name: 'Board', who: [rana.email], shared: {} })
      const { page } = await browserFor(browser, ines, houseUrl())
      await page.goto(`/trees/${id}`)
      const sheet = page.getByRole('complementary', { name: 'About the selection' })
      const line = sheet.getByRole('textbox', { name: 'New line of the checklist' })
      await topic(page, 'Move').click()
      await line.fill('What nobody else is to read')
      await sheet.getByRole('button', { name: 'Add a person' }).click()
      await expect(page.getByRole('button', { name: 'Everybody in Board' })).toBeVisible()
      await page.keyboard.press('Escape')

      if (way === 'signed out') {
        await page.getByRole('button', { name: /: account/ }).click()
        await page.getByRole('menuitem', { name: 'Sign out', exact: true }).click()
      } else {
        await ines.call('POST', '/api/sign-out-everywhere')
        await page.getByRole('button', { name: 'Sign in again' }).click()
      }
      await page.getByRole('textbox', { name: 'Mail address' }).fill(rana.email)
      await page.getByRole('textbox', { name: 'Password' }).fill('a long enough one')
      await page.keyboard.press('Enter')
      await expect(page.getByRole('navigation', { name: 'Main' })).toBeVisible()
      // What is remembered shows, though nothing new can be fetched. The page was not opened anew meanwhile.
      await page.route('**/api/groups', route => route.abort())
      await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: 'Trees' }).click()
      await page.getByRole('link', { name: /Move/ }).first().click()
      await topic(page, 'Move').click()
      await expect(line).toHaveValue('')
      await sheet.getByRole('button', { name: 'Add a person' }).click()
      await expect(page.getByRole('group', { name: 'People' })).toBeVisible()
      await expect(page.getByRole('button', { name: 'Everybody in Board' })).toHaveCount(0)
    })

  test('a token is shown once and works; withdrawn it doesn’t', async ({ browser }) => {
    const ines = await signUp(houseUrl())
    const { page } = await browserFor(browser, ines, houseUrl())
    await page.goto('/account')
    const part = page.getByRole('region', { name: 'Access tokens' })
    await part.getByLabel('What it’s for').fill('Budget report')
    await page.keyboard.press('Enter')
    const token = (await part.locator('.made code').textContent())!.trim()
    const script = new Caller(houseUrl())
    const ask = () => script.call('GET', '/api/trees', undefined, { authorization: `Bearer ${token}` })
    expect((await ask()).status).toBe(200)
    await part.getByRole('button', { name: 'Withdraw' }).click()
    await expect(part.getByText('Budget report')).toBeHidden()
    expect((await ask()).status).toBe(401)
  })

  test('signing out wipes what the browser kept, and asks first when edits wait', async ({ browser }) => {
    const ines = await signUp(houseUrl())
    const tree = await ines.makeTree('Shelves')
    const { page } = await browserFor(browser, ines, houseUrl())
    await page.goto(`/trees/${tree}`)
    await expect(page.getByRole('tree')).toBeFocused()
    await page.context().setOffline(true)
    await page.keyboard.press('Tab')
    await page.keyboard.type('Lift')
    await page.keyboard.press('Enter')
    const kept = (): Promise<number> =>
      page.evaluate(
        () =>
          new Promise<number>(done => {
            const asked = indexedDB.open('sun-porch')
            asked.onsuccess = () => {
              const tx = asked.result.transaction(['waiting', 'trees'])
              const counts = ['waiting', 'trees'].map(name => tx.objectStore(name).count())
              tx.oncomplete = () => {
                asked.result.close()
                done(counts.reduce((sum, one) => sum + one.result, 0))
              }
            }
          }),
      )
    await expect.poll(kept).toBeGreaterThan(0)
    await page.getByRole('button', { name: /: account/ }).click()
    await page.getByRole('menuitem', { name: 'Sign out', exact: true }).click()
    const dialog = page.getByRole('dialog', { name: 'Sign out?' })
    await expect(dialog).toContainText('wait')
    await dialog.getByRole('button', { name: /Stay/ }).click()
    await page.context().setOffline(false)
    await expect.poll(async () => (await ines.open(tree)).snapshot.topics.length, { timeout: 20_000 }).toBe(2)
    await page.getByRole('button', { name: /: account/ }).click()
    await page.getByRole('menuitem', { name: 'Sign out', exact: true }).click()
    await expect(page.getByRole('textbox', { name: 'Mail address' })).toBeVisible()
    expect(await kept()).toBe(0)
    expect(await page.evaluate(() => Object.keys(localStorage).filter(key => key !== 'theme'))).toEqual([])
  })

  test('whoever owns a tree sees who was let in, and takes a text out for good', async ({ browser }) => {
    const [ines, rana] = [await signUp(houseUrl()), await signUp(houseUrl(), 'Rana Tahiri')]
    const tree = await ines.makeTree('Shelves')
    await bringIn(ines, tree, rana, 'editor')
    const { centre } = (await ines.open(tree)).snapshot
    await ines.edit(tree, [
      { op: 'add', topic: newId(), parent: centre, order: 'a0', with: { title: 'Code 4711-tan' } },
    ])
    const { page } = await browserFor(browser, ines, houseUrl())
    await page.goto(`/trees/${tree}`)
    await expect(page.getByRole('tree')).toBeFocused()
    await page.getByRole('button', { name: 'Share' }).click()
    await page.getByText('Who was let in and out').click()
    await expect(page.getByRole('list', { name: 'Access log' })).toContainText('Rana Tahiri came in, as editor')
    await page.getByText('Take a text out for good').click()
    await page.getByLabel('The text, letter by letter').fill('4711-tan')
    await page.getByRole('button', { name: 'Take it out …' }).click()
    await page.getByRole('button', { name: 'Yes, for good' }).click()
    await expect(page.getByText(/for good\.$/)).toBeVisible()
    // This very page takes the tree anew.
    await page.keyboard.press('Escape')
    await expect(page.getByRole('tree').getByText('Code ▮▮▮')).toBeVisible()
    expect(JSON.stringify((await rana.open(tree)).snapshot)).not.toContain('4711-tan')
  })

  test('somebody comes in by their organisation, turns back once, and sets a password', async ({ browser }) => {
    const page = await (await browser.newContext()).newPage()
    await page.goto(`${houseUrl()}/sign-in?then=/work`)
    const link = page.getByRole('link', { name: 'Sign in with the town’s offices' })
    await link.click()
    // The organisation's own page.
    await page.getByRole('button', { name: 'Turn back' }).click()
    await expect(page.getByRole('alert')).toContainText('That sign-in was left')
    await link.click()
    await page.getByRole('button', { name: /Ida Quist/ }).click()
    await expect(page.getByRole('alert')).toContainText('doesn’t vouch')
    // They know somebody by now, and ask again who it is.
    await link.focus()
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: /Leonie Achterberg/ }).click()
    await expect(page).toHaveURL(`${houseUrl()}/work`)
    await page.goto(`${houseUrl()}/account`)
    const part = page.getByRole('region', { name: 'Organisation' })
    await expect(part).toContainText('The sign-in of the town’s offices opens this account.')
    await expect(part.getByRole('button', { name: 'Don’t open it that way any more' })).toBeDisabled()
    const password = page.getByRole('region', { name: 'Password' })
    await password.getByRole('button', { name: 'Write me a letter that sets one' }).click()
    await expect(password.getByText('A letter is on its way to leonie.achterberg@town.example')).toBeVisible()
  })

  test('an account is deleted after each of its trees was asked about', async ({ browser }) => {
    const [ines, rana] = [await signUp(houseUrl()), await signUp(houseUrl(), 'Rana Tahiri')]
    const tree = await ines.makeTree('Shelves')
    await bringIn(ines, tree, rana, 'viewer')
    const { page } = await browserFor(browser, ines, houseUrl())
    await page.goto('/account')
    await page.getByRole('button', { name: /Delete my account/ }).click()
    const dialog = page.getByRole('dialog', { name: 'Delete the account' })
    await expect(dialog).toContainText('goes to Rana Tahiri')
    await dialog.getByLabel('Your password').fill('a long enough one')
    await dialog.getByRole('button', { name: 'Delete for good' }).click()
    await expect(page.getByRole('textbox', { name: 'Mail address' })).toBeVisible()
    expect((await rana.open(tree)).role).toBe('owner')
  })
})
