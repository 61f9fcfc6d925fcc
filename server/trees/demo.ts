import { count } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { buildDemo } from '#demo/build'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '#demo/people'
import { type DemoTree, MEETINGS, MOVE, TRAINING } from '#demo/trees'
import type { Tree } from '#core/tree'
import { createAccount } from '../access/accounts'
import { database } from '../database/connect'
import { users } from '../database/schema'
import { sendLetter } from '../letters/send'
import { hangDemoFiles } from './demo-files'
import { storeTree } from './store'

/** Fills an empty workspace with the demo: four people and three trees they share. */
export async function loadDemoWhenEmpty(): Promise<void> {
  const [row] = await database().select({ people: count() }).from(users)
  if (row!.people > 0) return
  const today = new Date().toISOString().slice(0, 10)
  const people: { id: string, name: string, email: string }[] = []
  for (const { name, email } of DEMO_PEOPLE) people.push({ id: await createAccount(email, name, DEMO_PASSWORD), name, email })
  const [ines, rana, oskar, lev] = people as [typeof people[0], typeof people[0], typeof people[0], typeof people[0]]
  const all = [{ userId: rana.id, role: 'editor' as const }, { userId: oskar.id, role: 'editor' as const }]
  const build = (demo: DemoTree, other?: { id: string, tree: Tree }): Tree => buildDemo(demo, people, today, () => nanoid(12), other)
  await storeTree(build(TRAINING), lev.id, [{ userId: ines.id, role: 'editor' }, { userId: rana.id, role: 'viewer' }])
  const move = build(MOVE)
  const storeFiles = await hangDemoFiles(move)
  const id = await storeTree(move, ines.id, [...all, { userId: lev.id, role: 'editor' }])
  await storeFiles(id, ines.id)
  await storeTree(build(MEETINGS, { id, tree: move }), ines.id, [...all, { userId: lev.id, role: 'commenter' }])
  await sendLetter({ to: ines.email, subject: 'Welcome to the porch', body: 'This is the Letterbox: mail that Sun Porch would send arrives here while no mail server is set.' })
}
