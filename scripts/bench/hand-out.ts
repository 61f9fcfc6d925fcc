import { Document, Packer, Paragraph } from 'docx'
import { openHouse } from '../../tests/house'
import { signUp } from '../../tests/caller'
import { KIND_NAMES } from '../../core/handing/choice'
import { shelves } from './shelves'
import { ms, print, quantile } from './table'

/*
 * Trees of 1,000 and 10,000 topics handed out as every kind, against opening the same tree in the same run; and how long somebody
 * else's edits take meanwhile.
 */

const GOALS: Readonly<Record<number, number>> = { 1_000: 2_000, 10_000: 15_000 }
const house = await openHouse({ env: { WRITES_A_MINUTE: '1000000' } })
const ines = await signUp(house.url)
for (const topics of [1_000, 10_000]) {
  const id = await shelves(ines, 'Move to the tannery', topics)
  const opened: number[] = []
  for (let i = 0; i < 5; i++) {
    const at = performance.now()
    await ines.open(id)
    opened.push(performance.now() - at)
  }
  const other = await ines.makeTree('Beside it')
  // One of one's own, as plain as there is one.
  const letter = await Packer.toBuffer(
    new Document({ sections: [{ children: [new Paragraph('{{title}}'), new Paragraph('{{tree}}')] }] }),
  )
  const kept = await fetch(`${house.url}/api/trees/${id}/attachments?name=letter.docx`, {
    method: 'POST',
    headers: { cookie: ines.cookie, 'content-type': 'application/octet-stream' },
    body: new Uint8Array(letter),
  })
  const { file } = (await kept.json()) as { file: string }
  await ines.edit(id, [{ op: 'tree-put', set: 'templates', member: { id: 'letter', name: 'Letter', file } }])
  const kinds = [...KIND_NAMES.map(as => ({ as, template: null })), { as: 'docx', template: 'letter' } as const]
  for (const { as, template } of kinds) {
    let going = true
    const waits: number[] = []
    const beside = (async () => {
      for (let n = 0; going; n++) {
        const at = performance.now()
        await ines.edit(other, [
          { op: 'add', topic: `n${as}${template ?? ''}${n}`, parent: null, order: 'a0', with: { title: `Line ${n}` } },
        ])
        waits.push(performance.now() - at)
        await new Promise(done => setTimeout(done, 20))
      }
    })()
    const began = performance.now()
    const response = await fetch(`${house.url}/api/trees/${id}/hand-out`, {
      method: 'POST',
      headers: { cookie: ines.cookie, 'content-type': 'application/json' },
      // A picture of ten thousand topics is drawn at its own size.
      body: JSON.stringify({ as, template, scale: 1 }),
    })
    const bytes = (await response.arrayBuffer()).byteLength
    const took = performance.now() - began
    going = false
    await beside
    const goal = GOALS[topics]!
    print({
      what: `${topics.toLocaleString('en')} topics as ${as}${template ? ' into a template' : ''}, ${Math.round(bytes / 1024)} kB (${response.status}), edits beside ${ms(quantile(waits, 0.95))}`,
      ours: ms(took),
      reference: `${ms(quantile(opened, 0.5))} to open it`,
      ratio: took / quantile(opened, 0.5),
      goal: `< ${goal} ms`,
      met: response.status === 200 && took < goal,
    })
  }
}
await house.close()
