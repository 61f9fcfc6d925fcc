import { flextree } from 'd3-flextree'
import { Layout } from '../../core/arrange/layout'
import { type Arrangement, childrenOf, setAll, applyChanges, touchedBy, type Tree } from '../../core/tree'
import { sampleTree } from './samples'
import { ms, print, quantile, random } from './table'

/* Arranges whole trees, against d3-flextree on the same tree and sizes; then one change in them. */

interface Node {
  size: [number, number]
  children: Node[]
}

function sizes(tree: Tree): Map<string, { width: number; height: number }> {
  const dice = random(3)
  return new Map(
    [...tree.topics.keys()].map(id => [
      id,
      { width: 40 + Math.floor(dice() * 200), height: 28 + Math.floor(dice() * 3) * 18 },
    ]),
  )
}

function time(runs: number, work: () => void): number {
  const taken: number[] = []
  for (let i = 0; i < runs; i++) {
    const began = performance.now()
    work()
    taken.push(performance.now() - began)
  }
  return quantile(taken, 0.5)
}

const perTopic: number[] = []
for (const count of [1000, 10_000, 50_000]) {
  const tree = sampleTree(count)
  const size = sizes(tree)
  const node = (id: string): Node => ({
    size: [size.get(id)!.height + 9, size.get(id)!.width + 34],
    children: childrenOf(tree, id).map(node),
  })
  const data = node(tree.centre)
  const runs = count > 20_000 ? 5 : 15
  const reference = time(runs, () => {
    const layout = flextree<Node>({ children: d => d.children, nodeSize: one => one.data.size, spacing: 0 })
    layout(layout.hierarchy(data))
  })
  const look = { size: (id: string) => size.get(id)!, folded: () => false }
  const layout = new Layout(tree, look, { arrangement: 'right' })
  const ours = time(runs, () => {
    layout.reset()
    layout.bounds()
  })
  perTopic.push(ours / count)
  print({
    what: `arrange ${count.toLocaleString('en')} topics`,
    ours: ms(ours),
    reference: ms(reference),
    ratio: ours / reference,
    goal: '< 0.2 × d3-flextree',
    met: ours / reference < 0.2,
  })
  const ids = [...tree.topics.keys()]
  const dice = random(5)
  const one = time(200, () => {
    const id = ids[1 + Math.floor(dice() * (ids.length - 1))]!
    const topic = size.get(id)!
    size.set(id, { ...topic, width: topic.width + 10 })
    layout.touch(touchedBy(applyChanges(tree, setAll(tree, [id], 'title', `x${dice()}`).changes)))
    layout.bounds()
  })
  print({
    what: `one change in ${count.toLocaleString('en')} topics`,
    ours: ms(one),
    reference: ms(ours),
    ratio: one / ours,
    goal: 'a part of a frame',
    met: one < 8,
  })
}
/* The other arrangements on ten and fifty thousand topics, against the rightward one. */
for (const count of [10_000, 50_000]) {
  const tree = sampleTree(count)
  const size = sizes(tree)
  const layout = new Layout(
    tree,
    { size: id => size.get(id)!, folded: () => false },
    { arrangement: 'right', today: '2027-03-01' },
  )
  const whole = (arrangement: Arrangement): number =>
    time(count > 20_000 ? 5 : 11, () => {
      layout.reset({ arrangement, today: '2027-03-01' })
      layout.bounds()
    })
  const reference = whole('right')
  for (const arrangement of ['both', 'down', 'around', 'time', 'hand'] as const) {
    const ours = whole(arrangement)
    print({
      what: `arrange ${count.toLocaleString('en')} topics: ${arrangement}`,
      ours: ms(ours),
      reference: ms(reference),
      ratio: ours / reference,
      goal: '< 6 × rightward',
      met: ours / reference < 6,
    })
    const ids = [...tree.topics.keys()]
    const dice = random(5)
    const nothing = { plank() {}, line() {}, block() {} }
    const one = time(100, () => {
      const id = ids[1 + Math.floor(dice() * (ids.length - 1))]!
      const topic = size.get(id)!
      size.set(id, { ...topic, width: 40 + Math.floor(dice() * 200) })
      layout.touch(touchedBy(applyChanges(tree, setAll(tree, [id], 'title', `x${dice()}`).changes)))
      const { x, y } = layout.find(id)!
      layout.scan({ x: x - 640, y: y - 400, width: 1280, height: 800 }, 0, nothing)
    })
    print({
      what: `one change and a look at it in ${count.toLocaleString('en')}: ${arrangement}`,
      ours: ms(one),
      reference: ms(ours),
      ratio: one / ours,
      goal: 'a part of a frame',
      met: one < 8,
    })
  }
}
const slope = perTopic[2]! / perTopic[1]!
print({
  what: 'linear: time a topic, 50k against 10k',
  ours: `${(perTopic[2]! * 1e6).toFixed(0)} ns`,
  reference: `${(perTopic[1]! * 1e6).toFixed(0)} ns`,
  ratio: slope,
  goal: '< 2',
  met: slope < 2,
})
