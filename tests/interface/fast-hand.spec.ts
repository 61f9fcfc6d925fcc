import { expect, openTree, pour, test, topic, visitor } from './porch'
import type { Topic } from '#core/tree'

/**
 * The fast hand: forty topics with details, labels, checklists, notes and markers, with no delay between keys, in the
 * canvas and the outline, wherever the person is. Nothing is lost and nothing is misplaced.
 */
const PLACES = [
  { view: 'canvas', locale: 'en-GB', timezoneId: 'Pacific/Kiritimati' },
  { view: 'outline', locale: 'de-DE', timezoneId: 'America/Los_Angeles' },
  { view: 'outline', locale: 'en-GB', timezoneId: 'Europe/Copenhagen' },
  { view: 'canvas', locale: 'de-DE', timezoneId: 'Europe/Copenhagen' },
] as const
const TOPICS = 40
const DRESSED = 6

for (const { view, locale, timezoneId } of PLACES) {
  test(`the fast hand in the ${view}, ${locale}, ${timezoneId}`, async ({ browser }) => {
    const { page, caller, context } = await visitor(browser, 'Ines Brandt', { locale, timezoneId })
    const id = await caller.makeTree('Move')
    await openTree(page, id)
    const { press, type } = {
      press: (chord: string) => page.keyboard.press(chord),
      type: (text: string) => page.keyboard.type(text),
    }
    if (view === 'outline') await press('v')
    await press('Tab')
    for (let i = 1; i <= TOPICS; i++) {
      await type(
        `Topic ${i} // ${locale === 'de-DE' ? '15. Dez 2027' : '15 Dec 2027'}, ${i}%, ${locale === 'de-DE' ? '2,5 Tage' : '2.5 days'}, risk, Ines`,
      )
      await press('Enter')
    }
    await press('Escape')
    await press('Home')
    for (let i = 1; i <= DRESSED; i++) {
      await press('n')
      await type(`A note of ${i}, with v and s and q.`)
      await press('Escape')
      await press('Shift+T')
      for (const step of ['first', 'second', 'third']) {
        await type(`${step} of ${i}`)
        await press('Enter')
      }
      await press('Escape')
      await press('m')
      await type('question')
      await press('Enter')
      await press('Escape')
      await press('Escape')
      await press('x')
      await type(`Topic ${TOPICS - i}`)
      await press('Enter')
      await type(`label ${i}`)
      await press('Enter')
      await press('Home')
      for (let down = 0; down < i; down++) await press('ArrowDown')
    }
    // Keys that wait for a panel to be there are done after the last press: the last thing that was typed tells when all are.
    const open = async () => (await caller.open(id)).snapshot.topics as readonly Partial<Topic>[]
    await expect
      .poll(async () =>
        (await open()).find(({ title }) => title === `Topic ${DRESSED}`)?.ties?.map(({ label }) => label),
      )
      .toEqual([`label ${DRESSED}`])
    await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible()
    const topics = await open()
    expect(
      topics
        .filter(one => one.parent != null)
        .sort((a, b) => (a.order! < b.order! ? -1 : 1))
        .map(one => one.title),
    ).toEqual(Array.from({ length: TOPICS }, (_, i) => `Topic ${i + 1}`))
    const named = new Map(topics.map(one => [one.title, one]))
    for (let i = 1; i <= TOPICS; i++)
      expect(named.get(`Topic ${i}`)).toMatchObject({ due: '2027-12-15', done: i, duration: 2.5, people: [caller.id] })
    const notes = (await caller.call<string>('GET', `/api/trees/${id}/export/markdown`)).data
    for (let i = 1; i <= DRESSED; i++) {
      const one = named.get(`Topic ${i}`)!
      expect([...one.checks!].sort((a, b) => (a.order < b.order ? -1 : 1)).map(({ text }) => text)).toEqual([
        `first of ${i}`,
        `second of ${i}`,
        `third of ${i}`,
      ])
      expect(one.markers).toEqual(['risk', 'question'])
      expect(one.ties!.map(({ to, label }) => [to, label])).toEqual([
        [named.get(`Topic ${TOPICS - i}`)!.id, `label ${i}`],
      ])
      expect(notes).toContain(`A note of ${i}, with v and s and q.`)
    }
    await context.close()
  })
}

test('the side sheet goes along with a fast hand: by key or by a click, what is typed is for where one has arrived', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser, 'Ines Brandt')
  const id = await caller.makeTree('Move')
  await openTree(page, id)
  await pour(
    page,
    Array.from({ length: 12 }, (_, i) => `Topic ${i + 1}`),
  )
  const title = page.getByRole('textbox', { name: 'Title of the selected topic' })
  const noteOf = async (said: string): Promise<string> => {
    const { topics } = (await caller.open(id)).snapshot
    return topics.find(one => one.title === said)?.note ?? ''
  }
  await topic(page, 'Topic 1').click()
  await expect(title).toHaveValue('Topic 1')
  // As when an arrow is held, and a letter that opens a field behind it without a pause.
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowDown')
  await page.keyboard.press('n')
  await page.keyboard.type('By key.')
  await expect(title).toHaveValue('Topic 7')
  await page.keyboard.press('Escape')
  // With the pointer instead, also without a pause.
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowDown')
  await page.getByRole('textbox', { name: 'Note', exact: true }).click()
  await page.keyboard.type('By pointer.')
  await expect(title).toHaveValue('Topic 11')
  await page.keyboard.press('Escape')
  // And by key alone, to the end: the sheet arrives as well.
  await page.keyboard.press('Home')
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowDown')
  await expect(title).toHaveValue('Topic 6')
  await expect(topic(page, 'Topic 6')).toHaveAttribute('aria-selected', 'true')
  await expect.poll(() => noteOf('Topic 7')).not.toBe('')
  await expect.poll(() => noteOf('Topic 11')).not.toBe('')
  for (const said of ['Topic 1', 'Topic 6', 'Topic 8', 'Topic 10']) expect(await noteOf(said)).toBe('')
})
