import type { Page } from '@playwright/test'
import { expect, openTree, test, titlesOf, topic, tree, two, visitor, type Visitor } from './porch'

/** The move, with a branch of its own, a smaller one inside of it, and a note for the speaker. */
async function laidOut({ caller }: Visitor, id: string): Promise<void> {
  const { centre } = (await caller.open(id)).snapshot
  const add = (name: string, parent: string, order: string, more: object = {}) =>
    ({ op: 'add', topic: name.toLowerCase(), parent, order, with: { title: name, ...more } }) as never
  await caller.edit(id, [
    add('Fitout', centre, 'a0'),
    add('Lift', 'fitout', 'a0'),
    add('Doors', 'fitout', 'a1'),
    add('Shaft', 'lift', 'a0'),
    add('Books', centre, 'a1', { links: [{ id: 'firm', url: 'https://shelves.porch.example/', title: 'The firm' }] }),
    add('Crates', 'books', 'a0'),
    add('People', centre, 'a2'),
  ])
}
const strip = (page: Page) => page.getByRole('region', { name: 'Presenting' })
const at = (page: Page) => strip(page).getByRole('status')
const present = async (page: Page): Promise<void> => {
  await page.keyboard.press('u')
  await page.keyboard.press('f')
}

test('a tree is presented by key, branch by branch, and everything is as it was at the end', async ({ browser }) => {
  const ines = await visitor(browser)
  const { page, caller } = ines
  const id = await caller.makeTree('Move')
  await laidOut(ines, id)
  await openTree(page, id)
  await topic(page, 'Lift').click()
  // What was folded before is folded after.
  await page.keyboard.press('.')
  await expect(topic(page, 'Shaft')).toHaveCount(0)
  await topic(page, 'Crates').click()
  const stood = (await topic(page, 'Crates').boundingBox())!
  await present(page)
  await expect(at(page)).toHaveText(/^1 of 4\s+Move\s+· then Fitout$/)
  await expect(page.getByRole('button', { name: 'Share' })).toHaveCount(0)
  await expect(topic(page, 'Crates')).toHaveCount(0)
  await expect(topic(page, 'Move')).toHaveAttribute('aria-selected', 'true')
  // On without a pause; the rest steps back.
  await page.keyboard.press('PageDown')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowLeft')
  await expect(at(page)).toHaveText(/^2 of 4\s+Fitout/)
  await expect(topic(page, 'Shaft')).toBeVisible()
  await expect(topic(page, 'Fitout')).not.toHaveClass(/behind/)
  await expect(topic(page, 'Books')).toHaveClass(/behind/)
  // It fills the view: larger than life.
  await expect.poll(async () => (await topic(page, 'Fitout').boundingBox())!.height).toBeGreaterThan(stood.height * 1.4)
  // A topic is typed meanwhile, and belongs to the step.
  await page.keyboard.press('Tab')
  await page.keyboard.type('Paint')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(at(page)).toHaveText(/^2 of 4/)
  await expect(topic(page, 'Paint')).not.toHaveClass(/behind/)
  await expect
    .poll(() => titlesOf(caller, id))
    .toEqual([['Fitout', ['Lift', 'Shaft'], 'Doors', 'Paint'], ['Books', 'Crates'], 'People'])
  // What a topic carries opens over it, and Esc closes that first.
  await page.keyboard.press('ArrowRight')
  await expect(at(page)).toHaveText(/^3 of 4\s+Books/)
  await page.keyboard.press('o')
  await expect(
    page.getByRole('link', { name: 'The firm' }).or(page.getByRole('button', { name: 'The firm' })),
  ).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(strip(page)).toBeVisible()
  await page.keyboard.press('End')
  await expect(at(page)).toHaveText(/^4 of 4\s+People$/)
  await page.keyboard.press('Home')
  await expect(at(page)).toHaveText(/^1 of 4/)
  await strip(page).getByRole('button', { name: '3. Books' }).click()
  await expect(at(page)).toHaveText(/^3 of 4/)
  await page.keyboard.press('Escape')
  await expect(strip(page)).toHaveCount(0)
  await expect(topic(page, 'Crates')).toHaveAttribute('aria-selected', 'true')
  await expect(topic(page, 'Shaft')).toHaveCount(0)
  await expect(tree(page)).toBeFocused()
  await expect.poll(async () => Math.round((await topic(page, 'Crates').boundingBox())!.x)).toBe(Math.round(stood.x))
  // From Hand out a branch goes onto the projector, and Esc leads back to it.
  await topic(page, 'Fitout').click()
  await page.keyboard.press('u')
  await page.keyboard.press('o')
  const dialog = page.getByRole('dialog', { name: 'Hand out' })
  await dialog
    .getByRole('combobox', { name: 'What', exact: true })
    .selectOption({ label: '“Fitout” and what is below' })
  await dialog.getByRole('button', { name: 'To the projector' }).click()
  await expect(at(page)).toHaveText(/^1 of 4\s+Fitout\s+· then Lift$/)
  await page.keyboard.press('PageDown')
  await expect(at(page)).toHaveText(/^2 of 4\s+Lift/)
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Back to the whole tree' }).click()
  await topic(page, 'Crates').click()
  await page.keyboard.press('e')
  await page.keyboard.type('Boxes')
  await page.keyboard.press('Enter')
  await expect(topic(page, 'Boxes')).toBeVisible()
})

test('an order of one’s own is picked, moved and taken back; two people at once; a viewer picks nothing', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await laidOut(ines, id)
  await openTree(ines.page, id)
  await openTree(rana.page, id)
  const panel = (page: Page) => page.getByRole('complementary', { name: 'Steps of presenting' })
  const steps = (page: Page) => panel(page).locator('[data-step]')
  for (const { page } of [ines, rana]) {
    await page.keyboard.press('u')
    await page.keyboard.press('g')
  }
  await expect(steps(ines.page)).toHaveText([/Move/, /Fitout/, /Books/, /People/])
  // The keys stay with the tree while the panel shows.
  await topic(ines.page, 'Books').click()
  await ines.page.keyboard.press('u')
  await ines.page.keyboard.press('j')
  await expect(steps(rana.page)).toHaveText([/1\s*Books/])
  await topic(rana.page, 'Lift').click()
  await rana.page.keyboard.press('u')
  await rana.page.keyboard.press('j')
  await expect(steps(ines.page)).toHaveText([/1\s*Books/, /2\s*Lift/])
  await steps(ines.page).nth(1).focus()
  await ines.page.keyboard.press('Alt+ArrowUp')
  await expect(steps(rana.page)).toHaveText([/1\s*Lift/, /2\s*Books/])
  await expect(steps(ines.page).nth(0)).toBeFocused()
  await panel(ines.page).getByRole('button', { name: 'Present' }).click()
  await expect(at(ines.page)).toHaveText(/^1 of 2\s+Lift\s+· then Books$/)
  await ines.page.keyboard.press('Escape')
  await panel(ines.page).getByRole('button', { name: 'As the tree is read again' }).click()
  await expect(steps(rana.page)).toHaveCount(4)
  await ines.page.keyboard.press('Control+z')
  await expect(steps(rana.page)).toHaveText([/1\s*Lift/, /2\s*Books/])
  // A step that is removed from the tree is none until it’s back.
  await topic(rana.page, 'Lift').click()
  await rana.page.keyboard.press('Delete')
  await expect(steps(ines.page)).toHaveText([/1\s*Books/])
  await rana.page.keyboard.press('Control+z')
  await expect(steps(ines.page)).toHaveText([/1\s*Lift/, /2\s*Books/])
})

test('others are asked along, follow, look around and come back; the speaker’s window has the notes and steps on', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  await laidOut(ines, id)
  await openTree(rana.page, id)
  await openTree(ines.page, id)
  // The note of a branch is what the speaker has before them.
  await topic(ines.page, 'Fitout').click()
  await ines.page.keyboard.press('n')
  await ines.page.keyboard.type('Say who pays for the lift.')
  await ines.page.keyboard.press('Escape')
  await present(ines.page)
  await rana.page.getByRole('button', { name: 'Go along', exact: true }).click()
  await expect(at(rana.page)).toHaveText(/^1 of 4\s+Move/)
  await expect(strip(rana.page)).toContainText('With Ines Brandt')
  const [speaker] = await Promise.all([ines.context.waitForEvent('page'), ines.page.keyboard.press('n')])
  await expect(speaker.getByRole('region', { name: 'Now' })).toContainText('Move')
  await speaker.keyboard.press('PageDown')
  await expect(at(ines.page)).toHaveText(/^2 of 4\s+Fitout/)
  await expect(speaker.getByText('Say who pays for the lift.')).toBeVisible()
  await expect(speaker.getByRole('complementary', { name: 'Next' })).toContainText('Books')
  await expect(at(rana.page)).toHaveText(/^2 of 4\s+Fitout/)
  await expect(topic(rana.page, 'Shaft')).toBeVisible()
  // She looks around: where Ines goes meanwhile doesn’t carry her off.
  await rana.page.keyboard.press('End')
  await expect(at(rana.page)).toHaveText(/^4 of 4\s+People/)
  await ines.page.keyboard.press('PageDown')
  await expect(at(ines.page)).toHaveText(/^3 of 4\s+Books/)
  const heard = await rana.page.evaluate(() => new Promise(done => requestAnimationFrame(() => done(true))))
  expect(heard).toBe(true)
  await expect(at(rana.page)).toHaveText(/^4 of 4\s+People/)
  await strip(rana.page).getByRole('button', { name: 'Back to Ines' }).click()
  await expect(at(rana.page)).toHaveText(/^3 of 4\s+Books/)
  // A branch that comes in between is a step for both.
  const { centre } = (await ines.caller.open(id)).snapshot
  await rana.caller.edit(id, [
    { op: 'add', topic: 'money', parent: centre, order: 'a1V', with: { title: 'Money' } },
  ] as never)
  await expect(at(ines.page)).toHaveText(/^3 of 5\s+Books\s+· then Money$/)
  await expect(speaker.getByRole('complementary', { name: 'Next' })).toContainText('Money')
  // The step that is shown is removed: on with the one in its place.
  await rana.caller.edit(id, [{ op: 'remove', topic: 'books' }] as never)
  await expect(at(ines.page)).toHaveText(/^3 of 4\s+Money/)
  // She leaves, and joins again where it says who presents.
  await rana.page.keyboard.press('Escape')
  await expect(strip(rana.page)).toHaveCount(0)
  await rana.page.getByRole('button', { name: 'Ines Brandt presents: go along' }).click()
  await expect(at(rana.page)).toHaveText(/^3 of 4\s+Money/)
  await ines.page.keyboard.press('Escape')
  await expect(speaker.getByText('Presenting is over.')).toBeVisible()
  await expect(strip(rana.page)).toHaveCount(0)
  await expect(rana.page.getByText('Presenting is over.')).toBeVisible()
})
