import { mysqlTable, primaryKey } from 'drizzle-orm/mysql-core'
import { instant, key } from './columns'

/*
 * Who opened what a meeting is about, beforehand. It isn't part of the tree: nothing is edited by reading. Shown to those in the
 * tree, and people are told that it is.
 */

/** When somebody had an item of a meeting open last, and which words it had then. */
export const readItems = mysqlTable(
  'read_items',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    topicId: key('topic_id', { length: 40 }).notNull(),
    userId: key('user_id', { length: 40 }).notNull(),
    /** Of the words (core/meeting/reading.ts); '' for whoever was only reminded so far. */
    digest: key('digest', { length: 40 }).notNull(),
    at: instant('at'),
    /** When a letter asked them to read it. */
    remindedAt: instant('reminded_at'),
  },
  table => [primaryKey({ columns: [table.treeId, table.topicId, table.userId] })],
)

/** When somebody opened a document of a tree first. */
export const openedFiles = mysqlTable(
  'opened_files',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    fileId: key('file_id', { length: 64 }).notNull(),
    userId: key('user_id', { length: 40 }).notNull(),
    at: instant('at').notNull(),
  },
  table => [primaryKey({ columns: [table.treeId, table.fileId, table.userId] })],
)
