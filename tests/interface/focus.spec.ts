import { laidOut, type State, STATES } from './focus-stage'
import { expect, openTree, test, tree, visitor } from './porch'
import type { Page } from '@playwright/test'

/**
 * The law of the focus, over the whole registry: after any command, from any state, a word that is typed at once stands
 * in the field that the command opens; where it opens none, the keys act as they do from the tree. Then Esc, and an
 * arrow key goes on in the tree.
 */

/** A command as the list of keys shows it. */
interface Command {
  readonly name: string
  readonly chord: string | null
}

/** What opens something that can be typed in, and how many times Esc is pressed before nothing of it is open. */
const FIELD: ReadonlyMap<string, number> = new Map(
  Object.entries({
    'Edit the title': 1,
    'New topic after': 1,
    'New topic before': 1,
    'New topic under': 1,
    'New parent around the selection': 1,
    'New topic between this and its children': 1,
    'Move under …': 1,
    'The tray': 1,
    Find: 1,
    'Arrangement and spacing …': 2,
    'Filter and views': 2,
    'What is new': 2,
    Markers: 2,
    'Colour and style': 2,
    'Annexes, numbers and cross-links': 2,
    'Into the cells of the row': 1,
    'Task details': 1,
    Note: 1,
    'Comment …': 1,
    'All comments': 2,
    'Document beside the tree': 2,
    'Talk of the tree': 2,
    'Link …': 1,
    Checklist: 1,
    'Place …': 1,
    'Tie to another topic …': 1,
    'Show another topic here …': 1,
    'Everything box': 1,
    Help: 1,
    'List of keys': 1,
    'Describe and tag the tree …': 1,
    'A copy for others …': 1,
    'Save the tree as a starter …': 1,
    Share: 1,
    'Vote …': 1,
    'Waits for …': 1,
    'Waits for another tree …': 1,
  }),
)
/** What opens something without a field for text that covers the tree: keys do nothing behind it. */
const COVERS = new Set(['Sketch …', 'Duplicate the branch …', 'Hand out'])
/** What leads to the meeting, which has keys of its own; it is tested with the meeting. */
const TO_MEETING =
  /^(?:Meeting: brief|Make it a meeting|Lay out the agenda|Ask the owners|Invite everybody|Begin the meeting|End the meeting|Mail the minutes|Next meeting)/
/** What leaves the tree's page for another, or for a room with keys of its own, which is tested with that. */
const LEAVES = /^(?:History of |Side by side |Present the tree)/
const WORD = '21'
/** How often is looked, ms: there are over a thousand looks. */
const OFTEN = [5, 20, 40, 80]

/** Between the steps of a key of two. */
const THEN = ' then '

/**
 * By its key, else by name in the everything box: from the first state letter by letter without a delay, from the others
 * at one go once the box stands, since what is looked at is what comes after it.
 */
async function runCommand(page: Page, command: Command, state: State): Promise<void> {
  if (command.chord && state.name !== 'a meeting') {
    for (const step of command.chord.split(THEN)) await page.keyboard.press(step)
    return
  }
  await page.keyboard.press('Control+k')
  if (state === STATES[0]) await page.keyboard.type(command.name)
  else {
    await expect.poll(async () => (await look(page)).field, { intervals: OFTEN }).toBe('')
    await page.keyboard.insertText(command.name)
  }
  await page.keyboard.press('Enter')
}

/** Where the focus is, as the law sees it. */
const look = (page: Page) =>
  page.evaluate(() => {
    const at = document.activeElement as HTMLInputElement | null
    const isText = Boolean(
      at &&
      (at.isContentEditable ||
        at.tagName === 'TEXTAREA' ||
        (at.tagName === 'INPUT' && !/checkbox|radio|range|color|file/.test(at.type))),
    )
    return {
      field: isText ? (at!.isContentEditable ? (at!.textContent ?? '') : at!.value) : null,
      // The tree that is shown, or the meeting in its place.
      inTree: at?.getAttribute('role') === 'tree' || at?.hasAttribute('data-home') === true,
      covered: at?.closest('[role="dialog"]') !== null && at !== null,
      at: at?.getAttribute('role') === 'tree' ? at.getAttribute('aria-activedescendant') : '',
      what: at ? `${at.tagName} ${at.getAttribute('aria-label') ?? at.className}` : 'nothing',
    }
  })

async function holds(page: Page, state: State, command: Command): Promise<string> {
  await page.keyboard.press('0')
  await runCommand(page, command, state)
  await page.keyboard.type(WORD)
  const escapes = FIELD.get(command.name)
  if (escapes && !COVERS.has(command.name)) {
    try {
      await expect.poll(async () => (await look(page)).field ?? '', { timeout: 6000, intervals: OFTEN }).toContain(WORD)
    } catch {
      return `${command.name} from ${state.name}: typed ${WORD}, but ${JSON.stringify(await look(page))}`
    }
    for (let i = 0; i < escapes; i++) await page.keyboard.press('Escape')
  } else if (COVERS.has(command.name)) {
    await expect.poll(async () => (await look(page)).covered, { intervals: OFTEN }).toBe(true)
    await page.keyboard.press('Escape')
  } else {
    // “21” opens to depth 2 and then 1: the ladder says so when the keys were the tree's.
    try {
      await expect
        .poll(
          () =>
            page.evaluate(() =>
              document.querySelector('button[aria-label="Open to depth 1"]')?.getAttribute('aria-pressed'),
            ),
          { timeout: 6000, intervals: OFTEN },
        )
        .toBe('true')
    } catch {
      return `${command.name} from ${state.name}: the keys weren’t the tree’s: ${JSON.stringify(await look(page))}`
    }
    await page.keyboard.press('Escape')
  }
  try {
    await expect.poll(async () => (await look(page)).inTree, { timeout: 4000, intervals: OFTEN }).toBe(true)
  } catch {
    return `${command.name} from ${state.name}: after Esc the focus is ${JSON.stringify(await look(page))}`
  }
  const before = (await look(page)).at
  // In a meeting arrows have nowhere to go.
  if (before === '') return ''
  for (const arrow of ['ArrowDown', 'ArrowUp', 'ArrowUp', 'ArrowLeft', 'ArrowRight']) {
    await page.keyboard.press(arrow)
    if ((await look(page)).at !== before) return ''
  }
  // Whether they come late or never, and what has the keys instead.
  await page.evaluate(() => new Promise(done => setTimeout(done, 500)))
  const later = await look(page)
  const foot = await page.locator('footer.foot').textContent()
  return `${command.name} from ${state.name}: the arrows don’t move from ${before}; later ${JSON.stringify(later)}, ${foot}`
}

/** A command tried from a state; in words what broke, also when the state couldn't be entered. */
async function entered(page: Page, state: State, before: Command | undefined, command: Command): Promise<string> {
  await reset(page)
  try {
    await state.enter(page)
  } catch (error) {
    const why = error instanceof Error ? error.message.split('\n')[0] : ''
    return `${state.name} wasn’t entered after ${before?.name ?? 'the start'}: ${JSON.stringify(await look(page))}, ${why}`
  }
  return holds(page, state, command)
}

/**
 * Everything as it was: nothing open, the canvas, the side sheet, and what was changed taken back. Asked in one go,
 * since it's done before every command.
 */
async function reset(page: Page): Promise<void> {
  for (let i = 0; i < 3; i++) await page.keyboard.press('Escape')
  // What the last command did is on the screen, and so is whether it can be undone.
  await page.evaluate(() => new Promise(done => requestAnimationFrame(() => setTimeout(done))))
  const asked = () =>
    page.evaluate(() => {
      const button = (name: string): HTMLButtonElement | null => document.querySelector(`button[aria-label="${name}"]`)
      return {
        canvas: document.querySelector('[role="tab"][aria-selected="true"]')?.textContent === 'Canvas',
        undo: button('Undo')?.disabled === false,
        sheet: button('Side sheet')?.getAttribute('aria-pressed') === 'true',
        tray: button('Close the tray') !== null,
      }
    })
  let now = await asked()
  if (!now.canvas)
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('[role="tab"]')].find(tab => tab.textContent === 'Canvas')?.click(),
    )
  for (let i = 0; i < 8 && now.undo; i++) {
    await page.keyboard.press('Control+z')
    await page.evaluate(() => new Promise(done => setTimeout(done)))
    now = await asked()
  }
  await page.keyboard.press('0')
  await page.keyboard.press('f')
  if (!(await asked()).sheet)
    await page.evaluate(() => document.querySelector<HTMLElement>('button[aria-label="Side sheet"]')?.click())
  if (now.tray)
    await page.evaluate(() => document.querySelector<HTMLElement>('button[aria-label="Close the tray"]')?.click())
}

/** Every command with its first key, from the list of keys itself. */
async function registry(page: Page): Promise<Command[]> {
  await page.getByRole('button', { name: 'Keys', exact: true }).click()
  const list = page.getByRole('dialog', { name: 'Keys' })
  await expect(list).toBeVisible()
  const found = await list
    .getByRole('button', { name: /^Change the key for / })
    .evaluateAll(buttons =>
      buttons.map(button => ({
        name: button.getAttribute('aria-label')!.slice('Change the key for '.length),
        chord: button.querySelector('kbd')?.textContent ?? null,
      })),
    )
  await page.keyboard.press('Escape')
  const ARROWS: Record<string, string> = {
    '↑': 'ArrowUp',
    '↓': 'ArrowDown',
    '←': 'ArrowLeft',
    '→': 'ArrowRight',
    Ctrl: 'Control',
  }
  const chordOf = (said: string): string =>
    said === '+'
      ? '+'
      : said
          .split(' + ')
          .map(part => ARROWS[part] ?? part)
          .join('+')
  const room = found.findIndex(one => one.name === 'Next item, for everybody')
  return found
    .slice(0, room)
    .map(({ name, chord }) => ({
      name,
      chord: chord === null ? null : chord.trim().split(THEN).map(chordOf).join(THEN),
    }))
    .filter(one => !TO_MEETING.test(one.name) && !LEAVES.test(one.name))
}

/**
 * Whether a command is tried from a state: what opens something from every state, the rest from the first three and from
 * one more in turn. `LAWS=all` tries all from all.
 */
function isTried(at: number, i: number, opens: boolean, inMeeting: boolean): boolean {
  if (opens) return true
  if (inMeeting) return false
  return process.env.LAWS === 'all' || at < 3 || i % (STATES.length - 3) === at - 3
}

/** From the first three every command is tried: in parts, so that none takes long on a busy machine. */
const PARTS = 4
const TRIALS = STATES.flatMap((state, at) =>
  at < 3
    ? Array.from({ length: PARTS }, (_, part) => ({ at, state, part, parts: PARTS }))
    : [{ at, state, part: 0, parts: 1 }],
)

for (const { at, state, part, parts } of TRIALS) {
  const name = parts === 1 ? state.name : `${state.name}, ${part + 1} of ${parts}`
  test(`the focus is where the eye is: ${name}`, async ({ browser }) => {
    const person = await visitor(browser)
    const { page } = person
    page.on('filechooser', () => {})
    await openTree(page, await laidOut(person))
    const commands = await registry(page)
    for (const name of [...FIELD.keys(), ...COVERS]) expect(commands.map(one => one.name)).toContain(name)
    const wrong: string[] = []
    for (const [i, command] of commands.entries()) {
      const opens = FIELD.has(command.name) || COVERS.has(command.name)
      if (i % parts !== part || !isTried(at, i, opens, state.name === 'a meeting')) continue
      const said = await entered(page, state, commands[i - 1], command)
      if (said) {
        wrong.push(said)
        await page.reload()
        await expect(tree(page)).toBeVisible()
      }
    }
    expect(wrong).toEqual([])
    await person.context.close()
  })
}
