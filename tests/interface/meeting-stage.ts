import type { Browser, Page } from '@playwright/test'
import { agendaItem, person } from '../meeting-parts'
import { expect, two, type Visitor } from './porch'

/* A meeting for tests to be held. */

/**
 * Two people and a tree with a meeting of two items that is ready to be begun. `minutes`: of each item; `slot`: set
 * aside.
 */
export async function staged(
  browser: Browser,
  minutes = 20,
  slot = 60,
): Promise<{ ines: Visitor; rana: Visitor; id: string }> {
  const { ines, rana, id } = await two(browser)
  const { snapshot } = await ines.caller.open(id)
  await ines.caller.edit(id, [
    {
      op: 'add',
      topic: 'm',
      parent: snapshot.centre,
      order: 'a0',
      with: {
        title: 'Meeting 3',
        meeting: [
          { id: 'why', kind: 'why', text: 'Decide who moves us.' },
          { id: 'slot', kind: 'slot', minutes: slot },
          { id: 'm1', kind: 'must', order: 'a0', text: 'Which firm' },
          { id: 'rule', kind: 'rule', rule: 'FREQ=WEEKLY;BYDAY=TU', closed: [] },
          { id: 'begins', kind: 'begins', day: '2027-03-02', time: '14:00', zone: 'Europe/Copenhagen' },
          person('p1', ines.caller.id, { role: 'chair' }),
          person('p2', rana.caller.id),
        ],
      },
    },
    agendaItem('i1', 'a0', 'Two offers', minutes, rana.caller.id),
    agendaItem('i2', 'a1', 'Neighbours', minutes, ines.caller.id),
    {
      op: 'add',
      topic: 'r1',
      parent: 'i1',
      order: 'a0',
      with: { title: 'Report', links: [{ id: 'l1', url: 'topic:i2', title: 'The neighbours' }] },
    },
  ])
  return { ines, rana, id }
}

export const openMeeting = async (page: Page, id: string): Promise<void> => {
  await page.goto(`/trees/${id}?topic=m&view=meeting`)
  await expect(page.getByRole('tablist', { name: 'Parts of the meeting' })).toBeVisible()
}

export const said = (page: Page) => page.getByRole('status').filter({ hasText: /\w/ })
