import { createHash } from 'node:crypto'
import type { IncomingMessage } from 'node:http'
import { and, eq, like } from 'drizzle-orm'
import { fileTypeFromBuffer } from 'file-type'
import { nanoid } from 'nanoid'
import type { Attachment } from '#core/tree'
import { Fault } from '../access/fault'
import { again } from '../database/again'
import { database, isThere } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { fileChunks, files } from '../database/schema'
import { keepPicture } from './keep-picture'
import { fileLimit, inMegabytes } from './limit'
import { hasRoom } from './room'
import { CHUNK, readChunks } from './store'

/*
 * Files come in as a stream and go into the database piece by piece, under an address of their own until the last byte
 * is there and their hash is known. What breaks off is taken out again; what a crash left behind is swept up a day
 * later.
 */

const ARRIVING = 'arriving-'
const A_DAY_MS = 86_400_000
const PICTURES = ['image/png', 'image/jpeg', 'image/gif', 'image/webp', 'image/avif', 'image/tiff']
const PICTURE_NAMES = /\.(?:png|jpe?g|gif|webp|avif|tiff?)$/i
const ENOUGH_TO_TELL = 4200

/** What arrived: an attachment but for its own id. */
export type Arrived = Omit<Attachment, 'id'>

/**
 * Takes one file in. Refuses, leaving nothing behind, what is too large, empty, breaks off, or is a picture by name
 * and none by its bytes.
 */
export async function takeIn(treeId: string, userId: string, name: string, request: IncomingMessage): Promise<Arrived> {
  const limit = fileLimit()
  const tooLarge = new Fault(
    413,
    'too-large',
    `“${name}” is larger than ${inMegabytes(limit)}, which is the most a file may have. Nothing was changed.`,
  )
  if (Number(request.headers['content-length'] ?? 0) > limit) throw tooLarge
  const arriving = `${ARRIVING}${Date.now().toString(36)}-${nanoid(12)}`
  const hash = createHash('sha256')
  let size = 0
  let number = 0
  let head = Buffer.alloc(0)
  let waiting: Buffer[] = []
  let waitingBytes = 0
  const put = async (): Promise<void> => {
    if (waitingBytes === 0) return
    const data = Buffer.concat(waiting)
    waiting = []
    waitingBytes = 0
    for (let from = 0; from < data.length; from += CHUNK)
      await database()
        .insert(fileChunks)
        .values({ id: arriving, number: number++, data: data.subarray(from, from + CHUNK) })
  }
  try {
    for await (const piece of request as AsyncIterable<Buffer>) {
      size += piece.length
      if (size > limit) throw tooLarge
      hash.update(piece)
      if (head.length < ENOUGH_TO_TELL) head = Buffer.concat([head, piece.subarray(0, ENOUGH_TO_TELL)])
      waiting.push(piece)
      waitingBytes += piece.length
      // Whole chunks only: a file's nth piece must be where its bytes say, so that parts can be read.
      if (waitingBytes >= CHUNK) {
        const all = Buffer.concat(waiting)
        const whole = Math.floor(all.length / CHUNK) * CHUNK
        waiting = [all.subarray(0, whole)]
        waitingBytes = whole
        await put()
        waiting = whole < all.length ? [all.subarray(whole)] : []
        waitingBytes = all.length - whole
      }
    }
    if (!request.complete) throw new Fault(400, 'broken-off', `“${name}” broke off on its way. Nothing was changed.`)
    if (size === 0) throw new Fault(422, 'empty', `There is nothing in “${name}”. Nothing was changed.`)
    await put()
    const type = await typeOf(head, name)
    const preview = PICTURES.includes(type) ? await previewOf(treeId, userId, arriving) : null
    const file = hash.digest('hex')
    await settle(treeId, userId, arriving, { file, type, size })
    return { file, name, type, size, preview }
  } catch (error) {
    await database()
      .delete(fileChunks)
      .where(eq(fileChunks.id, arriving))
      .catch(() => {
        /* the sweep takes it */
      })
    throw (error as NodeJS.ErrnoException).code === 'ECONNRESET'
      ? new Fault(400, 'broken-off', `“${name}” broke off on its way. Nothing was changed.`)
      : error
  }
}

/**
 * The media type as the bytes say. Text and what nobody knows are told apart by whether there are bytes that no text
 * has.
 */
async function typeOf(head: Buffer, name: string): Promise<string> {
  const known = (await fileTypeFromBuffer(head))?.mime ?? ''
  if (PICTURE_NAMES.test(name) && !PICTURES.includes(known))
    throw new Fault(422, 'no-picture', `“${name}” has the name of a picture but isn’t one. Nothing was changed.`)
  if (known) return known.replace(/;.*$/, '').trim()
  return head.includes(0) ? 'application/octet-stream' : 'text/plain'
}

/** A picture of a picture, drawn anew; one that is broken or would unpack to too much is refused with its reason. */
async function previewOf(treeId: string, userId: string, arriving: string): Promise<Arrived['preview']> {
  const pieces: Buffer[] = []
  for await (const piece of readChunks(arriving)) pieces.push(piece)
  const { id, width, height } = await keepPicture(treeId, userId, Buffer.concat(pieces))
  return { file: id, ratio: height / width }
}

/** The same file that arrives twice at once is given its address by whoever is quicker; the other then finds it there. */
const settle = (...given: Parameters<typeof settleOnce>): Promise<void> => again(isThere, () => settleOnce(...given))

/** Gives what arrived its own address, in one step with the row that names it. */
async function settleOnce(
  treeId: string,
  userId: string,
  arriving: string,
  { file, type, size }: { file: string; type: string; size: number },
): Promise<void> {
  const fits = await inTransaction(async tx => {
    if (!(await hasRoom(tx, treeId, userId, size))) return false
    const [there] = await tx
      .select({ number: fileChunks.number })
      .from(fileChunks)
      .where(and(eq(fileChunks.id, file), eq(fileChunks.number, 0)))
    if (there) await tx.delete(fileChunks).where(eq(fileChunks.id, arriving))
    else await tx.update(fileChunks).set({ id: file }).where(eq(fileChunks.id, arriving))
    await tx
      .insert(files)
      .ignore()
      .values({ treeId, id: file, type, size, width: null, height: null, createdAt: new Date(), createdBy: userId })
    return true
  })
  if (!fits)
    throw new Fault(
      413,
      'no-room',
      'There’s no room for this file: the tree’s files, or all of yours, would take more than they may. Nothing was changed.',
    )
}

/** Takes out what began to arrive more than a day ago and never did. */
export async function sweepArriving(): Promise<void> {
  const rows = await database()
    .selectDistinct({ id: fileChunks.id })
    .from(fileChunks)
    .where(like(fileChunks.id, `${ARRIVING}%`))
  for (const { id } of rows) {
    const began = Number.parseInt(id.slice(ARRIVING.length).split('-')[0]!, 36)
    if (!(Date.now() - began < A_DAY_MS)) await database().delete(fileChunks).where(eq(fileChunks.id, id))
  }
}
