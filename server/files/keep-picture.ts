import { Fault } from '../access/fault'
import { redraw } from './picture'
import { storeFile } from './store'

/** Looks inside, draws anew and keeps a picture; what a topic needs to show it. */
export async function keepPicture(
  treeId: string,
  userId: string,
  sent: Buffer,
): Promise<{ id: string; width: number; height: number }> {
  const { data, type, width, height } = await redraw(sent)
  const stored = await storeFile(treeId, userId, data, { type, width, height })
  if (!stored)
    throw new Fault(
      413,
      'no-room',
      'The files of this tree take up all the room they have (500 MB). Nothing was changed.',
    )
  return { id: stored.id, width, height }
}
