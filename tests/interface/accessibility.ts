import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page } from '@playwright/test'

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

/** What axe-core finds against WCAG 2.2 AA on the page as it stands, of weight. */
export async function seriousViolations(page: Page): Promise<string[]> {
  await page.evaluate(axeSource)
  return page.evaluate(async () => {
    const { violations } = await (
      window as unknown as {
        axe: {
          run(options: object): Promise<{ violations: { id: string; impact: string; nodes: { html: string }[] }[] }>
        }
      }
    ).axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] })
    return violations
      .filter(found => ['serious', 'critical'].includes(found.impact))
      .map(
        found =>
          `${found.id}: ${found.nodes
            .slice(0, 3)
            .map(node => node.html.slice(0, 200))
            .join(' | ')}`,
      )
  })
}
