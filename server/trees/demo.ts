import { and, count, eq } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { buildDemo } from '#demo/build'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '#demo/people'
import { type DemoTree, MEETINGS, MOVE, TRAINING } from '#demo/trees'
import { applyChanges, type Tree } from '#core/tree'
import { tally } from '#core/vote/tally'
import { createAccount } from '../access/accounts'
import { database } from '../database/connect'
import { edits, keptMoments, users } from '../database/schema'
import { sendLetter } from '../letters/send'
import { hangDemoFiles } from './demo-files'
import { sayDemo } from './demo-talk'
import { submit } from './door'
import { storeTree } from './store'

/** Fills an empty workspace with the demo: four people and three trees they share. */
export async function loadDemoWhenEmpty(): Promise<void> {
  const [row] = await database().select({ people: count() }).from(users)
  if (row!.people > 0) return
  const today = new Date().toISOString().slice(0, 10)
  const passwordHash = await hashPassword(DEMO_PASSWORD)
  const people: { id: string; name: string; email: string }[] = []
  for (const { name, email } of DEMO_PEOPLE)
    people.push({ id: await createAccount(email, name, passwordHash, true), name, email })
  const [ines, rana, oskar, lev] = people as [
    (typeof people)[0],
    (typeof people)[0],
    (typeof people)[0],
    (typeof people)[0],
  ]
  const all = [
    { userId: rana.id, role: 'editor' as const },
    { userId: oskar.id, role: 'editor' as const },
  ]
  const build = (demo: DemoTree, other?: { id: string; tree: Tree }): Tree =>
    buildDemo(demo, people, today, () => nanoid(12), other)
  await storeTree(build(TRAINING), lev.id, {
    others: [
      { userId: ines.id, role: 'editor' },
      { userId: rana.id, role: 'viewer' },
    ],
  })
  const move = build(MOVE)
  voteInDemo(move, people)
  const storeFiles = await hangDemoFiles(move)
  const id = await storeTree(move, ines.id, { others: [...all, { userId: lev.id, role: 'editor' }] })
  await storeFiles(id, ines.id)
  await database()
    .insert(keptMoments)
    .values({
      treeId: id,
      number: 0,
      why: 'baseline',
      name: 'Agreed with the director',
      by: ines.id,
      at: new Date(Date.now() - 14 * 86_400_000),
    })
  await sayDemo(id, move, people)
  const meetings = build(MEETINGS, { id, tree: move })
  const meetingsId = await storeTree(meetings, ines.id, { others: [...all, { userId: lev.id, role: 'commenter' }] })
  await doWhatWasDone(meetingsId, meetings, ines.id)
  await sendLetter({
    to: ines.email,
    subject: 'Welcome to the porch',
    body: 'This is the Letterbox: mail that Sun Porch would send arrives here while no mail server is set.',
  })
}

/** A vote that was taken on a topic of the move. */
function voteInDemo(move: Tree, people: readonly { readonly id: string }[]): void {
  const topic = [...move.topics.values()].find(({ title }) => title === 'Carpet or cork?')!
  const said = ['Cork', 'Cork', 'Carpet', 'Cork']
  const choices = ['Cork', 'Carpet', 'Abstain']
  const casts = said.map(one => choices.map(choice => (choice === one ? 1 : 0)))
  applyChanges(move, [
    {
      op: 'put',
      topic: topic.id,
      set: 'votes',
      member: {
        id: nanoid(12),
        question: 'If the reserve bears it: carpet or cork?',
        kind: 'yes-no',
        secret: false,
        choices,
        counts: [...tally({ kind: 'yes-no', choices }, casts).counts],
        pairs: null,
        voters: people.map(({ id }) => id),
        casts,
        by: people[0]!.id,
        at: Date.now() - 3_600_000,
      },
    },
  ])
}

/**
 * Actions of the demo that have been done since their meeting go through the door as anybody's would; the log says
 * when, which the demo sets back.
 */
async function doWhatWasDone(treeId: string, tree: Tree, userId: string): Promise<void> {
  for (const [title, [, ago]] of Object.entries(MEETINGS.series?.done ?? {})) {
    const topic = [...tree.topics.values()].find(one => one.title === title && one.entry !== null)
    if (!topic) throw new Error(`the demo has no action “${title}”`)
    const { news } = await submit(treeId, userId, {
      id: nanoid(16),
      changes: [{ op: 'set', topic: topic.id, field: 'done', value: 100 }],
    })
    await database()
      .update(edits)
      .set({ at: new Date(Date.now() - ago * 86_400_000) })
      .where(and(eq(edits.treeId, treeId), eq(edits.number, news.number)))
  }
}
