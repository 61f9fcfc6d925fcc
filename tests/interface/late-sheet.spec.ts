import { add } from '../caller'
import { expect, openTree, test, topic, two, visitor } from './porch'
import { give, measure } from './figures-stage'
import type { Page } from '@playwright/test'

/*
 * The side sheet follows the tree a frame later. On a machine that is busy a frame can be long: what is done to one value twice before
 * the sheet shows the first must not take the first back.
 */

/** Changes fields, or clicks buttons where nothing is said, and no frame comes meanwhile. `where`: what they stand in. */
const atOnce = (page: Page, where: string, ...all: readonly [label: string, said: string][]): Promise<void> =>
  page.evaluate(
    ([where, all]) => {
      const frames = window.requestAnimationFrame
      const held: FrameRequestCallback[] = []
      window.requestAnimationFrame = call => held.push(call)
      for (const [label, said] of all) {
        const field = document.querySelector<HTMLInputElement>(`${where} [aria-label="${label}"]`)!
        if (said === '') field.click()
        else {
          field.value = said
          field.dispatchEvent(new Event('change', { bubbles: true }))
        }
      }
      window.requestAnimationFrame = frames
      for (const call of held) frames.call(window, call)
    },
    [where, all] as const,
  )

test('two steps in the side sheet before it has followed: both count', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  const { snapshot } = await caller.open(id)
  await caller.edit(id, [
    add('lift', snapshot.centre, 'Lift', {
      due: '2027-05-12',
      again: { rule: 'FREQ=WEEKLY;BYDAY=MO', from: '2027-05-12' },
    }),
    add('crates', snapshot.centre, 'Crates'),
    { op: 'put', topic: 'lift', set: 'waits', member: { id: 'w', on: 'crates', kind: 'FS', lag: 0, days: 'working' } },
    measure('cost', 'Cost'),
    give('lift', 'cost', '900'),
  ] as never)
  await openTree(page, id)
  await topic(page, /^Lift/).click()
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  const part = sheet.locator('[data-part="figures"]')
  await part.getByRole('button', { name: 'Over the years …' }).click()
  await expect(part.getByLabel('In the first period')).toBeVisible()
  await expect(sheet.getByLabel('How it waits for Crates')).toBeVisible()
  const steps = (...all: readonly [label: string, said: string][]): Promise<void> => atOnce(page, 'aside.sheet', ...all)
  const now = async () => (await caller.open(id)).snapshot.topics.find(one => one.id === 'lift')!
  await steps(['In the first period', '1,000'], ['How often', 'year'], ['How many periods', '3'])
  const series = async () => (await now()).figures?.find(one => one.measure === 'cost')?.series
  await expect.poll(series).toMatchObject({ start: '1000', each: 'year', count: 3 })
  await expect(part.getByLabel('How many periods')).toHaveValue('3')
  await steps(['The least that Cost may come to', '800'], ['The most that Cost may come to', '1,500'])
  await expect
    .poll(async () => (await now()).figures?.find(one => one.measure === 'cost')?.range)
    .toEqual({ low: '800', high: '1500' })
  await steps(['How it waits for Crates', 'SS'], ['Days after Crates', '2'], ['Which days after Crates', 'calendar'])
  await expect.poll(async () => (await now()).waits?.[0]).toMatchObject({ kind: 'SS', lag: 2, days: 'calendar' })
  await steps(['Thursday', ''], ['Friday', ''], ['Monday', ''])
  await expect.poll(async () => (await now()).again?.rule).toBe('FREQ=WEEKLY;BYDAY=TH,FR')
})

test('two steps in a panel before it has followed: both count', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(id, [
    add('lift', centre, 'Lift'),
    add('crates', centre, 'Crates'),
    add('shelves', centre, 'Shelves'),
  ])
  await openTree(page, id)
  const fields = async () => (await caller.open(id)).snapshot.fields
  const panel = (name: string) => page.getByRole('complementary', { name })

  // Space, along and across.
  await page.getByRole('tree').focus()
  await page.keyboard.press('r')
  const arrange = panel('Arrangement')
  await arrange.getByRole('button', { name: 'Along and across apart' }).click()
  await expect(arrange.getByLabel('Space along')).toBeVisible()
  await atOnce(page, 'aside.panel', ['Space along', '150'], ['Space across', '80'])
  await expect.poll(fields).toMatchObject({ along: 150, across: 80 })
  await page.keyboard.press('Escape')

  // Colours of a look of the tree's own.
  await page.getByRole('tree').focus()
  await page.keyboard.press('c')
  const dress = panel('Colour and style')
  await dress.getByRole('button', { name: 'Whole tree' }).click()
  await dress.getByLabel('Name of the new look').fill('River')
  await dress.getByRole('button', { name: 'Save look' }).click()
  await expect(dress.getByLabel('Look: plank')).toBeVisible()
  await atOnce(
    page,
    'aside.panel',
    ['Look: plank', '#dde6ee'],
    ['Look: ink', '#102030'],
    ['Look: palette colour 2', '#336699'],
  )
  const look = async () => (await fields()).looks?.[0]
  await expect.poll(look).toMatchObject({ name: 'River', plank: '#dde6ee', ink: '#102030' })
  expect((await look())?.hues[1]).toBe('#336699')

  // Steps of presenting.
  for (const name of ['Lift', 'Crates', 'Shelves']) {
    await topic(page, name).click()
    await page.keyboard.press('Control+k')
    await page.keyboard.type('Make it a step of presenting')
    await page.keyboard.press('Enter')
  }
  const order = async () =>
    [...((await fields()).steps ?? [])].sort((a, b) => (a.order < b.order ? -1 : 1)).map(step => step.id)
  await expect.poll(order).toEqual(['lift', 'crates', 'shelves'])
  await page.keyboard.press('Control+k')
  await page.keyboard.type('Steps of presenting')
  await page.keyboard.press('Enter')
  await expect(panel('Steps of presenting').getByRole('button', { name: 'Lift, later' })).toBeVisible()
  await atOnce(page, 'aside.panel', ['Lift, later', ''], ['Lift, later', ''])
  await expect.poll(order).toEqual(['crates', 'shelves', 'lift'])
})

test('the second click of a double one is not for what came under the pointer since the first', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  const { centre } = (await caller.open(id)).snapshot
  const check = (id: string, text: string) => ({ id, order: `a${id}`, text, done: false, due: null, priority: null })
  await caller.edit(id, [
    ...[check('1', 'Measure'), check('2', 'Order'), check('3', 'Fit')].map(member => ({
      op: 'put',
      topic: centre,
      set: 'checks',
      member,
    })),
  ] as never)
  await openTree(page, id)
  await topic(page, 'Move').click()
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  const cross = (name: string) => sheet.getByRole('button', { name: `Remove the line ${name}` })
  const lines = async () => (await caller.open(id)).snapshot.topics.find(one => one.id === centre)!.checks ?? []
  await cross('Measure').hover()
  const box = (await cross('Measure').boundingBox())!
  const middle = [box.x + box.width / 2, box.y + box.height / 2] as const
  await page.mouse.click(...middle)
  await expect(cross('Measure')).toHaveCount(0)
  expect(await page.evaluate(at => document.elementFromPoint(...at)!.closest('button')?.ariaLabel, middle)).toBe(
    'Remove the line Order',
  )
  await page.mouse.down({ clickCount: 2 })
  await page.mouse.up({ clickCount: 2 })
  await cross('Fit').hover()
  await expect.poll(async () => (await lines()).map(({ text }) => text)).toEqual(['Order', 'Fit'])
  // Two clicks on what stays are two; and so are two clicks by a hand that has moved.
  await sheet.getByRole('button', { name: 'Bold' }).dblclick()
  await expect(sheet.getByRole('button', { name: 'Bold' })).toHaveAttribute('aria-pressed', 'false')
  await cross('Order').click()
  await cross('Fit').click()
  await expect.poll(async () => (await lines()).length).toBe(0)
})

test('a picture whose topic somebody takes away while it’s on its way is put nowhere, and that is said', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  const { centre } = (await ines.caller.open(id)).snapshot
  await ines.caller.edit(id, [add('lift', centre, 'Lift')])
  await openTree(page, id)
  await topic(page, 'Lift').click()
  const dot = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg=='
  await page.route('**/pictures', async route => {
    await rana.caller.edit(id, [{ op: 'remove', topic: 'lift' }])
    await expect(topic(page, 'Lift')).toHaveCount(0)
    await route.continue()
  })
  await page
    .getByLabel('Picture from a file')
    .setInputFiles({ name: 'lift.png', mimeType: 'image/png', buffer: Buffer.from(dot, 'base64') })
  await expect(page.getByText('The topic is gone. The picture was put nowhere.')).toBeVisible()
  expect((await ines.caller.open(id)).snapshot.topics.find(one => one.id === 'lift')?.picture ?? null).toBeNull()
})
