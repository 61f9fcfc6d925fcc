import { index, mysqlTable, primaryKey } from 'drizzle-orm/mysql-core'
import { instant, key } from './columns'

/** Whom an organisation's sign-in (OpenID Connect) means: the person there, and the account here. */
export const organisationAccounts = mysqlTable(
  'organisation_accounts',
  {
    /** The issuer's identifier: an address. */
    issuer: key('issuer', { length: 255 }).notNull(),
    /** The issuer's name for the person (`sub`), never given to somebody else: ASCII, 255 at most. */
    subject: key('subject', { length: 255 }).notNull(),
    userId: key('user_id', { length: 40 }).notNull(),
    since: instant('since').notNull(),
  },
  table => [
    primaryKey({ columns: [table.issuer, table.subject] }),
    index('organisation_accounts_user').on(table.userId),
  ],
)
