import { findFile, readChunks } from '../files/store'
import type { Files } from './hand-out'

/** Bytes of pictures and files that one hand-out takes along at most; what is beyond is named in it. */
const MOST_BYTES = 96 * 1024 * 1024

/** The bytes of a tree's files, by hash; what isn't the tree's, or is too much, is left out. */
export async function filesFor(treeId: string, hashes: readonly string[]): Promise<Files> {
  const found: Record<string, { type: string; bytes: Uint8Array }> = {}
  let left = MOST_BYTES
  for (const hash of new Set(hashes)) {
    const file = await findFile(treeId, hash)
    if (!file || file.size > left) continue
    left -= file.size
    const pieces: Buffer[] = []
    for await (const piece of readChunks(hash)) pieces.push(piece)
    found[hash] = { type: file.type, bytes: Buffer.concat(pieces) }
  }
  return found
}
