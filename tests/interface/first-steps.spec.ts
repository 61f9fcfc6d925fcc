import { expect, openTree, test, topic, tree, type Visitor, visitor } from './porch'

const card = (page: Visitor['page']) => page.getByRole('complementary', { name: 'First steps' })
const step = (page: Visitor['page']) => card(page).getByRole('heading', { level: 3 })

/** A key as the card names it, as the browser is told of it. */
const pressable = (said: string): string =>
  said
    .replace('Ctrl', 'Control')
    .replace(/ ?\+ ?/g, '+')
    .replace('↑', 'ArrowUp')
    .replace('↓', 'ArrowDown')
    .replace('→', 'ArrowRight')
    .replace('←', 'ArrowLeft')
    .replace(/^Esc$/, 'Escape')
/** The keys that the card shows just now, and nothing else is known of. */
const keys = async (page: Visitor['page']): Promise<string[]> =>
  (await card(page).locator('.words kbd').allTextContents()).map(pressable)

test('a newcomer makes a first tree of fifteen topics with a marker and a date within three minutes, by the keys the card shows', async ({
  browser,
}) => {
  const began = Date.now()
  const ines = await visitor(browser)
  const { page } = ines
  await page.goto('/trees')
  await page.getByRole('button', { name: 'First steps' }).click()
  await expect(step(page)).toHaveText('Name it')
  // As somebody types who looks at the screen: nine characters a second.
  const type = (text: string) => page.keyboard.type(text, { delay: 110 })
  let [first, second, third] = await keys(page)
  await page.keyboard.press(first!)
  await type('Move to the tannery')
  await page.keyboard.press(second!)
  await expect(step(page)).toHaveText('Pour out')
  ;[first, second, third] = await keys(page)
  await page.keyboard.press(first!)
  for (const [i, title] of ['Fit-out', 'Books', 'People', 'Opening day'].entries()) {
    if (i > 0) await page.keyboard.press(second!)
    await type(title)
  }
  await page.keyboard.press(third!)
  await expect(step(page)).toHaveText('Nest')
  ;[first, second] = await keys(page)
  await page.keyboard.press(first!)
  await type('Cake')
  await page.keyboard.press('Enter')
  await type('Speeches')
  await page.keyboard.press(second!)
  await expect(step(page)).toHaveText('Move')
  ;[first] = await keys(page)
  await page.keyboard.press(first!)
  await expect(step(page)).toHaveText('Mark')
  ;[first, second, third] = await keys(page)
  await page.keyboard.press(first!)
  await type('decis')
  await page.keyboard.press(second!)
  await page.keyboard.press(third!)
  await expect(step(page)).toHaveText('Give it to somebody')
  ;[first, second] = await keys(page)
  await page.keyboard.press(first!)
  await page.keyboard.press('End')
  await type(' // ines, fri')
  await page.keyboard.press(second!)
  await expect(step(page)).toHaveText('Take it back')
  ;[first, second] = await keys(page)
  await page.keyboard.press(first!)
  await expect(step(page)).toHaveText('That’s how it goes')
  await page.keyboard.press(second!)
  // Nothing more was told, and the rest pours out.
  await page.keyboard.press('Tab')
  for (const [i, title] of ['Tables', 'Cups', 'Music', 'Ramp', 'Press', 'Keys', 'Signs', 'Thanks'].entries()) {
    if (i > 0) await page.keyboard.press('Enter')
    await type(title)
  }
  await page.keyboard.press('Escape')
  const id = /trees\/([\w-]+)/.exec(page.url())![1]!
  await expect.poll(async () => (await ines.caller.open(id)).snapshot.topics.length).toBeGreaterThanOrEqual(15)
  const { topics } = (await ines.caller.open(id)).snapshot
  expect(topics.filter(one => one.markers?.includes('decision'))).toHaveLength(1)
  expect(topics.filter(one => one.due)).toHaveLength(1)
  expect(Date.now() - began).toBeLessThan(180_000)
})

test('the first steps are left and taken up again, a step is skipped, and what another way did counts', async ({
  browser,
}) => {
  const ines = await visitor(browser)
  const { page, caller } = ines
  await page.goto('/trees')
  await page.getByRole('button', { name: 'First steps' }).click()
  await expect(step(page)).toHaveText('Name it')
  await card(page).getByRole('button', { name: 'Skip this one' }).click()
  await expect(step(page)).toHaveText('Pour out')
  // A click on the card leaves the keys in the tree.
  await expect(tree(page)).toBeFocused()
  await card(page).getByRole('button', { name: 'Leave the first steps for now' }).click()
  await expect(card(page)).toHaveCount(0)
  await page.goto('/trees')
  await page.getByRole('link', { name: 'Go on with the first steps' }).click()
  await expect(step(page)).toHaveText('Pour out')
  // Poured out from elsewhere: the tree shows it.
  const id = /trees\/([\w-]+)/.exec(page.url())![1]!
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(
    id,
    ['a', 'b', 'd'].map((topic, i) => ({
      op: 'add' as const,
      topic,
      parent: centre,
      order: `a${i}`,
      with: { title: topic },
    })),
  )
  await expect(step(page)).toHaveText('Nest')
  // Another tree is another beginning.
  const other = await caller.makeTree('Other')
  await openTree(page, other)
  await expect(card(page)).toHaveCount(0)
})

test('one press shows the ten keys that matter, and hides them; they are the person’s own', async ({ browser }) => {
  const ines = await visitor(browser)
  const id = await ines.caller.makeTree('Move')
  const { page } = ines
  await openTree(page, id)
  const ten = page.getByRole('complementary', { name: 'Ten keys that matter' })
  await page.keyboard.press(',')
  await expect(ten.getByRole('definition')).toHaveCount(10)
  await page.keyboard.press('Tab')
  await page.keyboard.type('Rooms')
  await page.keyboard.press('Escape')
  await expect(topic(page, 'Rooms')).toBeVisible()
  await page.keyboard.press(',')
  await expect(ten).toHaveCount(0)
})

for (const width of [390, 820])
  test(`the first steps by touch, by nothing but the buttons that the card names (${width})`, async ({ browser }) => {
    const { page, caller } = await visitor(browser, 'Ines Brandt', {
      viewport: { width, height: width < 700 ? 844 : 1100 },
      hasTouch: true,
      isMobile: true,
    })
    await page.goto('/trees')
    await page.getByRole('button', { name: 'First steps' }).tap()
    const bar = page.getByRole('toolbar', { name: 'The selected topic' })
    /** The buttons by the words that the card shows. */
    const named = async (): Promise<string[]> => card(page).locator('.words kbd').allTextContents()
    const press = (word: string | undefined) =>
      bar
        .getByRole('button')
        .filter({ hasText: new RegExp(`^${word}$`) })
        .tap()
    const row = (title: string) => page.getByRole('treeitem').filter({ hasText: title }).first()

    await expect(step(page)).toHaveText('Name it')
    let [first, second, third] = await named()
    await page.getByRole('treeitem').first().tap()
    await press(first)
    await page.keyboard.press('Control+a')
    await page.keyboard.type('Move to the tannery')
    await press(second)
    await expect(step(page)).toHaveText('Pour out')
    ;[first, second, third] = await named()
    await press(first)
    await page.keyboard.type('Fit-out')
    await press(second)
    await page.keyboard.type('Books')
    await press(second)
    await page.keyboard.type('People')
    await press(third)
    await expect(step(page)).toHaveText('Nest')
    ;[first, second] = await named()
    await row('Fit-out').tap()
    await press(first)
    await page.keyboard.type('Lift')
    await press(second)
    await expect(step(page)).toHaveText('Move')
    ;[first, second, third] = await named()
    await row('Books').tap()
    await press(second)
    await expect(step(page)).toHaveText('Mark')
    ;[first] = await named()
    await row('Books').tap()
    await press(first)
    const markers = page.getByRole('complementary', { name: 'Markers' })
    await markers.getByRole('button', { name: 'Decision', exact: true }).first().tap()
    await expect(step(page)).toHaveText('Give it to somebody')
    await markers
      .getByRole('button', { name: /^Close/ })
      .first()
      .tap()
    ;[first, second] = await named()
    await row('Books').tap()
    await press(first)
    await page.keyboard.press('End')
    await page.keyboard.type(' // ines, fri')
    await press(second)
    await expect(step(page)).toHaveText('Take it back')
    ;[first] = await named()
    await page.getByRole('button', { name: first!, exact: true }).first().tap()
    await expect(step(page)).toHaveText('That’s how it goes')
    const id = /trees\/([\w-]+)/.exec(page.url())![1]!
    const { topics } = (await caller.open(id)).snapshot
    expect(topics.map(({ title }) => title)).toEqual(expect.arrayContaining(['Move to the tannery', 'Books', 'Lift']))
    expect(topics.filter(one => one.markers?.includes('decision'))).toHaveLength(1)
  })
