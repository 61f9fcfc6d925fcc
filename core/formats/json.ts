import { z } from 'zod'
import { Unreadable } from '../capture/nested'
import { id } from '../tree/atoms'
import { keptThread, type KeptThread, soundThreads } from '../talk/kept-talk'
import { orderKey } from '../tree/order-key'
import { mapTable, schemasOf } from '../tree/field-spec'
import { FIELDS } from '../tree/fields'
import { LIMITS } from '../tree/limits'
import { isNote } from '../tree/note'
import { shorten } from '../tree/title'
import { SETS } from '../tree/sets'
import { TREE_FIELDS, TREE_SETS } from '../tree/tree-fields'
import { fromSnapshot, type Snapshot, toSnapshot } from '../tree/snapshot'
import type { Tree } from '../tree/tree'
import { upgradeSnapshot } from '../tree/upgrade'

/*
 * Sun Porch JSON: the whole tree, its trash included. The one format that loses nothing. Described in
 * docs/formats/json.md; its JSON Schema is made from the schema below.
 */

const topicSchema = z.strictObject({
  id,
  parent: id.nullable(),
  order: orderKey,
  removed: z.boolean().optional(),
  ...mapTable(FIELDS, spec => spec.schema.optional()),
  ...mapTable(SETS, spec => z.array<z.ZodType>(spec.schema).max(spec.most).optional()),
  note: z
    .string()
    .regex(/^[A-Za-z0-9+/]*={0,2}$/)
    .nullable()
    .optional(),
})

export const fileSchema = z.strictObject({
  format: z.literal('sun-porch-tree'),
  version: z.literal(1),
  people: z.record(id, z.string().max(200)).optional().describe('Names of the people that topics refer to, by id.'),
  tree: z.strictObject({
    format: z.int().min(1).optional(),
    centre: id,
    fields: z
      .strictObject({
        ...schemasOf(TREE_FIELDS),
        ...mapTable(TREE_SETS, spec => z.array<z.ZodType>(spec.schema).max(spec.most)),
      })
      .partial(),
    topics: z.array(topicSchema).min(1).max(LIMITS.topics),
  }),
  of: z
    .strictObject({ tree: id, number: z.int().min(0), epoch: z.string().max(20) })
    .optional()
    .describe(
      'The tree that was written, the number of the newest edit in it, and the epoch in which that number counts.',
    ),
  talk: z
    .array(keptThread)
    .max(100_000)
    .optional()
    .describe('What was said: threads of comments, and the talk of the tree.'),
})

/** Which state of which tree a file holds, by which it's merged again when it comes back changed. */
export interface Stamp {
  readonly tree: string
  readonly number: number
  readonly epoch: string
}

export function writeJson(
  tree: Tree,
  people: Record<string, string> = {},
  talk: readonly KeptThread[] = [],
  of?: Stamp,
): string {
  return JSON.stringify(
    {
      format: 'sun-porch-tree',
      version: 1,
      ...(of ? { of } : {}),
      people,
      tree: toSnapshot(tree),
      ...(talk.length > 0 ? { talk } : {}),
    },
    null,
    1,
  )
}

/**
 * Reads a file of ours. Every address must be known, the centre must be a root, and no topic may lie above itself; for one in which it
 * isn't so, and for what is no such file, it throws `Unreadable` with words for the person.
 */
export function readJson(text: string): {
  tree: Tree
  people: Record<string, string>
  talk: readonly KeptThread[]
  of: Stamp | null
} {
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch {
    throw new Unreadable('This isn’t JSON. Nothing was changed.')
  }
  const parsed = fileSchema.safeParse(inThisFormat(raw))
  if (!parsed.success) {
    const issue = parsed.error.issues[0]
    throw new Unreadable(
      `This isn’t a Sun Porch file: ${issue?.path.join('.') || 'file'}: ${issue?.message ?? 'not understood'}. Nothing was changed.`,
    )
  }
  const snapshot = parsed.data.tree as unknown as Snapshot
  for (const { title, note } of snapshot.topics)
    if (note && !isNote(note))
      throw new Unreadable(`The note of “${shorten(title ?? '')}” can’t be read. Nothing was changed.`)
  const parents = new Map(snapshot.topics.map(topic => [topic.id, topic.parent]))
  if (parents.size !== snapshot.topics.length)
    throw new Unreadable('Two topics in this file have the same id. Nothing was changed.')
  if (parents.get(snapshot.centre) !== null)
    throw new Unreadable('The centre of this file isn’t a topic at the top. Nothing was changed.')
  for (const start of parents.keys()) {
    let steps = 0
    for (let at: string | null | undefined = start; at !== null; at = parents.get(at)) {
      if (at === undefined || !parents.has(at))
        throw new Unreadable('A topic in this file has a parent that isn’t there. Nothing was changed.')
      if (++steps > LIMITS.depth)
        throw new Unreadable('Topics in this file lie above themselves, or too deep. Nothing was changed.')
    }
  }
  const tree = fromSnapshot(snapshot)
  const talk = soundThreads(parsed.data.talk ?? [], topic => tree.topics.has(topic))
  return { tree, people: parsed.data.people ?? {}, talk, of: parsed.data.of ?? null }
}

/** Files of an earlier version say some things in other words. Throws `Unreadable` for one of a later version. */
function inThisFormat(raw: unknown): unknown {
  if (typeof raw !== 'object' || raw === null || !('tree' in raw)) return raw
  try {
    return { ...raw, tree: upgradeSnapshot(raw.tree) }
  } catch (error) {
    if (error instanceof RangeError)
      throw new Unreadable('A newer version of Sun Porch wrote this file. Nothing was changed.')
    throw error
  }
}

/** The JSON Schema (draft 2020-12) of the format. */
export function jsonSchema(): object {
  return z.toJSONSchema(fileSchema, { unrepresentable: 'any' })
}
