import { boolean, index, int, json, mysqlTable, uniqueIndex, varchar } from 'drizzle-orm/mysql-core'
import type { HandedPart, Taken } from '../../core/tree/hand-out'
import { instant, key } from './columns'

/** Addresses that open a part of a tree to whoever has them, without an account. */
export const guestLinks = mysqlTable(
  'guest_links',
  {
    id: key('id', { length: 40 }).primaryKey(),
    treeId: key('tree_id', { length: 40 }).notNull(),
    /** What is in the address is nowhere else; this is its hash. */
    tokenHash: key('token_hash', { length: 64 }).notNull(),
    madeBy: key('made_by', { length: 40 }).notNull(),
    madeAt: instant('made_at').notNull(),
    name: varchar('name', { length: 120 }).notNull(),
    part: json('part').$type<HandedPart>().notNull(),
    along: json('along').$type<readonly Taken[]>().notNull(),
    copying: boolean('copying').notNull(),
    /** The hash of a word that has to be known too. */
    wordHash: varchar('word_hash', { length: 400 }),
    until: instant('until'),
    /** Whether search engines may list it. */
    listed: boolean('listed').notNull(),
    opened: int('opened').notNull().default(0),
    lastOpened: instant('last_opened'),
  },
  table => [uniqueIndex('guest_links_token').on(table.tokenHash), index('guest_links_tree').on(table.treeId)],
)
