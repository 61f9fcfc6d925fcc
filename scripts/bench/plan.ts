import { WAIT_KINDS } from '../../core/tree/plan'
import { alg, Graph } from '@dagrejs/graphlib'
import { chancesOf } from '../../core/schedule/chances'
import type { Activity, Dependency } from '../../core/schedule/activity'
import { scheduleOf } from '../../core/schedule/network'
import { plannedIn } from '../../core/schedule/compiled'
import { planOf } from '../../core/schedule/plan'
import { Planning } from '../../core/derive/planning'
import { applyChanges, type Change, topicOf, touchedBy } from '../../core/tree'
import { sampleTree } from './samples'
import { ms, print, quantile, random } from './table'

/*
 * The plan: both passes over whole networks, against a longest way over @dagrejs/graphlib's topological order on the same network in
 * the same run; the plan of a tree after one task has changed; chances.
 */

function network(count: number, seed: number): { activities: Activity[]; dependencies: Dependency[] } {
  const dice = random(seed)
  const activities = Array.from({ length: count }, (_, i): Activity => ({
    id: `t${i}`,
    length: Math.floor(dice() * 10) * 480,
    notBefore: dice() < 0.1 ? Math.floor(dice() * 100) * 480 : null,
    notAfter: null,
    fixed: null,
  }))
  const dependencies: Dependency[] = []
  for (let to = 1; to < count; to++)
    for (let n = Math.floor(dice() * 3); n > 0; n--)
      dependencies.push({
        from: `t${Math.max(0, to - 1 - Math.floor(dice() * 200))}`,
        to: `t${to}`,
        kind: dice() < 0.8 ? 'FS' : WAIT_KINDS[Math.floor(dice() * 4)]!,
        lag: dice() < 0.2 ? Math.floor(dice() * 5) * 480 : 0,
      })
  return { activities, dependencies }
}

/** A longest-way pass over the library's order: earliest finishes alone. */
function byGraphlib({ activities, dependencies }: ReturnType<typeof network>): number {
  const graph = new Graph({ multigraph: true })
  for (const { id, length } of activities) graph.setNode(id, length)
  dependencies.forEach(({ from, to, lag }, i) => graph.setEdge(from, to, lag, String(i)))
  const finish = new Map<string, number>()
  let last = 0
  for (const id of alg.topsort(graph)) {
    let start = 0
    for (const edge of graph.inEdges(id) ?? [])
      start = Math.max(start, finish.get(edge.v)! + (graph.edge(edge) as number))
    const end = start + (graph.node(id) as number)
    finish.set(id, end)
    last = Math.max(last, end)
  }
  return last
}

const time = (runs: number, work: (run: number) => void): number => {
  const taken: number[] = []
  for (let i = 0; i < runs; i++) {
    const began = performance.now()
    work(i)
    taken.push(performance.now() - began)
  }
  return quantile(taken, 0.5)
}

for (const [count, most] of [
  [1000, 5],
  [10_000, 50],
  [50_000, 300],
] as const) {
  const one = network(count, 5)
  const runs = count > 20_000 ? 5 : 15
  const ours = time(runs, () => void scheduleOf(one.activities, one.dependencies))
  const theirs = time(runs, () => void byGraphlib(one))
  print({
    what: `network of ${count.toLocaleString('en')} tasks, both passes`,
    ours: ms(ours),
    reference: `${ms(theirs)} graphlib`,
    ratio: ours / theirs,
    goal: `< ${most} ms, ≤ 0.5`,
    met: ours < most && ours / theirs <= 0.5,
  })
}

/** A tree whose tasks wait for earlier ones. */
function plannedTree(count: number, estimates: boolean): ReturnType<typeof sampleTree> {
  const tree = sampleTree(count)
  const dice = random(11)
  const { tasks } = withLengths(tree, estimates, dice)
  const changes: Change[] = []
  tasks.forEach((topic, i) => {
    for (let n = Math.min(i, Math.floor(dice() * 3)); n > 0; n--)
      changes.push({
        op: 'put',
        topic,
        set: 'waits',
        member: {
          id: `w${n}`,
          on: tasks[i - 1 - Math.floor(dice() * Math.min(i, 60))]!,
          kind: dice() < 0.85 ? 'FS' : 'SS',
          lag: dice() < 0.2 ? 2 : 0,
          days: 'working',
        },
      })
  })
  for (let at = 0; at < changes.length; at += 5000) applyChanges(tree, changes.slice(at, at + 5000))
  return tree
}

function withLengths(tree: ReturnType<typeof sampleTree>, estimates: boolean, dice: () => number): { tasks: string[] } {
  const changes: Change[] = [{ op: 'tree', field: 'planFrom', value: '2027-01-11' }]
  for (const topic of tree.topics.keys()) {
    if (topic === tree.centre) continue
    const length = 1 + Math.floor(dice() * 8)
    changes.push({ op: 'set', topic, field: 'duration', value: length })
    if (estimates)
      changes.push({
        op: 'set',
        topic,
        field: 'estimate',
        value: { best: length / 2, likely: length, worst: length * 3 },
      })
  }
  applyChanges(tree, changes)
  return plannedIn(tree)
}

const tree = plannedTree(10_000, false)
const whole = planOf(tree, '2027-01-11')
const tasks = typeof whole === 'string' ? [] : [...whole.tasks.keys()]
const dice = random(13)
const planning = new Planning(
  () => tree,
  () => '2027-01-11',
)
planning.get()
const change = (): ReturnType<typeof applyChanges> => {
  const topic = tasks[Math.floor(dice() * tasks.length)]!
  const value = ((topicOf(tree, topic).duration ?? 1) % 9) + 1
  return applyChanges(tree, [{ op: 'set', topic, field: 'duration', value }])
}
/** Of each change the time that the plan takes to go along, against that of the whole plan afresh in the same run. */
const [along, afresh]: [number[], number[]] = [[], []]
for (let run = 0; run < 40; run++) {
  const touched = touchedBy(change())
  const at = performance.now()
  planning.changed(touched)
  planning.get()
  const then = performance.now()
  planOf(tree, '2027-01-11')
  along.push(then - at)
  afresh.push(performance.now() - then)
}
const [changed, anew] = [quantile(along, 0.5), quantile(afresh, 0.5)]
print({
  what: `a changed task at 10,000 topics (${tasks.length} tasks)`,
  ours: ms(changed),
  reference: `${ms(anew)} afresh`,
  ratio: changed / anew,
  goal: '< 2 ms',
  met: changed < 2,
})

const estimated = plannedTree(1900, true)
const began = performance.now()
const going = chancesOf(estimated, '2027-01-11', { rounds: 10_000, seed: 1, shape: 'beta' })
let step = going.next()
while (!step.done) step = going.next()
const taken = performance.now() - began
const made = step.value
print({
  what: `chances, ${typeof made === 'string' ? made : made.estimated} tasks × 10,000 rounds`,
  ours: ms(taken),
  reference: '',
  ratio: 0,
  goal: '< 3,000 ms',
  met: taken < 3000,
})
