import { boolean, index, int, json, mediumtext, mysqlTable, primaryKey, uniqueIndex } from 'drizzle-orm/mysql-core'
import type { Body } from '../../core/talk/body'
import type { Place, Saying } from '../../core/talk/saying'
import type { Comment, Settled } from '../../core/talk/thread'
import { instant, key } from './columns'

/*
 * What is said in a tree: a sequence of its own beside the log of edits, and threads and comments as they are now, kept current in
 * the transaction of each saying.
 */

/** The number of the newest saying of a tree; the row is held while one is stored. */
export const talks = mysqlTable('talks', {
  treeId: key('tree_id', { length: 40 }).primaryKey(),
  number: int('number').notNull(),
})

/** The log of sayings. Of withdrawn comments it keeps that they were, not their words. */
export const sayings = mysqlTable(
  'sayings',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    number: int('number').notNull(),
    sayingId: key('saying_id', { length: 40 }).notNull(),
    userId: key('user_id', { length: 40 }).notNull(),
    at: instant('at').notNull(),
    /** The comment that it's about; '' for a whole thread. */
    comment: key('comment', { length: 40 }).notNull(),
    threadId: key('thread_id', { length: 40 }).notNull(),
    data: json('data').$type<Saying>().notNull(),
  },
  table => [
    primaryKey({ columns: [table.treeId, table.number] }),
    uniqueIndex('sayings_once').on(table.treeId, table.sayingId),
    index('sayings_comment').on(table.treeId, table.comment),
    index('sayings_time').on(table.treeId, table.at),
  ],
)

export const threads = mysqlTable(
  'threads',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    id: key('id', { length: 40 }).notNull(),
    /** Null for the talk of the tree. */
    topicId: key('topic_id', { length: 40 }),
    place: json('place').$type<Place>().notNull(),
    settled: json('settled').$type<Settled>(),
    /** Comments in it, withdrawn ones too. */
    size: int('size').notNull(),
    /** The number of the newest saying in it. */
    newest: int('newest').notNull(),
  },
  table => [
    primaryKey({ columns: [table.treeId, table.id] }),
    index('threads_topic').on(table.treeId, table.topicId),
    index('threads_newest').on(table.treeId, table.newest),
  ],
)

export const comments = mysqlTable(
  'comments',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    id: key('id', { length: 40 }).notNull(),
    threadId: key('thread_id', { length: 40 }).notNull(),
    number: int('number').notNull(),
    by: key('by_user', { length: 40 }).notNull(),
    at: instant('at').notNull(),
    edited: instant('edited'),
    withdrawn: boolean('withdrawn').notNull().default(false),
    body: json('body').$type<Body>(),
    /** Its words, folded, to be searched. */
    text: mediumtext('text').notNull(),
    /** Accounts that are mentioned, and `all`. */
    mentions: json('mentions').$type<readonly string[]>().notNull(),
    became: json('became').$type<NonNullable<Comment['became']>>(),
  },
  table => [
    primaryKey({ columns: [table.treeId, table.id] }),
    index('comments_thread').on(table.treeId, table.threadId, table.number),
  ],
)
