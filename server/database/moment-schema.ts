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
