import { newId } from '../caller'
import { measure } from './figures-stage'
import { expect, topic, type Visitor } from './porch'
import type { Page } from '@playwright/test'

/* From where the law of the focus is tried: the tree, and the states in which somebody may have left the screen. */

export interface State {
  readonly name: string
  readonly enter: (page: Page) => Promise<void>
}
/** A click on the topic that commands are tried on. */
async function inTree(page: Page): Promise<void> {
  // Where it stands once the view has come to rest: on the way there a click may meet what lies beside it.
  const at = await page.evaluate(async () => {
    const where = () => document.querySelector('[role="treeitem"][aria-label^="Lift"]')?.getBoundingClientRect()
    let plank = where()
    for (let still = 0, tries = 0; plank && still < 2 && tries < 60; tries++) {
      await new Promise(requestAnimationFrame)
      const now = where()
      still = now && now.x === plank.x && now.y === plank.y ? still + 1 : 0
      plank = now
    }
    return plank ? { x: plank.x + 6, y: plank.y + 8 } : null
  })
  if (at) await page.mouse.click(at.x, at.y)
  else
    await topic(page, 'Lift')
      .first()
      .click({ position: { x: 6, y: 8 } })
}
const press =
  (...chords: string[]) =>
  async (page: Page): Promise<void> => {
    await inTree(page)
    for (const chord of chords) await page.keyboard.press(chord)
  }
/** A panel that stays, with the focus back in the tree as after the first Esc. */
const panel = (name: string, chord: string): State => ({
  name: `the panel “${name}” open`,
  enter: async page => {
    await press(chord)(page)
    await expect(page.getByRole('complementary', { name })).toBeVisible({ timeout: 15_000 })
    if (name !== 'Key') await page.keyboard.press('Escape')
  },
})
const button = (name: string): State => ({
  name: `just after a click on “${name}”`,
  enter: async page => {
    await inTree(page)
    await page.getByRole('button', { name, exact: true }).first().click()
  },
})
export const STATES: readonly State[] = [
  { name: 'the canvas', enter: press() },
  { name: 'the canvas, side sheet hidden', enter: press('s') },
  { name: 'the outline', enter: press('v') },
  {
    name: 'the schedule',
    enter: async page => {
      await press('u', 'p')(page)
      await expect(page.getByRole('tree', { name: 'Schedule' })).toBeFocused()
    },
  },
  {
    name: 'the board',
    enter: async page => {
      await press('u', 'k')(page)
      await expect(page.getByRole('tree', { name: 'Board' })).toBeFocused()
    },
  },
  {
    name: 'the sheet of figures',
    enter: async page => {
      await press('u', 'i')(page)
      await expect(page.getByRole('treegrid', { name: 'Sheet of figures' })).toBeFocused()
    },
  },
  { name: 'a cell of the outline just left', enter: press('v', ';', 'Escape') },
  panel('Markers', 'm'),
  panel('Colour and style', 'c'),
  panel('Arrangement', 'r'),
  panel('Filter and views', 'Shift+Q'),
  panel('Annexes and numbers', 'p'),
  panel('Key', 'k'),
  {
    name: 'the tray open',
    enter: async page => {
      await press('l')(page)
      await inTree(page)
    },
  },
  button('Zoom in'),
  button('Fit the whole tree in view'),
  button('75 % done'),
  {
    name: 'a meeting',
    enter: async page => {
      await press('j')(page)
      await expect(page.getByRole('region', { name: 'Meeting' })).toBeFocused()
    },
  },
  {
    name: 'just after a click on a view',
    enter: async page => {
      await inTree(page)
      await page.getByRole('tab', { name: 'Canvas' }).click()
    },
  },
]

/** A tree with something of everything near the topic that commands are tried on. */
export async function laidOut(person: Visitor): Promise<string> {
  const id = await person.caller.makeTree('Move')
  const { snapshot } = await person.caller.open(id)
  const centre = snapshot.centre
  const [paint, lift, doors, shaft, cab] = [newId(), newId(), newId(), newId(), newId()]
  await person.caller.edit(id, [
    { op: 'add', topic: paint, parent: centre, order: 'a0', with: { title: 'Paint', done: 0 } },
    { op: 'add', topic: lift, parent: centre, order: 'a1', with: { title: 'Lift', markers: ['risk'] } },
    { op: 'add', topic: doors, parent: centre, order: 'a2', with: { title: 'Doors', done: 0 } },
    { op: 'add', topic: shaft, parent: lift, order: 'a0', with: { title: 'Shaft' } },
    { op: 'add', topic: cab, parent: lift, order: 'a1', with: { title: 'Cab' } },
    { op: 'tree', field: 'arrangement', value: 'right' },
    { op: 'tree', field: 'planFrom', value: '2027-01-11' },
    { op: 'set', topic: lift, field: 'duration', value: 3 },
    measure('cost', 'Cost', { onPlank: false }) as never,
    { op: 'put', topic: lift, set: 'meeting', member: { id: 'why', kind: 'why', text: 'Settle the lift.' } },
  ])
  return id
}
