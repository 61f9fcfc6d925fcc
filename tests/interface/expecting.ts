import { expect as plain, type Locator } from '@playwright/test'

/*
 * Expectations of what isn't there yet. Playwright's own describes the whole page for a failing test each time that it looks in vain,
 * which takes a page of a hundred topics longer than what is waited for. So it's waited for first, which costs nothing, and then looked
 * at once, with what is left of the time.
 */

const FIRST = {
  toBeVisible: 'visible',
  toContainText: 'attached',
  toHaveText: 'attached',
  toHaveValue: 'attached',
  toHaveAttribute: 'attached',
  toBeFocused: 'attached',
} as const
type Name = keyof typeof FIRST

interface Options {
  readonly timeout?: number
}
type Matcher = (...args: unknown[]) => Promise<void>

/** The options among a matcher's arguments: the last, where they are given. */
const optionsOf = (args: readonly unknown[]): Options | undefined => {
  const last = args.at(-1)
  return typeof last === 'object' && last !== null && !(last instanceof RegExp) && !Array.isArray(last)
    ? (last as Options)
    : undefined
}

const patient = (name: Name) =>
  async function (this: { readonly isNot: boolean; readonly timeout: number }, locator: Locator, ...args: unknown[]) {
    const subject = plain(locator)
    if (this.isNot) {
      await (subject.not as unknown as Record<Name, Matcher>)[name](...args)
      return { pass: false, message: () => '' }
    }
    const given = optionsOf(args)
    const timeout = given?.timeout ?? this.timeout
    const began = performance.now()
    // A list may be empty; whatever else is wrong is told by the matcher itself.
    if (!Array.isArray(args[0])) await locator.waitFor({ state: FIRST[name], timeout }).catch(() => {})
    const left = { ...given, timeout: Math.max(1, timeout - (performance.now() - began)) }
    await (subject as unknown as Record<Name, Matcher>)[name](...(given ? args.slice(0, -1) : args), left)
    return { pass: true, message: () => '' }
  }

export const expect = plain.extend(
  Object.fromEntries((Object.keys(FIRST) as Name[]).map(name => [name, patient(name)])),
) as typeof plain
