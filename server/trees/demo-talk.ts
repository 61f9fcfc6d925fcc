import { and, eq } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { Body } from '#core/talk/body'
import { BENCH, type Saying } from '#core/talk/saying'
import type { Tree } from '#core/tree'
import { BENCH_LINES, COMMENTS } from '#demo/talk'
import { database } from '../database/connect'
import { comments, sayings } from '../database/schema'
import { say } from '../talk/door'

const A_DAY = 86_400_000

/** What was said in the demo goes through the door as anybody's would; when it was said is set back. */
export async function sayDemo(
  treeId: string,
  tree: Tree,
  people: readonly { readonly id: string; readonly name: string }[],
): Promise<void> {
  const speak = async (by: number, ago: number, saying: Saying): Promise<void> => {
    const { told } = await say(treeId, { kind: 'account', id: people[by]!.id }, saying)
    const at = new Date(Date.now() - ago * A_DAY)
    await database()
      .update(sayings)
      .set({ at })
      .where(and(eq(sayings.treeId, treeId), eq(sayings.number, told.number)))
    if (saying.op === 'say')
      await database()
        .update(comments)
        .set({ at })
        .where(and(eq(comments.treeId, treeId), eq(comments.id, saying.comment)))
  }
  const said = (text: string): Body => ({
    type: 'doc',
    content: [
      {
        type: 'paragraph',
        content: text.split(/(@\d)/).map(part => {
          const person = /^@\d$/.test(part) ? people[Number(part[1])] : undefined
          return person
            ? { type: 'person' as const, attrs: { id: person.id, label: person.name } }
            : { type: 'text' as const, text: part }
        }),
      },
    ],
  })
  for (const { on, settled, said: lines } of COMMENTS) {
    const topic = [...tree.topics.values()].find(({ title }) => title === on)
    if (!topic) throw new Error(`the demo has no topic “${on}”`)
    const thread = nanoid(12)
    for (const [i, { by, ago, text }] of lines.entries())
      await speak(by, ago, {
        id: nanoid(16),
        op: 'say',
        comment: i === 0 ? thread : nanoid(12),
        thread,
        ...(i === 0 ? { place: { on: 'topic' as const, topic: topic.id } } : {}),
        body: said(text),
      })
    if (settled)
      await speak(lines.at(-1)!.by, lines.at(-1)!.ago, { id: nanoid(16), op: 'settle', thread, settled: true })
  }
  for (const { by, ago, text } of BENCH_LINES)
    await speak(by, ago, { id: nanoid(16), op: 'say', comment: nanoid(12), thread: BENCH, body: said(text) })
}
