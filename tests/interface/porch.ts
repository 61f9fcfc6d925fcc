import { test as base, type Browser, type BrowserContext, type Page, type Route } from '@playwright/test'
import { bringIn, Caller, signUp } from '../caller'
import { expect } from './expecting'

/** Somebody with a browser of their own. */
export interface Visitor {
  readonly page: Page
  readonly context: BrowserContext
  readonly caller: Caller
}

export const houseUrl = (): string => process.env.HOUSE!

export async function browserFor(
  browser: Browser,
  caller: Caller,
  url: string,
  options: object = {},
): Promise<Visitor> {
  const context = await browser.newContext({ baseURL: url, ...options })
  const [name, value] = caller.cookie.split(/=(.*)/s)
  await context.addCookies([{ name: name!, value: value!, url }])
  const page = await context.newPage()
  page.on('pageerror', error => console.error(`In the page: ${error.stack ?? error.message}`))
  page.on('pageerror', error => {
    throw error
  })
  return { page, context, caller }
}

/**
 * `page.route` for a page that is open already. The browser hears of it a moment after the promise is kept, and what is asked in that
 * moment goes past it: so something is asked until it's answered here.
 */
export async function intercept(
  page: Page,
  pattern: string,
  answer: (route: Route) => Promise<unknown>,
): Promise<void> {
  await page.route('**/asked-by-a-test', route => route.fulfill({ status: 202 }))
  await page.route(pattern, answer)
  await expect.poll(() => page.evaluate(async () => (await fetch('/asked-by-a-test')).status)).toBe(202)
}

/** A new person with a browser. */
export async function visitor(
  browser: Browser,
  name = 'Ines Brandt',
  options: object = {},
  url = houseUrl(),
): Promise<Visitor> {
  return browserFor(browser, await signUp(url, name), url, options)
}

/** Two people with a browser each and a tree that both may edit. */
export async function two(
  browser: Browser,
  role: 'editor' | 'commenter' = 'editor',
): Promise<{ ines: Visitor; rana: Visitor; id: string }> {
  const ines = await visitor(browser, 'Ines Brandt')
  const rana = await visitor(browser, 'Rana Tahiri')
  const id = await ines.caller.makeTree('Move')
  await bringIn(ines.caller, id, rana.caller, role)
  return { ines, rana, id }
}

/** One of the demo's people with a browser. */
export async function demoVisitor(
  browser: Browser,
  email = 'ines@porch.example',
  options: object = {},
): Promise<Visitor> {
  return browserFor(browser, await demoCaller(email), houseUrl(), options)
}

async function demoCaller(email: string): Promise<Caller> {
  const caller = new Caller(houseUrl())
  await caller.call('POST', '/api/sign-in', { email, password: 'tannery porch 2027' })
  caller.email = email
  return caller
}

/** The demo's plan, as one of its people has it: others may bear its name beside it. */
export async function demoTree(caller: Caller): Promise<{ id: string; title: string }> {
  const { data: trees } = await caller.call<{ id: string; title: string }[]>('GET', '/api/trees')
  return trees.find(({ title }) => title === 'Move to the tannery')!
}

/** A copy of the demo's plan that is somebody's own, so that what is done there is seen by nobody else. */
export async function demoCopy(browser: Browser, options: object = {}): Promise<Visitor & { readonly id: string }> {
  const owner = await demoCaller('ines@porch.example')
  const { id: demo } = await demoTree(owner)
  const nora = await visitor(browser, 'Nora Feld', options)
  await bringIn(owner, demo, nora.caller, 'viewer')
  const { data: copy } = await nora.caller.call<{ id: string }>('POST', `/api/trees/${demo}/duplicate`, {
    notes: true,
    people: true,
    dates: true,
    progress: true,
    shift: 0,
  })
  return { ...nora, id: copy.id }
}

/** The focus of the tree view that is shown. */
export const tree = (page: Page) => page.getByRole('tree')
export const topic = (page: Page, title: string | RegExp) =>
  page.getByRole('treeitem', {
    name: typeof title === 'string' ? new RegExp(`^${title.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(,|$)`) : title,
  })

export async function openTree(page: Page, id: string): Promise<void> {
  await page.goto(`/trees/${id}`)
  await expect(tree(page)).toBeVisible()
  await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible()
}

export type Nested = string | [string, ...Nested[]]

/** The tree as the server has it: titles, nested. */
export async function titlesOf(caller: Caller, id: string): Promise<Nested[]> {
  const text = (await caller.call<string>('GET', `/api/trees/${id}/export/text`)).data
  const root: [string, ...Nested[]] = ['']
  const open: [string, ...Nested[]][] = [root]
  for (const line of text.split('\n').filter(Boolean)) {
    const depth = /^\t*/.exec(line)![0].length
    const item: [string, ...Nested[]] = [line.slice(depth)]
    open.length = depth + 1
    open[depth]!.push(item)
    open.push(item)
  }
  const tidy = (item: [string, ...Nested[]]): Nested =>
    item.length === 1
      ? item[0]
      : ([item[0], ...item.slice(1).map(child => tidy(child as [string, ...Nested[]]))] as Nested)
  const centre = tidy(root[1] as [string, ...Nested[]])
  return typeof centre === 'string' ? [] : centre.slice(1)
}

/** Waits until the server has these titles. */
export async function expectTitles(caller: Caller, id: string, wanted: Nested[]): Promise<void> {
  await expect.poll(() => titlesOf(caller, id)).toEqual(wanted)
}

/**
 * Types lines into a new tree as somebody would: `Tab` goes in, `Enter` goes on. The tree view must have the focus on
 * the centre.
 */
export async function pour(page: Page, lines: readonly string[]): Promise<void> {
  await page.keyboard.press('Tab')
  for (const [i, line] of lines.entries()) {
    if (i > 0) await page.keyboard.press('Enter')
    await page.keyboard.type(line)
  }
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
}

/** Puts text on the clipboard as another program would and pastes it. */
export async function pasteText(page: Page, data: Record<string, string>): Promise<void> {
  await page.evaluate(given => {
    const transfer = new DataTransfer()
    for (const [type, text] of Object.entries(given)) transfer.setData(type, text)
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: transfer, bubbles: true, cancelable: true }),
    )
  }, data)
}

/**
 * A test with its browser swept after it. What a test opened isn't closed by itself while the browser lives, and one browser serves
 * all tests of a worker: its pages would stay, keep their lines open and take from the few connections that a browser has.
 */
export const test = base.extend<{ swept: undefined }>({
  swept: [
    async ({ browser }, use) => {
      await use(undefined)
      await Promise.all(browser.contexts().map(context => context.close()))
    },
    { auto: true },
  ],
})
export { expect }
