import type { Page } from '@playwright/test'
import { bringIn } from '../caller'
import { expect, test, visitor } from './porch'
import { put } from '../meeting-parts'
import { openMeeting, staged } from './meeting-stage'

/** Reads the seconds left in every browser in the same moment. */
async function secondsLeft(pages: readonly Page[]): Promise<number[]> {
  const read = await Promise.all(
    pages.map(page =>
      page.evaluate(() => {
        const text = document.querySelector('[data-clock="left"]')?.textContent ?? ''
        const [, sign, minutes, seconds] = /(−?)(\d+):(\d+)/.exec(text) ?? []
        return {
          left: (sign ? -1 : 1) * (Number(minutes) * 60 + Number(seconds)),
          at: performance.timeOrigin + performance.now(),
        }
      }),
    ),
  )
  // They aren't asked in quite the same moment: each is carried on to the last one's. The machine's own time is the
  // yardstick, not the page's Date.
  const last = Math.max(...read.map(({ at }) => at))
  return read.map(({ left, at }) => left - (last - at) / 1000)
}

test('somebody who may only read answers, follows, and looks around by the same keys without moving anybody', async ({
  browser,
}) => {
  const { ines, id } = await staged(browser)
  const lev = await visitor(browser, 'Lev Aalto')
  await bringIn(ines.caller, id, lev.caller, 'viewer')
  await ines.caller.edit(id, [
    put('m', { id: 'p4', kind: 'person', user: lev.caller.id, mail: null, name: '', needed: false, role: null }),
  ])
  await ines.caller.call('POST', `/api/trees/${id}/meetings/m/invitation`, {})
  await openMeeting(lev.page, id)
  await expect(lev.page.getByRole('textbox', { name: 'Why we meet' })).toHaveAttribute('readonly', '')
  await expect(lev.page.getByRole('button', { name: 'Lay out the agenda' })).toHaveCount(0)
  await lev.page.getByRole('group', { name: 'Your answer' }).getByRole('button', { name: 'Perhaps' }).press('Enter')
  await expect(lev.page.getByText('You said: perhaps.')).toBeVisible()
  await ines.caller.call('POST', `/api/trees/${id}/meetings/m/moves`, { to: 'begin' })
  await lev.page.keyboard.press('Alt+2')
  await expect(lev.page.locator('[aria-current="step"]')).toContainText('Two offers')
  await lev.page.keyboard.press('PageDown')
  await expect(lev.page.getByText('You are looking around.')).toBeVisible()
  await expect(lev.page.getByRole('heading', { level: 1, name: /Neighbours/ })).toBeVisible()
  await lev.page.keyboard.press('d')
  // A later key that does something says that this one has been heard.
  await lev.page.keyboard.press('Control+k')
  await expect(lev.page.getByRole('dialog', { name: 'Everything box' })).toBeVisible()
  await expect(lev.page.getByRole('group', { name: 'Capture' })).toHaveCount(0)
  await lev.page.keyboard.press('Escape')
  await expect(lev.page.getByRole('dialog', { name: 'Everything box' })).toBeHidden()
  expect((await ines.caller.open(id)).snapshot.topics.find(one => one.id === 'm')!.meeting).toContainEqual(
    expect.objectContaining({ kind: 'run', step: 1, current: 'i1' }),
  )
  await lev.page.keyboard.press('Escape')
  await expect(lev.page.getByRole('heading', { level: 1, name: /Two offers/ })).toBeVisible()
})

// How twenty clocks agree is computed in app/session/server-clock.test.ts; here it's seen on the screens of three.
for (const count of [3]) {
  test(
    `${count} browsers in one running meeting agree on the clock within a second, whatever their own clocks say`,
    { tag: '@alone' },
    async ({ browser }) => {
      test.setTimeout(600_000)
      const { ines, id } = await staged(browser)
      await openMeeting(ines.page, id)
      await ines.page.getByRole('button', { name: 'Begin', exact: true }).click()
      const pages = [ines.page]
      for (let i = 1; i < count; i++) {
        const other = await visitor(browser, `Guest ${i}`)
        await bringIn(ines.caller, id, other.caller, 'viewer')
        // Clocks that are wrong by up to half an hour either way.
        await other.page.addInitScript(
          `{ const real = Date.now; Date.now = () => real.call(Date) + ${(i % 2 === 0 ? 1 : -1) * i * 90_000} }`,
        )
        await openMeeting(other.page, id)
        await expect(other.page.locator('[data-clock="left"]')).toHaveText(/\d:\d\d/)
        pages.push(other.page)
      }
      // Whole seconds are shown, four times a second: agreement within one second of what each shows, and the drawing's
      // quarter. A busy machine may keep one page from drawing now and then, but clocks that agree do so nearly always.
      const apart: number[] = []
      for (let sample = 0; sample < 24; sample++) {
        const left = await secondsLeft(pages)
        apart.push(Math.max(...left) - Math.min(...left))
        await ines.page.waitForTimeout(250)
      }
      expect(apart.filter(seconds => seconds <= 1.3).length, apart.join()).toBeGreaterThanOrEqual(20)
      await Promise.all(pages.map(page => page.context().close()))
    },
  )
}

test('meetings are listed with how ready they are; a new one begins in a tree of its own or in another', async ({
  browser,
}) => {
  const { ines, id } = await staged(browser)
  const { page } = ines
  await page.goto('/meetings')
  await expect(page.getByRole('link', { name: /Meeting 3/ })).toContainText('to mend')
  await page.getByRole('button', { name: 'New meeting' }).click()
  await page.getByLabel('What it’s called').fill('Opening day')
  await page.getByRole('button', { name: 'Write its brief' }).click()
  await expect(page.getByRole('heading', { name: 'Why we meet' })).toBeVisible()
  await page.goto('/meetings')
  await page.getByRole('button', { name: 'New meeting' }).click()
  await page.getByLabel('What it’s called').fill('Meeting 9')
  await page.getByRole('combobox', { name: 'Where it stands' }).click()
  await page.getByRole('option', { name: 'Move' }).click()
  await page.getByRole('button', { name: 'Write its brief' }).click()
  await expect(page.getByRole('combobox', { name: 'Which meeting' })).toContainText('Meeting 9')
  expect((await ines.caller.open(id)).snapshot.topics.filter(one => one.meeting?.length)).toHaveLength(2)
})
