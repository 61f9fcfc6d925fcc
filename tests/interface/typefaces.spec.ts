import type { Page } from '@playwright/test'
import { expect, openTree, pour, test, topic, two } from './porch'

const TITLE = 'Shelves 1907, Kettenmannstraße: „Häute“ & soot'

/** How wide the words of a plank stand on the screen, in canvas units, and in which letters. */
const onScreen = (page: Page, title: string) =>
  topic(page, title)
    .locator('.line')
    .first()
    .evaluate(line => {
      const range = document.createRange()
      range.selectNodeContents(line)
      const zoom = Number(/scale\(([\d.]+)\)/.exec((line.closest('.world') as HTMLElement).style.transform)?.[1] ?? 1)
      const style = getComputedStyle(line)
      const font = `${style.fontStyle} ${style.fontWeight} ${style.fontSize} ${style.fontFamily.split(',')[0]}`
      return {
        family: style.fontFamily.split(',')[0]!.replace(/["']/g, ''),
        there: document.fonts.check(font),
        words: range.getBoundingClientRect().width / zoom,
        plank: (line.closest('.plank') as HTMLElement).offsetWidth,
      }
    })

test('titles are set in four typefaces, for a topic, a level or a look; others and pictures have the same letters', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  await openTree(page, id)
  await openTree(rana.page, id)
  await pour(page, [TITLE, 'Van'])
  await topic(page, TITLE).click()
  await page.keyboard.press('c')
  const panel = page.getByRole('complementary', { name: 'Colour and style' })
  const letters = panel.getByRole('group', { name: 'Letters of the titles' })
  const lines = new Map<string, number>()
  for (const [name, family] of [
    ['Plain', 'Figtree Variable'],
    ['Broad', 'Bricolage Grotesque Variable'],
    ['Book', 'Literata Variable'],
    ['Hand', 'Caveat Variable'],
  ] as const) {
    await letters.getByRole('button', { name }).click()
    await expect.poll(async () => (await onScreen(rana.page, TITLE)).family).toBe(family)
    const drawn = await ines.caller.call<string>('POST', `/api/trees/${id}/hand-out`, { as: 'svg', with: [] })
    const text = String(drawn.data)
    const said = /textLength="([\d.]+)"[^>]*>Shelves[^<]*</.exec(text)
    expect(said, text.slice(0, 3000)).not.toBeNull()
    lines.set(name, Number(said![1]))
    for (const one of [page, rana.page])
      await expect
        .poll(async () => {
          const { there, words, plank } = await onScreen(one, TITLE)
          // Words stand as wide as the picture says, and the plank is made for them.
          return there && Math.abs(words - Number(said![1])) / words < 0.01 && plank >= words && plank - words < 40
        })
        .toBe(true)
  }
  // Each is another width: none of them stood in for another.
  expect(new Set([...lines.values()].map(Math.round)).size).toBe(4)
  await letters.getByRole('button', { name: 'Usual' }).click()
  await expect.poll(async () => (await onScreen(page, TITLE)).family).toBe('Figtree Variable')

  // The whole level, then one topic otherwise.
  await panel.getByRole('button', { name: 'Its level' }).click()
  await letters.getByRole('button', { name: 'Book' }).click()
  await expect.poll(async () => (await onScreen(rana.page, 'Van')).family).toBe('Literata Variable')
  await panel.getByRole('button', { name: 'Topic', exact: true }).click()
  await letters.getByRole('button', { name: 'Plain' }).click()
  await expect.poll(async () => (await onScreen(rana.page, TITLE)).family).toBe('Figtree Variable')
  const topics = (await ines.caller.open(id)).snapshot.topics
  expect(topics.find(one => one.title === TITLE)).toMatchObject({ typeface: 'plain' })
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await onScreen(rana.page, TITLE)).family).toBe('Literata Variable')

  // A look of one's own: what has no letters of its own takes the look's.
  await panel.getByRole('button', { name: 'Whole tree' }).click()
  await panel.getByLabel('Name of the new look').fill('Letters')
  await page.keyboard.press('Enter')
  const looks = panel.getByRole('group', { name: 'Look: letters of the titles' })
  await looks.getByRole('button', { name: 'Hand' }).click()
  // The level that the look took over still says its own.
  expect((await onScreen(rana.page, 'Van')).family).toBe('Literata Variable')
  await expect.poll(async () => (await onScreen(rana.page, 'Move')).family).toBe('Caveat Variable')
})
