import { and, desc, eq, lt, sql } from 'drizzle-orm'
import { upgradeChanges, type TopicId, type Tree } from '#core/tree'
import type { Transaction } from '../database/connect'
import { edits, editTopics } from '../database/schema'
import { loadTree } from '../trees/held'

/*
 * What a topic was before an edit, as far as people are told of it: where it stood, and its dates. The log says what an edit makes of a
 * topic, not what it was; that is found by the index of topics, or else in the tree as it was.
 */

/** What is asked for by the log in one round, and edits of a topic that are looked through. */
const MOST_ASKED = 60
const MOST_EDITS = 40
/** Topics of a tree that is opened as it was; of larger ones it isn't told what was before. */
const MOST_TOPICS = 20_000

export type Standing = 'parent' | 'start' | 'due'

export class Before {
  private asked = 0
  private then: Promise<Tree | null> | null = null

  constructor(
    private readonly tx: Transaction,
    private readonly treeId: string,
    private readonly size: number,
    /** The number of the tree before the round's first edit. */
    private readonly since: number,
  ) {}

  /** What it was before an edit; undefined when that isn't known. */
  async of(topic: TopicId, number: number, what: Standing): Promise<string | null | undefined> {
    if (this.asked < MOST_ASKED) {
      this.asked++
      const found = await this.inLog(topic, number, what)
      if (found !== undefined) return found
    }
    const tree = await this.treeBefore()
    const was = tree?.topics.get(topic)
    return was ? was[what] : undefined
  }

  private async inLog(topic: TopicId, number: number, what: Standing): Promise<string | null | undefined> {
    const rows = await this.tx
      .select({ format: edits.format, changes: edits.changes })
      .from(editTopics)
      .innerJoin(edits, and(eq(edits.treeId, editTopics.treeId), eq(edits.number, editTopics.number)))
      .where(and(eq(editTopics.treeId, this.treeId), eq(editTopics.topicId, topic), lt(editTopics.number, number)))
      .orderBy(desc(editTopics.number))
      .limit(MOST_EDITS)
    for (const { format, changes } of rows)
      for (const change of upgradeChanges(format, changes).toReversed()) {
        if (!('topic' in change) || change.topic !== topic) continue
        if (change.op === 'add') return what === 'parent' ? change.parent : (change.with?.[what] ?? null)
        if (change.op === 'place' && what === 'parent') return change.parent
        if (change.op === 'set' && change.field === what) return change.value as string | null
      }
    return undefined
  }

  /** The tree before the round: what the round itself did is in the log. Read where the round reads, on its line. */
  private treeBefore(): Promise<Tree | null> {
    if (this.size > MOST_TOPICS) return Promise.resolve(null)
    this.then ??= loadTree(this.tx, this.treeId, this.since).then(live => live?.tree ?? null)
    return this.then
  }
}

/**
 * The people on topics that went with these branches, by branch and topic; what had gone before isn't among them. From each topic with
 * people the way goes up to the first that was taken away, by addresses alone, however many branches there are.
 */
export async function peopleBelow(
  tx: Transaction,
  treeId: string,
  roots: ReadonlySet<TopicId>,
): Promise<ReadonlyMap<TopicId, ReadonlyMap<TopicId, readonly string[]>>> {
  const found = new Map<TopicId, Map<TopicId, string[]>>()
  if (roots.size === 0) return found
  const [rows] = (await tx.execute(sql`
    with recursive up (topic, user, at, removed, parent) as (
      select p.topic_id, p.user_id, t.id, t.removed, t.parent from topic_people p
      join topics t on t.tree_id = p.tree_id and t.id = p.topic_id where p.tree_id = ${treeId}
      union distinct
      select u.topic, u.user, t.id, t.removed, t.parent from up u
      join topics t on t.tree_id = ${treeId} and t.id = u.parent where u.removed = 0
    )
    select topic, user, at as root from up where removed = 1`)) as unknown as [
    { root: string; topic: string; user: string }[],
  ]
  for (const { root, topic, user } of rows) {
    if (!roots.has(root)) continue
    const there = found.get(root) ?? new Map<TopicId, string[]>()
    found.set(root, there)
    there.set(topic, [...(there.get(topic) ?? []), user])
  }
  return found
}
