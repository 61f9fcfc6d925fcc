import { differencesOf } from '#core/compare/differences'
import { newsInLines } from '#core/history/news-lines'
import type { TidingsGroup } from '#core/telling/grouped'
import { isWithin } from '#core/tree'
import { eq } from 'drizzle-orm'
import { database } from '../database/connect'
import { trees } from '../database/schema'
import { readTree } from '../trees/held'
import { momentOf } from '../trees/history'

const MOST_LINES = 12
/** Topics of a tree that is compared for a letter; of larger ones it's told that they changed. */
const MOST_TOPICS = 20_000

/** What of a watched tree or branch is other than it was before the first of these changes. */
export async function changesInWords({ all }: TidingsGroup): Promise<string[]> {
  const { tree: about, topic } = all[0]!
  const from = Math.min(...all.map(({ data }) => ('from' in data ? data.from : Infinity)))
  const [row] = await database()
    .select({ version: trees.version, size: trees.topicCount })
    .from(trees)
    .where(eq(trees.id, about.id))
  if (!row || !Number.isFinite(from) || from > row.version || row.size > MOST_TOPICS) return []
  const now = await readTree(about.id, row.version)
  if (!now) return []
  const { tree: before } = await momentOf(about.id, from, row.version)
  const found = differencesOf(before, now.tree).filter(
    ({ id }) => topic === null || isWithin(now.tree, id, topic.id) || isWithin(before, id, topic.id),
  )
  return newsInLines(found, now.tree, MOST_LINES)
}
