import { createHash } from 'node:crypto'
import { and, asc, eq } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { type KeptTemplate, MOST_TEMPLATES } from '#core/handing/choice'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { ownTemplates } from '../database/schema'
import { filesFor } from './files-for'
import type { Files } from './hand-out'
import { dropMadeChunks, readMadeChunks, writeMadeChunks } from './made-chunks'

/* Templates that a person keeps for themselves: they're at hand in every tree, and nobody else sees them. */

const TYPE = 'application/octet-stream'

/** A person's templates, by name. */
export async function ownTemplatesOf(userId: string): Promise<KeptTemplate[]> {
  const rows = await database()
    .select({ id: ownTemplates.id, name: ownTemplates.name, file: ownTemplates.file, kind: ownTemplates.kind })
    .from(ownTemplates)
    .where(eq(ownTemplates.userId, userId))
    .orderBy(asc(ownTemplates.name))
  return rows.map(({ kind, ...kept }) => (kind === 'pptx' ? { ...kept, kind } : kept))
}

/** Keeps one, in place of one of its name. Throws a `Fault` when somebody has as many as one may. */
export async function keepOwnTemplate(
  userId: string,
  name: string,
  data: Buffer,
  kind: KeptTemplate['kind'],
): Promise<KeptTemplate> {
  const file = createHash('sha256').update(data).digest('hex')
  const id = nanoid(16)
  await inTransaction(async tx => {
    const rows = await tx
      .select({ id: ownTemplates.id, name: ownTemplates.name })
      .from(ownTemplates)
      .where(eq(ownTemplates.userId, userId))
      .for('update')
    const same = rows.find(one => one.name === name)
    if (!same && rows.length >= MOST_TEMPLATES)
      throw new Fault(409, 'too-many', `One keeps ${MOST_TEMPLATES} templates at most. Forget one of them first.`)
    if (same) {
      await tx.delete(ownTemplates).where(eq(ownTemplates.id, same.id))
      await dropMadeChunks(tx, [same.id])
    }
    await tx.insert(ownTemplates).values({ ...{ id, userId, name, file, kind }, size: data.length, at: new Date() })
    await writeMadeChunks(tx, id, data)
  })
  return { id, name, file, ...(kind ? { kind } : {}) }
}

/** Throws a `Fault` where somebody has no such template. */
async function mustBeTheirs(userId: string, id: string): Promise<void> {
  const [row] = await database()
    .select({ id: ownTemplates.id })
    .from(ownTemplates)
    .where(and(eq(ownTemplates.userId, userId), eq(ownTemplates.id, id)))
  if (!row) throw new Fault(404, 'no-template', 'There is no such template of yours any more.')
}

/** The bytes of one of a person's templates. Throws a `Fault` where there is none. */
export async function readOwnTemplate(userId: string, id: string): Promise<Buffer> {
  await mustBeTheirs(userId, id)
  return readMadeChunks(id)
}

/** Forgets one. Throws a `Fault` where there is none. */
export async function dropOwnTemplate(userId: string, id: string): Promise<void> {
  await mustBeTheirs(userId, id)
  await inTransaction(async tx => {
    await tx.delete(ownTemplates).where(eq(ownTemplates.id, id))
    await dropMadeChunks(tx, [id])
  })
}

/** The files of a tree, and those of one's own templates: what `template` asks for where the tree doesn't keep it. */
export async function withOwnTemplate(
  treeId: string,
  userId: string,
  kept: readonly KeptTemplate[],
  template: string | null,
): Promise<{ own: readonly KeptTemplate[]; need: (files: unknown) => Promise<Files> }> {
  const fromTree = (files: unknown): Promise<Files> => filesFor(treeId, files as string[])
  if (template === null || kept.some(({ id }) => id === template)) return { own: [], need: fromTree }
  const own = (await ownTemplatesOf(userId)).filter(({ id }) => id === template)
  return {
    own,
    need: async files => {
      const wanted = own.find(({ file }) => (files as string[]).includes(file))
      return {
        ...(await fromTree(files)),
        ...(wanted ? { [wanted.file]: { type: TYPE, bytes: await readMadeChunks(wanted.id) } } : {}),
      }
    },
  }
}
