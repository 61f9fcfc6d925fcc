import sharp from 'sharp'
import type { Caller } from '../caller'

/* What tests of a topic’s substance ask of a tree. */

export const topicsOf = async (caller: Caller, id: string) =>
  new Map((await caller.open(id)).snapshot.topics.map(one => [one.title ?? '', one]))

export const picture = (): Promise<Buffer> =>
  sharp({ create: { width: 200, height: 120, channels: 3, background: '#3e7b4f' } })
    .png()
    .toBuffer()
