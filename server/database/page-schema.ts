import { mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core'
import { instant, key } from './columns'

/** What web pages behind a tree's links say of themselves, fetched once where the tree's owners let that be. */
export const linkedPages = mysqlTable(
  'linked_pages',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    /** SHA-256 of the address. */
    id: key('id', { length: 64 }).notNull(),
    address: varchar('address', { length: 2000 }).notNull(),
    /** '' with a summary of '' where nothing could be had. */
    title: varchar('title', { length: 300 }).notNull(),
    summary: varchar('summary', { length: 600 }).notNull(),
    /** A file of the tree; null for none. */
    picture: key('picture', { length: 64 }),
    at: instant('at').notNull(),
  },
  table => [primaryKey({ columns: [table.treeId, table.id] })],
)
