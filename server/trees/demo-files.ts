import { createHash } from 'node:crypto'
import { nanoid } from 'nanoid'
import sharp from 'sharp'
import { allTopics, applyChanges, type Attachment, type Tree } from '#core/tree'
import { OFFER, PLAN } from '#demo/offer-pdf'
import { redraw } from '../files/picture'
import { storeFile } from '../files/store'

interface Kept {
  readonly data: Buffer
  readonly type: string
  readonly width?: number
  readonly height?: number
}

const hashOf = (data: Buffer): string => createHash('sha256').update(data).digest('hex')

/** Hangs the demo's papers on their topics. Returns what stores their bytes once the tree is there. */
export async function hangDemoFiles(tree: Tree): Promise<(treeId: string, userId: string) => Promise<void>> {
  const offer = Buffer.from(OFFER, 'latin1')
  const plan = await sharp(Buffer.from(PLAN)).png().toBuffer()
  const { data: drawn, type, width, height } = await redraw(plan)
  const kept: Kept[] = [
    { data: offer, type: 'application/pdf' },
    { data: plan, type: 'image/png' },
    { data: drawn, type, width, height },
  ]
  const hang = (title: string, file: Omit<Attachment, 'id'>): void => {
    const topic = [...allTopics(tree)].find(one => one.title === title)
    if (topic) applyChanges(tree, [{ op: 'put', topic: topic.id, set: 'files', member: { id: nanoid(12), ...file } }])
  }
  hang('Offer from Two Rivers Carriers', {
    file: hashOf(offer),
    name: 'Offer of the carriers.pdf',
    type: 'application/pdf',
    size: offer.length,
    preview: null,
  })
  hang('Reading room', {
    file: hashOf(plan),
    name: 'Plan of the reading room.png',
    type: 'image/png',
    size: plan.length,
    preview: { file: hashOf(drawn), ratio: height / width },
  })
  return async (treeId, userId) => {
    for (const { data, ...about } of kept) await storeFile(treeId, userId, data, about)
  }
}
