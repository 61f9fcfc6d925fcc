import { json, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core'
import type { GroupShared } from '../../core/tree/group'
import { key } from './columns'

/** Groups of people that somebody keeps for themselves, for every tree. */
export const ownGroups = mysqlTable(
  'own_groups',
  {
    userId: key('user_id', { length: 40 }).notNull(),
    id: key('id', { length: 40 }).notNull(),
    name: varchar('name', { length: 80 }).notNull(),
    /** Mail addresses, in small letters. */
    who: json('who').$type<readonly string[]>().notNull(),
    /** Trees it was let in to: with which role, and who was in it then. */
    shared: json('shared').$type<Readonly<Record<string, GroupShared>>>().notNull(),
  },
  table => [primaryKey({ columns: [table.userId, table.id] })],
)
