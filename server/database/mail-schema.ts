import { index, int, json, mediumtext, mysqlEnum, mysqlTable, varchar } from 'drizzle-orm/mysql-core'
import { instant, key } from './columns'

/* Letters: those that stay here, those on their way, and who wants none. */

/** A file that goes with a letter: text of a media type, or bytes in Base64 (`packed`). */
export interface LetterFile {
  readonly name: string
  readonly type: string
  readonly text: string
  readonly packed?: true
}

/** Mail as the stand-in keeps it; also what was sent by SMTP, so that it can be read in the app. */
export const letters = mysqlTable(
  'letters',
  {
    id: key('id', { length: 40 }).primaryKey(),
    toEmail: varchar('to_email', { length: 254 }).notNull(),
    subject: varchar('subject', { length: 300 }).notNull(),
    body: mediumtext('body').notNull(),
    link: varchar('link', { length: 1000 }),
    /** Who sent it, where a person did; they can read it too. */
    fromUser: key('from_user', { length: 40 }),
    attachments: json('attachments').$type<readonly LetterFile[]>(),
    createdAt: instant('created_at').notNull(),
    readAt: instant('read_at'),
  },
  table => [
    index('letters_to').on(table.toEmail, table.createdAt),
    index('letters_from').on(table.fromUser, table.createdAt),
  ],
)

/** Letters on their way to a mail server. */
export const mailQueue = mysqlTable(
  'mail_queue',
  {
    id: key('id', { length: 40 }).primaryKey(),
    toEmail: varchar('to_email', { length: 254 }).notNull(),
    mail: json('mail').$type<unknown>().notNull(),
    /** Whom it's told when it can't be delivered. */
    fromUser: key('from_user', { length: 40 }),
    tries: int('tries').notNull().default(0),
    state: mysqlEnum('state', ['waiting', 'sent', 'returned']).notNull().default('waiting'),
    nextAt: instant('next_at').notNull(),
    why: varchar('why', { length: 300 }),
    createdAt: instant('created_at').notNull(),
  },
  table => [index('mail_queue_next').on(table.state, table.nextAt)],
)

/** Addresses that want no more letters from here but those about their account. */
export const mailStopped = mysqlTable('mail_stopped', {
  email: varchar('email', { length: 254 }).primaryKey(),
  at: instant('at').notNull(),
})
