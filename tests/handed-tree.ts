import sharp from 'sharp'
import { noteFromMarkdown } from '../core/formats/note-text'
import { bodyOf } from '../core/talk/body'
import { type Caller, newId, signUp } from './caller'

/* A tree with something of all that may go along when it's handed out. */

export const TITLES = ['Move <to> & "tannery"', 'Fit-out', 'Lift', 'שלום עולם', '図書館の引っ越し', 'Party 🎉', 'Books']

export interface HandedTree {
  readonly ines: Caller
  readonly tree: string
  /** Its picture, as a file of the tree. */
  readonly picture: string
}

export async function handedTree(url: string): Promise<HandedTree> {
  const ines = await signUp(url, 'Ines Brandt')
  const tree = await ines.makeTree(TITLES[0])
  const { centre } = (await ines.open(tree)).snapshot
  const png = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#c04020' } })
    .png()
    .toBuffer()
  const upload = async (path: string, data: Buffer | string, type: string): Promise<{ id: string; file: string }> =>
    (await (
      await fetch(`${url}/api/trees/${tree}/${path}`, {
        method: 'POST',
        headers: { cookie: ines.cookie, 'content-type': type },
        body: new Uint8Array(Buffer.from(data)),
      })
    ).json()) as { id: string; file: string }
  const stored = await upload('pictures', png, 'image/png')
  const picture = stored.file ?? stored.id
  const attached = (await upload('attachments?name=offer-of-the-lift.txt', 'the offer', 'text/plain')) as unknown as {
    file: string
    name: string
    type: string
    size: number
    preview: null
  }
  const add = (topic: string, parent: string, order: string, more: object) => ({
    op: 'add' as const,
    topic,
    parent,
    order,
    with: more,
  })
  await ines.edit(tree, [
    add('fitout', centre, 'a0', { title: 'Fit-out', done: 40 }),
    add('books', centre, 'a1', { title: 'Books' }),
    add('lift', 'fitout', 'a0', {
      title: 'Lift',
      people: [ines.id],
      due: '2027-05-12',
      markers: ['decision'],
      note: noteFromMarkdown(
        `A **bold** word: Zementestrich.\n\n- one\n- two\n\n| A | B |\n|---|---|\n| 1 | 2 |\n\n![plan](${picture})`,
      ),
      links: [{ id: 'l', url: 'https://lift.example/?a=1&b=2', title: 'Liftwerk' }],
      files: [{ id: 'f', ...attached }],
      picture: { file: picture, width: 80, ratio: 0.75, place: 'above' },
      figures: [{ id: 'kosten', measure: 'kosten', whatIf: null, text: '9876.5', target: null, range: null }],
      ties: [{ id: 't', to: 'books', label: 'same lorry', ends: 'to', bend: null, hue: null }],
    }),
    {
      op: 'tree-put',
      set: 'measures',
      member: {
        id: 'kosten',
        order: 'a0',
        name: 'Kosten',
        unit: 'EUR',
        decimals: 2,
        rounding: 'half-even',
        rollUp: 'sum',
        by: null,
        hue: null,
        limit: 'most',
        onPlank: true,
      },
    },
    add('hebrew', 'fitout', 'a1', { title: 'שלום עולם' }),
    add('japan', 'books', 'a0', { title: '図書館の引っ越し' }),
    add('party', 'books', 'a1', { title: 'Party 🎉' }),
    add('control', 'books', 'a2', { title: 'a\u0007b\uFFFEc' }),
  ] as never)
  const comment = newId()
  await ines.call('POST', `/api/trees/${tree}/talk`, {
    id: newId(),
    op: 'say',
    comment,
    thread: comment,
    place: { on: 'topic', topic: 'lift' },
    body: bodyOf('Fahrkorbtiefe?'),
  })
  return { ines, tree, picture }
}
