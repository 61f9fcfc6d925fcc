import { count } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { buildDemo } from '#demo/build'
import { DEMO_PASSWORD, DEMO_PEOPLE } from '#demo/people'
import { MEETINGS, MOVE, TRAINING } from '#demo/trees'
import { createAccount } from '../access/accounts'
import { database } from '../database/connect'
import { users } from '../database/schema'
import { sendLetter } from '../letters/send'
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
  for (const [demo, owner, others] of [
    [TRAINING, lev, [{ userId: ines.id, role: 'editor' as const }, { userId: rana.id, role: 'viewer' as const }]],
    [MEETINGS, ines, [...all, { userId: lev.id, role: 'commenter' as const }]],
    [MOVE, ines, [...all, { userId: lev.id, role: 'editor' as const }]],
  ] as const) {
    await storeTree(buildDemo(demo, people, today, () => nanoid(12)), owner.id, others)
  }
  await sendLetter({ to: ines.email, subject: 'Welcome to the porch', body: 'This is the Letterbox: mail that Sun Porch would send arrives here while no mail server is set.' })
}
