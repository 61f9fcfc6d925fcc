import { openHouse } from '../../tests/house'
import { bringIn, newId, signUp } from '../../tests/caller'
import { ms, print, quantile } from './table'

/* One person's edits while a viewer floods the same tree, against the same edits without. */

const EDITS = 300
const house = await openHouse()
const [ines, rana] = [await signUp(house.url), await signUp(house.url, 'Rana')]
const tree = await ines.makeTree()
await bringIn(ines, tree, rana, 'viewer')
const line = ines.line(tree)
await line.hello(0)
let number = 0

async function edits(): Promise<number[]> {
  const took: number[] = []
  for (let i = 0; i < EDITS; i++) {
    const began = performance.now()
    number++
    const due = number
    line.say({
      type: 'edit',
      edit: { id: newId(), changes: [{ op: 'add', topic: newId(), parent: null, order: 'a0' }] },
    })
    await line.until(() => line.of('news').some(news => news.edits.some(edit => edit.number === due)))
    took.push(performance.now() - began)
    line.heard.length = 0
  }
  return took
}
await edits()
const calm = await edits()
let going = true
/** Comes back as soon as it's cut. */
const flooding = (async () => {
  while (going) {
    const flood = rana.line(tree)
    await flood.hello(0).catch(() => {})
    for (let i = 0; going && flood.closed === null; i++) {
      flood.socket.send('{"type":"ping"')
      if (i % 200 === 0) await new Promise(done => setImmediate(done))
    }
  }
})()
const stormy = await edits()
going = false
await flooding
await house.close()
for (const part of [0.5, 0.95]) {
  const [ours, reference] = [quantile(stormy, part), quantile(calm, part)]
  print({
    what: `edit under a flood, p${part * 100}`,
    ours: ms(ours),
    reference: ms(reference),
    ratio: ours / reference,
    goal: '≤ 2',
    met: ours / reference <= 2,
  })
}
