import { expect, openTree, pasteText, visitor, type Visitor } from './porch'
import type { Page } from '@playwright/test'
import type { Topic } from '#core/tree'

/* What is typed goes where the eye is, and stays: each of these once went wrong. */

export const notice = (page: Page) => page.locator('.offer')

export const sheet = (page: Page) => page.getByRole('complementary', { name: 'About the selection' })

export async function topicsOf(person: Visitor, id: string): Promise<Map<string, Topic>> {
  return new Map((await person.caller.open(id)).snapshot.topics.map(one => [one.title ?? '', one as Topic]))
}

export async function saved(page: Page): Promise<void> {
  await expect(page.getByRole('status').filter({ hasText: /^saved$/ })).toBeVisible()
}

/** A person with an open tree of these topics. */
export async function withTree(
  browser: Parameters<typeof visitor>[0],
  titles: readonly string[],
  options: object = {},
): Promise<Visitor & { id: string }> {
  const person = await visitor(browser, 'Ines Brandt', options)
  const id = await person.caller.makeTree('Move')
  await openTree(person.page, id)
  if (titles.length > 0) await pasteText(person.page, { 'text/plain': titles.join('\n') })
  await saved(person.page)
  return { ...person, id }
}
