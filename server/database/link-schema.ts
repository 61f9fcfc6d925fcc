import { boolean, index, int, json, mysqlTable, uniqueIndex, varchar } from 'drizzle-orm/mysql-core'
import type { LinkRight } from '../../core/access/principal'
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
    may: varchar('may', { length: 20 }).$type<LinkRight>().notNull().default('look'),
    /** Where the page may stand in a frame: origins of other sites. */
    hosts: json('hosts').$type<readonly string[]>().notNull().default([]),
    /** Whether search engines may list it. */
    listed: boolean('listed').notNull(),
    opened: int('opened').notNull().default(0),
    lastOpened: instant('last_opened'),
  },
  table => [uniqueIndex('guest_links_token').on(table.tokenHash), index('guest_links_tree').on(table.treeId)],
)

/** Whoever came by a link and gave a name. They stay when the link goes: what they did is theirs. */
export const linkGuests = mysqlTable(
  'link_guests',
  {
    id: key('id', { length: 40 }).primaryKey(),
    linkId: key('link_id', { length: 40 }).notNull(),
    treeId: key('tree_id', { length: 40 }).notNull(),
    name: varchar('name', { length: 80 }).notNull(),
    at: instant('at').notNull(),
  },
  table => [index('link_guests_tree').on(table.treeId), index('link_guests_link').on(table.linkId)],
)
