import {
  bigint,
  index,
  int,
  json,
  mysqlEnum,
  mysqlTable,
  primaryKey,
  uniqueIndex,
  varchar,
} from 'drizzle-orm/mysql-core'
import type { TellingData } from '../../core/telling/from-edit'
import { TOLD_KINDS, type Ways } from '../../core/telling/kinds'
import { instant, key } from './columns'

/*
 * What people are told: derived from the logs of each tree, in the order of their numbers, so that nothing is missed and nothing is
 * told twice, whatever stops in between. Words and titles aren't kept here: they are read where they stand, by whoever may.
 */

export const tellings = mysqlTable(
  'tellings',
  {
    id: bigint('id', { mode: 'number' }).autoincrement().primaryKey(),
    userId: key('user_id', { length: 40 }).notNull(),
    kind: mysqlEnum('kind', TOLD_KINDS).notNull(),
    treeId: key('tree_id', { length: 40 }).notNull(),
    topicId: key('topic_id', { length: 40 }),
    /** Of talk: the comment. */
    comment: key('comment', { length: 40 }),
    by: key('by_user', { length: 40 }).notNull(),
    at: instant('at').notNull(),
    data: json('data').$type<TellingData>().notNull(),
    /** What is told once of the same deed. */
    once: key('once', { length: 160 }).notNull(),
    readAt: instant('read_at'),
    /** When a letter told it. */
    writtenAt: instant('written_at'),
  },
  table => [
    uniqueIndex('tellings_once').on(table.userId, table.treeId, table.once),
    index('tellings_unread').on(table.userId, table.readAt, table.id),
    index('tellings_list').on(table.userId, table.id),
    index('tellings_unwritten').on(table.readAt, table.writtenAt),
    index('tellings_tree').on(table.treeId),
  ],
)

/** How far each tree's logs have been told. */
export const tellingMarks = mysqlTable('telling_marks', {
  treeId: key('tree_id', { length: 40 }).primaryKey(),
  edits: int('edits').notNull(),
  said: int('said').notNull(),
})

/** How somebody wants to be told, where it isn't as usual, and when they were last written to. */
export const tellingWays = mysqlTable('telling_ways', {
  userId: key('user_id', { length: 40 }).primaryKey(),
  ways: json('ways').$type<Ways>(),
  /** The zone of the browser that was there last, for those whose account names none. */
  zone: varchar('zone', { length: 64 }),
  nowAt: instant('now_at'),
  /** Days of their own, ISO 8601. */
  dailyOn: varchar('daily_on', { length: 10 }),
  weeklyOn: varchar('weekly_on', { length: 10 }),
})

/** Trees and branches that somebody watches; the tree's centre stands for the tree. */
export const watches = mysqlTable(
  'watches',
  {
    userId: key('user_id', { length: 40 }).notNull(),
    treeId: key('tree_id', { length: 40 }).notNull(),
    topicId: key('topic_id', { length: 40 }).notNull(),
  },
  table => [
    primaryKey({ columns: [table.userId, table.treeId, table.topicId] }),
    index('watches_tree').on(table.treeId),
  ],
)
