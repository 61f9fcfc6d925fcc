import { openHouse } from '../../tests/house'
import { bringIn, type Caller, newId, signUp } from '../../tests/caller'
import { print, quantile, random } from './table'

/*
 * SOAK minutes (60) of an ordinary day: twenty people on five trees that don't grow, who set things, look around, go and
 * come back. Memory and the event loop's lag in the last fifth of the time against the second fifth, in which all is
 * warm.
 */

const MINUTES = Number(process.env.SOAK ?? 60)
const PEOPLE = 20
const TREES = 5
const TOPICS = 400
const EVERY_MS = 15_000
const METRICS_TOKEN = 'a soak measures with this token'
const roll = random(2027)
const pause = (ms: number): Promise<void> => new Promise(done => setTimeout(done, ms))

const house = await openHouse({ env: { METRICS_TOKEN } })
const people: Caller[] = []
for (let i = 0; i < PEOPLE; i++) people.push(await signUp(house.url, `Person ${i}`))
const trees: { id: string; topics: string[] }[] = []
for (let i = 0; i < TREES; i++) {
  const id = await people[i]!.makeTree()
  const { snapshot } = await people[i]!.open(id)
  const topics = Array.from({ length: TOPICS }, () => newId())
  await people[i]!.edit(
    id,
    topics.map((topic, at) => ({
      op: 'add' as const,
      topic,
      parent: at < 8 ? snapshot.centre : topics[at % 8]!,
      order: `a0${String(at).padStart(3, '0')}V`,
      with: { title: `Topic ${at}` },
    })),
  )
  for (let at = i + TREES; at < PEOPLE; at += TREES) await bringIn(people[i]!, id, people[at]!, 'editor')
  trees.push({ id, topics })
}

let going = true
let edits = 0
const living = people.map(async (person, i) => {
  const { id, topics } = trees[i % TREES]!
  while (going) {
    // A sitting: a line of one's own, some edits, a look at this and that, and away.
    const line = person.line(id)
    await line.hello(0).catch(() => {})
    for (let act = 0; going && act < 40; act++) {
      const topic = topics[Math.floor(roll() * topics.length)]!
      const answer = await person.tryEdit(id, [
        roll() < 0.5
          ? { op: 'set', topic, field: 'done', value: Math.floor(roll() * 5) * 25 }
          : { op: 'set', topic, field: 'title', value: `Topic ${Math.floor(roll() * 1e6)}` },
      ])
      if (answer.status === 200) edits++
      if (act % 10 === 0) await person.call('GET', `/api/trees/${id}`)
      if (act % 13 === 0) await person.call('GET', '/api/home')
      await pause(300 + roll() * 1500)
      line.heard.length = 0
    }
    line.socket.close()
  }
})

const samples: { memory: number; heap: number; lag: number }[] = []
const began = Date.now()
while (Date.now() - began < MINUTES * 60_000) {
  await pause(Math.min(EVERY_MS, MINUTES * 6_000))
  const text = await (
    await fetch(`${house.url}/metrics`, { headers: { authorization: `Bearer ${METRICS_TOKEN}` } })
  ).text()
  const of = (name: string): number => Number(new RegExp(`^${name} (\\S+)$`, 'm').exec(text)?.[1])
  samples.push({
    memory: of('process_resident_memory_bytes'),
    heap: of('nodejs_heap_size_used_bytes'),
    lag: of('nodejs_eventloop_lag_p99_seconds'),
  })
  if (samples.length % 20 === 0)
    process.stdout.write(
      `     ${Math.round((Date.now() - began) / 60_000)} min, ${edits} edits, ${Math.round(samples.at(-1)!.memory / 2 ** 20)} MB\n`,
    )
}
going = false
await Promise.all(living)
await house.close()

const fifth = Math.floor(samples.length / 5)
const early = samples.slice(fifth, fifth * 2)
const late = samples.slice(-fifth)
for (const [what, key, unit, by, goal] of [
  ['memory of the process', 'memory', 'MB', 2 ** 20, 1.15],
  ['heap in use', 'heap', 'MB', 2 ** 20, 1.25],
  ['event-loop lag, p99', 'lag', 'ms', 1e-3, 1.5],
] as const) {
  const [then, now] = [early, late].map(part =>
    quantile(
      part.map(sample => sample[key]),
      0.5,
    ),
  ) as [number, number]
  print({
    what: `${MINUTES} min, ${edits} edits: ${what}`,
    ours: `${(now / by).toFixed(1)} ${unit}`,
    reference: `${(then / by).toFixed(1)} ${unit}`,
    ratio: now / then,
    goal: `≤ ${goal}`,
    met: now / then <= goal,
  })
}
