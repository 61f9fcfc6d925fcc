import { boolean, index, int, json, mysqlEnum, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core'
import { type Cast, VOTE_KINDS } from '../../core/tree/vote'
import type { Tally } from '../../core/vote/tally'
import { instant, key } from './columns'

/*
 * Votes while they run. What a closed one came to is kept with its topic, as an edit. Of a secret vote it's kept who voted and the sums,
 * never who voted what: no ballot of it is ever written.
 */

export const votes = mysqlTable(
  'votes',
  {
    id: key('id', { length: 40 }).primaryKey(),
    treeId: key('tree_id', { length: 40 }).notNull(),
    topicId: key('topic_id', { length: 40 }).notNull(),
    question: varchar('question', { length: 500 }).notNull(),
    kind: mysqlEnum('kind', VOTE_KINDS).notNull(),
    choices: json('choices').$type<readonly string[]>().notNull(),
    /** What each spreads over the choices, in a vote by points. */
    points: int('points').notNull(),
    secret: boolean('secret').notNull(),
    by: key('by_user', { length: 40 }).notNull(),
    at: instant('at').notNull(),
    /** From then on nobody votes any more. */
    closedAt: instant('closed_at'),
    closedBy: key('closed_by', { length: 40 }),
    /** The sums of a secret vote; of an open one they are counted from its ballots. */
    sums: json('sums').$type<Tally>(),
  },
  table => [index('votes_tree').on(table.treeId, table.closedAt)],
)

/** Who has voted, and in an open vote what. */
export const ballots = mysqlTable(
  'ballots',
  {
    voteId: key('vote_id', { length: 40 }).notNull(),
    userId: key('user_id', { length: 40 }).notNull(),
    treeId: key('tree_id', { length: 40 }).notNull(),
    cast: json('cast').$type<Cast>(),
  },
  table => [primaryKey({ columns: [table.voteId, table.userId] }), index('ballots_tree').on(table.treeId)],
)
