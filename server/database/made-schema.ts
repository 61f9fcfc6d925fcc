import { index, int, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core'
import { bytes, instant, key } from './columns'

/* What was made of trees to be handed out, kept for a day for whoever asked for it; and what a person keeps to hand out with. */

export const madeFiles = mysqlTable(
  'made_files',
  {
    id: key('id', { length: 40 }).primaryKey(),
    treeId: key('tree_id', { length: 40 }).notNull(),
    userId: key('user_id', { length: 40 }).notNull(),
    /** As what: a kind of the choice. */
    kind: key('kind', { length: 20 }).notNull(),
    /** `making`, `made` or `failed`. */
    state: key('state', { length: 10 }).notNull(),
    /** The name of the file; '' until it's made. */
    name: varchar('name', { length: 300 }).notNull(),
    type: varchar('type', { length: 120 }).notNull(),
    size: int('size').notNull(),
    /** Why it couldn't be made, in words. */
    said: varchar('said', { length: 500 }).notNull(),
    at: instant('at').notNull(),
  },
  table => [index('made_files_of').on(table.treeId, table.userId), index('made_files_at').on(table.at)],
)

export const madeChunks = mysqlTable(
  'made_chunks',
  { id: key('id', { length: 40 }).notNull(), number: int('number').notNull(), data: bytes('data').notNull() },
  table => [primaryKey({ columns: [table.id, table.number] })],
)

/** Templates that a person keeps for themselves, for every tree. The bytes lie in `made_chunks`, under the same id. */
export const ownTemplates = mysqlTable(
  'own_templates',
  {
    id: key('id', { length: 40 }).primaryKey(),
    userId: key('user_id', { length: 40 }).notNull(),
    name: varchar('name', { length: 120 }).notNull(),
    /** SHA-256 of what is stored. */
    file: key('file', { length: 64 }).notNull(),
    /** `pptx`; null for a Word document. */
    kind: varchar('kind', { length: 4 }),
    size: int('size').notNull(),
    at: instant('at').notNull(),
  },
  table => [index('own_templates_of').on(table.userId)],
)
