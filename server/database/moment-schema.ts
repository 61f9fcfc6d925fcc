import { int, mysqlEnum, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core'
import { KEPT_WHY } from '../../core/history/kept'
import { instant, key } from './columns'

/** Moments of trees that are kept, so that they are found again: pointers into the log, which has the rest. */
export const keptMoments = mysqlTable(
  'kept_moments',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    number: int('number').notNull(),
    why: mysqlEnum('why', KEPT_WHY).notNull(),
    name: varchar('name', { length: 200 }).notNull().default(''),
    by: key('by_user', { length: 40 }),
    at: instant('at').notNull(),
  },
  table => [primaryKey({ columns: [table.treeId, table.number, table.why] })],
)

/** Epochs of a tree that ended by a restore, and the number up to which its edits are still those of that epoch. */
export const treeEpochs = mysqlTable(
  'tree_epochs',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    epoch: key('epoch', { length: 20 }).notNull(),
    until: int('until').notNull(),
  },
  table => [primaryKey({ columns: [table.treeId, table.epoch] })],
)
