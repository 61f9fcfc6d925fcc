import { nanoid } from 'nanoid'
import { choiceSchema } from '#core/handing/choice'
import { BLANK, toSnapshot } from '#core/tree'
import { newTree } from '../trees/new-tree'
import { makeHandOut } from './hand-out'

/** Of a sample: so many that what sets and draws letters has been compiled well once they are through. */
const TOPICS = 200
/** What takes longest to begin with; between them they read nearly all that the others need. */
const SAMPLES = ['docx', 'pdf', 'png'] as const

/**
 * Makes documents of a tree of nothing and throws them away, so that this thread has read what documents are made with
 * and its ways are run in: a first document takes twice as long as a second (`npm run bench hand-out`).
 */
export async function warmUp(): Promise<void> {
  const tree = newTree('A sample', 'both')
  for (let i = 0; i < TOPICS; i++) {
    const id = nanoid(12)
    const order = `a${i.toString(36).padStart(3, '0')}1`
    tree.topics.set(id, { ...BLANK, id, parent: tree.centre, order, title: `Sample no. ${i}` })
  }
  const snapshot = Buffer.from(JSON.stringify(toSnapshot(tree)))
  for (const as of SAMPLES)
    await makeHandOut(
      {
        snapshot,
        choice: choiceSchema.parse({ as }),
        people: {},
        talk: [],
        changes: [],
        opened: null,
        groups: {},
        agreed: null,
        author: '',
        me: '',
        today: '2027-03-01',
        zone: 'UTC',
      },
      () => Promise.resolve({}),
    )
}
