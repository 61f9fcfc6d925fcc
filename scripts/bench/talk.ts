import { bodyOf } from '../../core/talk/body'
import { BENCH, type Saying } from '../../core/talk/saying'
import { newId, signUp } from '../../tests/caller'
import { openHouse } from '../../tests/house'
import { shelves } from './shelves'
import { ms, print, quantile } from './table'

/*
 * What is said weighs nothing on opening a tree: a tree with 10,000 comments against the same tree with none (the goal is 1.05).
 * And a line of talk → seen by the other, against an edit → seen, in the same run.
 */

const COMMENTS = 10_000
const TOPICS = 2_000
const OPENINGS = 40
const LINES = 150
const house = await openHouse({ env: { WRITES_A_MINUTE: '1000000' } })
const ines = await signUp(house.url)

const [quiet, loud] = [await shelves(ines, 'Quiet', TOPICS), await shelves(ines, 'Loud', TOPICS)]
let sent = 0
async function talk(): Promise<void> {
  while (sent < COMMENTS) {
    const n = sent++
    const comment = newId()
    const saying: Saying = {
      id: newId(),
      op: 'say',
      comment,
      thread: comment,
      place: { on: 'topic', topic: `t${n % TOPICS}` },
      body: bodyOf(`Comment ${n}: is that so, and what follows from it for the move?`),
    }
    const { status } = await ines.call('POST', `/api/trees/${loud}/talk`, saying)
    if (status !== 200) throw new Error(`refused with ${status}`)
  }
}
await Promise.all(Array.from({ length: 8 }, talk))

const opened: Record<string, number[]> = { quiet: [], loud: [] }
for (let i = 0; i < OPENINGS; i++)
  for (const [name, id] of [
    ['quiet', quiet],
    ['loud', loud],
  ] as const) {
    const began = performance.now()
    await ines.open(id)
    opened[name]!.push(performance.now() - began)
  }
const began = performance.now()
await ines.call('GET', `/api/trees/${loud}/talk`)
const signs = performance.now() - began

const [mine, other] = [ines.line(quiet), ines.line(quiet)]
for (const one of [mine, other]) await one.hello(1)
async function seen(send: (i: number) => void, count: () => number): Promise<number[]> {
  const times: number[] = []
  for (let i = 0; i < LINES; i++) {
    const before = count()
    const at = performance.now()
    send(i)
    await other.until(() => count() > before, 'it to be seen')
    times.push(performance.now() - at)
  }
  return times
}
const edits = await seen(
  i =>
    mine.say({
      type: 'edit',
      edit: { id: newId(), changes: [{ op: 'set', topic: 't1', field: 'title', value: `Shelf ${i}` }] },
    }),
  () => other.numbers().length,
)
const lines = await seen(
  i =>
    mine.say({
      type: 'say',
      saying: { id: newId(), op: 'say', comment: newId(), thread: BENCH, body: bodyOf(`Line ${i}`) },
    }),
  () => other.of('said').length,
)
const half = (times: readonly number[]): number => quantile(times, 0.5)
const [open, still] = [half(opened.loud!), half(opened.quiet!)]
print({
  what: `opening ${TOPICS} topics with ${COMMENTS} comments / none`,
  ours: ms(open),
  reference: ms(still),
  ratio: open / still,
  goal: '1.05',
  met: open / still <= 1.05,
})
const [line1, edit1] = [half(lines), half(edits)]
print({
  what: 'a line of talk → seen / an edit → seen',
  ours: ms(line1),
  reference: ms(edit1),
  ratio: line1 / edit1,
  goal: '1.5',
  met: line1 / edit1 <= 1.5,
})
process.stdout.write(`signs of all threads, asked for once the tree stands: ${ms(signs)}\n`)
for (const one of [mine, other]) await one.close()
await house.close()
