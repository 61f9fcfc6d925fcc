import { openHouse } from '../../tests/house'
import { type Caller, newId, signUp } from '../../tests/caller'
import type { NewsEdit } from '../../core/contract'
import { applyChanges, fromSnapshot, toSnapshot } from '../../core/tree'
import { random } from './table'

/*
 * App or database are killed at random moments while twenty people write, KILLS times (50; the long run is 1000). Afterwards every
 * acknowledged edit must be there, and the log must make the tree that is shown.
 */

const KILLS = Number(process.env.KILLS ?? 50)
const PEOPLE = 20
const TREES = 5
const roll = random(2027)
const pause = (ms: number): Promise<void> => new Promise(done => setTimeout(done, ms))

const house = await openHouse()
const people: Caller[] = []
const trees: {
  owner: Caller
  id: string
  centre: string
  acknowledged: Set<string>
  base: Awaited<ReturnType<Caller['open']>>['snapshot']
}[] = []
for (let i = 0; i < TREES; i++) {
  const owner = await signUp(house.url)
  const id = await owner.makeTree()
  const { snapshot } = await owner.open(id)
  trees.push({ owner, id, centre: snapshot.centre, acknowledged: new Set(), base: snapshot })
}
for (let i = 0; i < PEOPLE; i++) people.push(trees[i % TREES]!.owner)

let going = true
const writing = people.map(async (person, i) => {
  const tree = trees[i % TREES]!
  while (going) {
    const topic = newId()
    const answer = await person
      .tryEdit(tree.id, [{ op: 'add', topic, parent: tree.centre, order: 'a0', with: { title: topic } }])
      .catch(() => null)
    if (answer?.status === 200) tree.acknowledged.add(topic)
    else await pause(30)
    await pause(20)
  }
})
const began = Date.now()
for (let kill = 1; kill <= KILLS; kill++) {
  await pause(100 + roll() * 700)
  if (roll() < 0.5) {
    await house.killApp('SIGKILL')
    await house.startApp()
  } else {
    await house.killDatabase()
    await pause(roll() * 200)
    await house.startDatabaseAgain()
  }
  if (kill % 25 === 0)
    process.stdout.write(
      `     ${kill} kills, ${trees.reduce((sum, tree) => sum + tree.acknowledged.size, 0)} edits acknowledged\n`,
    )
}
going = false
await Promise.all(writing)

let lost = 0
let differ = 0
for (const { owner, id, acknowledged, base } of trees) {
  const { snapshot } = await owner.open(id)
  const there = new Set(snapshot.topics.map(topic => topic.id))
  lost += [...acknowledged].filter(topic => !there.has(topic)).length
  const replayed = fromSnapshot(base)
  for (let since = 0; ;) {
    const { data } = await owner.call<{ edits: NewsEdit[] }>('GET', `/api/trees/${id}/edits?since=${since}`)
    for (const { changes } of data.edits) applyChanges(replayed, changes)
    if (data.edits.length === 0) break
    since = data.edits.at(-1)!.number
  }
  const sorted = (topics: readonly { id: string }[]): string =>
    JSON.stringify([...topics].sort((a, b) => (a.id < b.id ? -1 : 1)))
  if (sorted(toSnapshot(replayed).topics) !== sorted(snapshot.topics)) differ++
}
const all = trees.reduce((sum, tree) => sum + tree.acknowledged.size, 0)
await house.close()
process.stdout.write(
  `${lost + differ === 0 ? 'ok  ' : 'OVER'} ${KILLS} kills in ${Math.round((Date.now() - began) / 1000)} s: ${all} edits acknowledged, ${lost} lost, ${differ} trees that differ from their log\n`,
)
if (lost + differ > 0) process.exitCode = 1
