import { demoCopy, expect, openTree, pour, test, topic, tree, visitor } from './porch'
import type { Page } from '@playwright/test'

/* Where the eye is: what has the focus is in sight, and nothing lies over it. */

/** What hides a part of the topic that has the focus; empty when it's whole in the free part of the view. */
const hidden = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const at = document.querySelector('[role="tree"]')!.getAttribute('aria-activedescendant')!
    const plank = document.getElementById(at)?.getBoundingClientRect()
    // It comes with the next frame.
    if (!plank) return [`${at} isn’t there`]
    const view = document.querySelector('main')!.getBoundingClientRect()
    const found: string[] = []
    if (plank.left < view.left || plank.right > view.right || plank.top < view.top || plank.bottom > view.bottom)
      found.push(`${at} out of sight`)
    for (const over of document.querySelectorAll('[data-over-tree]')) {
      const box = over.getBoundingClientRect()
      if (box.left < plank.right && plank.left < box.right && box.top < plank.bottom && plank.top < box.bottom)
        found.push(`${at} under ${over.className}`)
    }
    return found
  })

for (const width of [1280, 820])
  test(`wherever the arrows lead, the focused topic is whole in the free part of the view (${width})`, async ({
    browser,
  }) => {
    const { page, id } = await demoCopy(browser, { viewport: { width, height: 800 }, reducedMotion: 'reduce' })
    await openTree(page, id)
    await page.keyboard.press('0')
    await page.keyboard.press('Control+0')
    await page.keyboard.press('w')
    await expect(page.getByRole('img', { name: 'Overview of the tree' })).toBeVisible()
    const arrows = ['ArrowRight', 'ArrowRight', ...Array<string>(12).fill('ArrowDown'), 'ArrowLeft', 'ArrowLeft']
    arrows.push('ArrowLeft', 'ArrowLeft', ...Array<string>(12).fill('ArrowDown'), 'End', 'Home')
    for (const [i, arrow] of arrows.entries()) {
      await page.keyboard.press(arrow)
      await expect.poll(() => hidden(page), { message: `after ${i + 1}, ${arrow}` }).toEqual([])
    }
    // A notice that comes doesn't cover it either.
    await page.keyboard.press('Shift+J')
    await expect(page.getByRole('status').filter({ hasText: /join|two/i })).toBeVisible()
    await expect.poll(() => hidden(page)).toEqual([])
  })

for (const [way, name] of [
  ['around', 'around the centre'],
  ['time', 'along a time axis'],
] as const)
  test(`the demo plan, ${name}, fits a screen of 1280 by 800 at half its size or more`, async ({ browser }) => {
    const { page, caller, id } = await demoCopy(browser, { reducedMotion: 'reduce' })
    await caller.edit(id, [{ op: 'tree', field: 'arrangement', value: way }])
    await openTree(page, id)
    await page.getByRole('banner').getByText('Sheet').click()
    await expect(page.getByRole('complementary', { name: 'About the selection' })).toBeHidden()
    const zoom = page.getByRole('button', { name: 'Zoom to 100 %' })
    await zoom.click()
    await expect(zoom).toHaveText('100 %')
    await page.getByRole('button', { name: 'Fit' }).click()
    await expect(zoom).not.toHaveText('100 %')
    expect(Number.parseInt(await zoom.innerText(), 10)).toBeGreaterThanOrEqual(50)
  })

const WAYS = { both: 'Both sides', right: 'Rightward', left: 'Leftward', down: 'Downward', around: 'Around the centre' }
for (const [count, mains] of [
  [60, 9],
  [150, 12],
  [400, 16],
] as const)
  test(`fitted, all ${mains} main branches of ${count} topics can be read, over nothing else’s words`, async ({
    browser,
  }) => {
    const { page, caller } = await visitor(browser)
    const id = await caller.makeTree('Move to the tannery')
    const { snapshot } = await caller.open(id)
    await caller.edit(
      id,
      Array.from({ length: count }, (_, i) => ({
        op: 'add' as const,
        topic: `t${i}`,
        parent: i < mains ? snapshot.centre : i < mains * 5 ? `t${i % mains}` : `t${mains + ((i * 7) % (mains * 4))}`,
        order: `a${String(i).padStart(3, '0')}V`,
        with: { title: i < mains ? `Branch number ${i}` : `Topic ${i} of the plan` },
      })),
    )
    await openTree(page, id)
    for (const way of ['both', 'right', 'left', 'down', 'around'] as const) {
      await caller.edit(id, [{ op: 'tree', field: 'arrangement', value: way }])
      await expect(page.getByRole('button', { name: 'Arrangement of the tree' })).toHaveText(WAYS[way])
      await page.getByRole('button', { name: 'Fit' }).click()
      /** What can't be read, or lies where it shouldn't. */
      const wrong = (): Promise<string[]> =>
        page.evaluate(most => {
          const found: string[] = []
          const box = (element: Element): DOMRect => element.getBoundingClientRect()
          const lettering = (element: Element): number =>
            Number.parseFloat(getComputedStyle(element).fontSize) *
            (box(element).width / (element as HTMLElement).offsetWidth)
          const posts = [...document.querySelectorAll('.post')]
          const view = box(document.querySelector('main')!)
          const far = document.querySelector('.planks.far') !== null
          const planks = [...document.querySelectorAll('[role="treeitem"]')]
          const named = new Map(posts.map(post => [post.textContent!.replace(/\s+/g, ' ').trim(), post]))
          for (let i = 0; i < most; i++) {
            const title = `Branch number ${i}`
            const at = [...named].find(([name]) => name.replaceAll(' ', '') === title.replaceAll(' ', ''))?.[1]
            const shown = at ?? planks.find(one => one.getAttribute('aria-label')!.split(',')[0] === title)
            if (!shown) found.push(`${title} has no name`)
            else if (lettering(shown) < 10.99) found.push(`${title} has ${lettering(shown)} px`)
          }
          const meet = (a: DOMRect, b: DOMRect): boolean =>
            a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom - 1 && b.top < a.bottom - 1
          posts.forEach((post, i) => {
            const own = post.textContent!.replace(/\s/g, '')
            for (const other of posts.slice(i + 1))
              if (meet(box(post), box(other))) found.push(`${own} over ${other.textContent}`)
            if (far) return
            for (const plank of planks)
              if (
                plank.getAttribute('aria-label')!.split(',')[0]!.replace(/\s/g, '') !== own &&
                meet(box(post), box(plank))
              )
                found.push(`${own} over ${plank.getAttribute('aria-label')}`)
          })
          const centre = posts.find(post => post.classList.contains('centre'))
          if (centre && (box(centre).left < view.left || box(centre).right > view.right))
            found.push('the centre is cut')
          return found
        }, mains)
      await expect.poll(wrong, { message: way }).toEqual([])
    }
  })

test('a loose topic lands on free ground, and so does a branch that is detached', async ({ browser }) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree('Move')
  const { snapshot } = await caller.open(id)
  await caller.edit(
    id,
    Array.from({ length: 9 }, (_, i) => ({
      op: 'add' as const,
      topic: `topic-${i}`,
      parent: i < 3 ? snapshot.centre : `topic-${i % 3}`,
      order: `a${i}`,
      with: { title: `Topic number ${i}` },
    })),
  )
  await openTree(page, id)
  await expect(topic(page, 'Topic number 8')).toBeVisible()
  const overlaps = (): Promise<string[]> =>
    page.evaluate(() => {
      const all = [...document.querySelectorAll('[role="treeitem"]')].map(
        one => [one, one.getBoundingClientRect()] as const,
      )
      return all.flatMap(([one, a], i) =>
        all
          .slice(i + 1)
          .filter(([, b]) => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom)
          .map(([other]) => `${one.textContent} over ${other.textContent}`),
      )
    })
  // Beside a plank, where the new one would reach into it.
  const box = (await topic(page, 'Topic number 4').boundingBox())!
  await page.mouse.dblclick(box.x - 12, box.y + box.height / 2)
  await page.keyboard.type('On its own')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(topic(page, 'On its own')).toBeVisible()
  await expect.poll(overlaps).toEqual([])
  await topic(page, 'Topic number 1').click({ position: { x: 6, y: 8 } })
  await page.keyboard.press('Shift+X')
  await expect
    .poll(async () => (await caller.open(id)).snapshot.topics.find(one => one.id === 'topic-1')!.parent)
    .toBeNull()
  await expect.poll(overlaps).toEqual([])
  await expect(tree(page)).toBeFocused()
})

test('the row that has the focus is whole between the head and the end of the view, from the first look on', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser, 'Ines Brandt', { viewport: { width: 1280, height: 560 } })
  const id = await caller.makeTree('Crates')
  const { centre } = (await caller.open(id)).snapshot
  await caller.edit(id, [
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    {
      op: 'tree-put',
      set: 'measures',
      member: {
        ...{ id: 'cost', order: 'a0', name: 'Cost', unit: 'EUR', decimals: 2, rounding: 'half-even', rollUp: 'sum' },
        ...{ by: null, hue: null, limit: 'most', onPlank: false },
      },
    },
    ...Array.from({ length: 60 }, (_, i) => ({
      ...{ op: 'add' as const, topic: `t${i}`, parent: centre, order: `a${String.fromCharCode(65 + (i % 26))}${i}V` },
      with: { title: `Crate ${i}`, duration: 1 },
    })),
  ])
  /** By how many px the row is cut, above and below. */
  const cut = (): Promise<number | null> =>
    page.evaluate(() => {
      const at = document.activeElement?.getAttribute('aria-activedescendant')
      const row = at ? document.getElementById(at) : null
      let box = row?.parentElement ?? null
      while (box && !/auto|scroll/.test(getComputedStyle(box).overflowY)) box = box.parentElement
      if (!row || !box) return null
      const head = [...box.querySelectorAll('*')].find(one => getComputedStyle(one).position === 'sticky')
      const [whole, view] = [row.getBoundingClientRect(), box.getBoundingClientRect()]
      const top = head ? Math.max(view.top, head.getBoundingClientRect().bottom) : view.top
      return Math.max(0, top - whole.top) + Math.max(0, whole.bottom - (view.top + box.clientHeight))
    })
  await page.goto(`/trees/${id}?topic=t40`)
  await expect(topic(page, 'Crate 40')).toBeVisible()
  for (const keys of [
    ['u', 'p'],
    ['u', 'i'],
  ]) {
    for (const key of keys) await page.keyboard.press(key)
    await expect.poll(cut).toBeLessThan(1)
    for (const key of ['ArrowDown', 'ArrowUp'])
      for (let i = 0; i < 17; i++) {
        await page.keyboard.press(key)
        await expect.poll(cut).toBeLessThan(1)
      }
  }
})

test('a tree opens with few files of script, and with none that only a chart, a text or a file needs', async ({
  browser,
}) => {
  const { page, caller } = await visitor(browser)
  const id = await caller.makeTree()
  const asked: string[] = []
  page.on('request', request => asked.push(request.url()))
  await openTree(page, id)
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  await expect(sheet.getByRole('textbox', { name: 'Note' })).toBeVisible()
  await expect(sheet.locator('.say-text')).toBeVisible()
  const scripts = new Set(asked.filter(url => url.endsWith('.js')))
  expect(scripts.size).toBeGreaterThan(5)
  expect(scripts.size).toBeLessThan(30)
  const sizes = await Promise.all([...scripts].map(async url => (await (await page.request.get(url)).body()).length))
  expect(sizes.reduce((sum, size) => sum + size, 0)).toBeLessThan(2_600_000)
})

test('whoever looks at one topic after another asks the house for nothing more', async ({ browser }) => {
  const ines = await visitor(browser, 'Ines Brandt', { reducedMotion: 'reduce' })
  const { page } = ines
  await openTree(page, await ines.caller.makeTree())
  await pour(page, ['Lift', 'Shelves', 'Crates', 'Lamps'])
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  const title = sheet.getByLabel('Title of the selected topic')
  await topic(page, 'Lift').click()
  await expect(title).toHaveValue('Lift')
  await expect(sheet.getByRole('textbox', { name: 'Note' })).toBeVisible()
  const asked: string[] = []
  page.on('request', request => asked.push(new URL(request.url()).pathname))
  for (const [next, arrow] of [
    ...['Shelves', 'Crates', 'Lamps'].map(name => [name, 'ArrowDown'] as const),
    ...['Crates', 'Shelves', 'Lift'].map(name => [name, 'ArrowUp'] as const),
  ]) {
    await page.keyboard.press(arrow)
    // The side sheet has come along, with the note's field and the comment's.
    await expect(title).toHaveValue(next)
    await expect(sheet.getByRole('textbox', { name: 'Note' })).toBeVisible()
    await expect(sheet.locator('.say-text')).toBeVisible()
  }
  // What the page needs once it may still fetch meanwhile.
  expect(asked.filter((path, i) => asked.indexOf(path) !== i)).toEqual([])
})
