import { sql } from 'drizzle-orm'
import {
  bigint,
  boolean,
  customType,
  double,
  index,
  int,
  json,
  mysqlEnum,
  mysqlTable,
  primaryKey,
  text,
  tinyint,
  uniqueIndex,
  varchar,
} from 'drizzle-orm/mysql-core'
import { ACTOR_KINDS } from '../../core/access/principal'
import { ROLES } from '../../core/access/roles'
import type { EditSource } from '../../core/contract/live'
import type { SavedView } from '../../core/tree/view'
import type { Link, TreeFields } from '../../core/tree'
import { bytes, instant, key } from './columns'

export * from './group-schema'
export * from './link-schema'
export * from './made-schema'
export * from './mail-schema'
export * from './talk-schema'
export * from './moment-schema'
export * from './organisation-schema'
export * from './page-schema'
export * from './reading-schema'
export * from './telling-schema'
export * from './vote-schema'

export const users = mysqlTable(
  'users',
  {
    id: key('id', { length: 40 }).primaryKey(),
    email: varchar('email', { length: 254 }).notNull(),
    name: varchar('name', { length: 120 }).notNull(),
    passwordHash: varchar('password_hash', { length: 400 }).notNull(),
    createdAt: instant('created_at').notNull(),
    /** When a letter to the address was answered; until then nothing that is meant for the address is shown. */
    confirmedAt: instant('confirmed_at'),
    /** Locked by an operator: no session is opened and none counts. */
    lockedAt: instant('locked_at'),
    /** Deleted by themselves: the row stays so that what they did keeps an author, and says nothing about them. */
    deletedAt: instant('deleted_at'),
    /** IANA name of the zone they live in; null for what their browser says. */
    zone: varchar('zone', { length: 64 }),
    /** A small picture of them, WebP. */
    picture: bytes('picture'),
    /** Whether it's cut square instead of round. */
    square: boolean('square').notNull().default(false),
    /** The second factor: its secret in base32, and the newest time step that was used, so that no code counts twice. */
    totpSecret: varchar('totp_secret', { length: 64 }),
    totpStep: int('totp_step').notNull().default(0),
    /** Hashes of recovery codes that haven't been used. */
    recovery: json('recovery').$type<readonly string[]>(),
  },
  table => [uniqueIndex('users_email').on(table.email)],
)

/** What only whoever reads the letter knows: to confirm an address, to take a new one, to set a new password. */
export const accountLinks = mysqlTable(
  'account_links',
  {
    tokenHash: key('token_hash', { length: 64 }).primaryKey(),
    userId: key('user_id', { length: 40 }).notNull(),
    kind: mysqlEnum('kind', ['confirm', 'address', 'reset']).notNull(),
    email: varchar('email', { length: 254 }).notNull(),
    until: instant('until').notNull(),
  },
  table => [index('account_links_user').on(table.userId)],
)

/** Access tokens that people give to scripts. */
export const accessTokens = mysqlTable(
  'access_tokens',
  {
    id: key('id', { length: 40 }).primaryKey(),
    userId: key('user_id', { length: 40 }).notNull(),
    name: varchar('name', { length: 120 }).notNull(),
    tokenHash: key('token_hash', { length: 64 }).notNull(),
    scope: mysqlEnum('scope', ['read', 'write']).notNull(),
    createdAt: instant('created_at').notNull(),
    usedAt: instant('used_at'),
    until: instant('until'),
  },
  table => [uniqueIndex('access_tokens_hash').on(table.tokenHash), index('access_tokens_user').on(table.userId)],
)

export const sessions = mysqlTable(
  'sessions',
  {
    id: key('id', { length: 64 }).primaryKey(),
    userId: key('user_id', { length: 40 }).notNull(),
    agent: varchar('agent', { length: 300 }).notNull(),
    createdAt: instant('created_at').notNull(),
    /** When it was used last, to a few minutes. */
    seenAt: instant('seen_at'),
  },
  table => [index('sessions_user').on(table.userId)],
)

/** What rate-limiter-flexible counts; the columns are its own. `expire`: ms since 1970 UTC. */
export const rateLimits = mysqlTable('rate_limits', {
  key: key('key', { length: 255 }).primaryKey(),
  points: int('points').notNull().default(0),
  expire: bigint('expire', { mode: 'number', unsigned: true }),
})

export const trees = mysqlTable(
  'trees',
  {
    id: key('id', { length: 40 }).primaryKey(),
    centre: key('centre', { length: 40 }).notNull(),
    title: text('title').notNull(),
    fields: json('fields').$type<TreeFields>().notNull(),
    /** The number of the newest edit. */
    version: int('version').notNull(),
    topicCount: int('topic_count').notNull(),
    createdAt: instant('created_at').notNull(),
    changedAt: instant('changed_at').notNull(),
    changedBy: key('changed_by', { length: 40 }),
    trashedAt: instant('trashed_at'),
    /** New after a restore from a backup, so that a browser which waited through it knows that numbers mean others now. */
    epoch: key('epoch', { length: 20 }).notNull().default(''),
    /** True for a tree that others are begun from. */
    starter: boolean('starter').notNull().default(false),
    /** Whether its owners let pages behind its links be asked what they say of themselves. */
    pages: boolean('pages').notNull().default(false),
    /** The tree that it was copied from, and the number of the newest edit that the copy has. */
    fromTree: key('from_tree', { length: 40 }),
    fromNumber: int('from_number'),
  },
  table => [index('trees_centre').on(table.centre)],
)

export const members = mysqlTable(
  'members',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    userId: key('user_id', { length: 40 }).notNull(),
    role: mysqlEnum('role', ROLES).notNull(),
    seenVersion: int('seen_version').notNull().default(0),
    seenAt: instant('seen_at'),
    /** The number up to which they have read the talk of the tree. */
    benchSeen: int('bench_seen').notNull().default(0),
  },
  table => [primaryKey({ columns: [table.treeId, table.userId] }), index('members_user').on(table.userId)],
)

export const invitations = mysqlTable(
  'invitations',
  {
    tokenHash: key('token_hash', { length: 64 }).primaryKey(),
    treeId: key('tree_id', { length: 40 }).notNull(),
    email: varchar('email', { length: 254 }).notNull(),
    role: mysqlEnum('role', ROLES).notNull(),
    invitedBy: key('invited_by', { length: 40 }).notNull(),
    createdAt: instant('created_at').notNull(),
    usedAt: instant('used_at'),
    /** Until when it holds; null for those from before they ended. */
    until: instant('until'),
  },
  table => [index('invitations_tree').on(table.treeId), index('invitations_email').on(table.email)],
)

/** Who was let into a tree or out of it, and what left it. Never altered. */
export const accessLog = mysqlTable(
  'access_log',
  {
    id: bigint('id', { mode: 'number' }).autoincrement().primaryKey(),
    treeId: key('tree_id', { length: 40 }).notNull(),
    at: instant('at').notNull(),
    /** Who did it; null for the app itself. */
    by: key('by_user', { length: 40 }),
    what: varchar('what', { length: 40 }).notNull(),
    /** Whom or what it was about, in words. */
    about: varchar('about', { length: 300 }).notNull().default(''),
  },
  table => [index('access_log_tree').on(table.treeId, table.id)],
)

/** Every topic as it is now, kept current in the transaction of each edit. */
export const topics = mysqlTable(
  'topics',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    id: key('id', { length: 40 }).notNull(),
    parent: key('parent', { length: 40 }),
    order: key('order_key', { length: 400 }).notNull(),
    removed: boolean('removed').notNull(),
    title: text('title').notNull(),
    start: varchar('start', { length: 10 }),
    due: varchar('due', { length: 10 }),
    duration: double('duration'),
    done: tinyint('done'),
    priority: tinyint('priority'),
    /** Everything that no query asks for: folds, sides, places, style. */
    rest: json('rest').$type<Record<string, unknown>>().notNull(),
    links: json('links').$type<readonly Link[]>().notNull(),
    note: bytes('note'),
    /** Whether it's a meeting, kept by the database itself, so that meetings are found by an index. */
    meets: boolean('meets').generatedAlwaysAs(sql`json_exists(rest, '$.meeting')`, { mode: 'stored' }),
  },
  table => [
    primaryKey({ columns: [table.treeId, table.id] }),
    index('topics_due').on(table.due),
    index('topics_meets').on(table.meets, table.treeId),
  ],
)

export const topicPeople = mysqlTable(
  'topic_people',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    topicId: key('topic_id', { length: 40 }).notNull(),
    userId: key('user_id', { length: 40 }).notNull(),
    place: int('place').notNull(),
  },
  table => [
    primaryKey({ columns: [table.treeId, table.topicId, table.userId] }),
    index('topic_people_user').on(table.userId),
  ],
)

export const topicMarkers = mysqlTable(
  'topic_markers',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    topicId: key('topic_id', { length: 40 }).notNull(),
    marker: key('marker', { length: 40 }).notNull(),
    place: int('place').notNull(),
  },
  table => [primaryKey({ columns: [table.treeId, table.topicId, table.marker] })],
)

/** The log: each tree's edits by number. It is the history; nothing in it is ever altered. */
export const edits = mysqlTable(
  'edits',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    number: int('number').notNull(),
    editId: key('edit_id', { length: 40 }).notNull(),
    userId: key('user_id', { length: 40 }).notNull(),
    at: instant('at').notNull(),
    /** What acted, where it wasn't the account itself: then `userId` is a guest's or a token's id. */
    actor: mysqlEnum('actor', ACTOR_KINDS).notNull().default('account'),
    /** The account on whose behalf it was done, where that isn't the actor. */
    behalf: key('behalf', { length: 40 }),
    /** The format of `changes`; older ones are upgraded on reading. */
    format: tinyint('format').notNull().default(1),
    /** What an edit that was made here comes from: a moment that was brought back, an edit that was taken back. */
    source: json('source').$type<EditSource>(),
    changes: json('changes').$type<readonly unknown[]>().notNull(),
  },
  table => [
    primaryKey({ columns: [table.treeId, table.number] }),
    uniqueIndex('edits_once').on(table.treeId, table.editId),
  ],
)

/** From a topic to the edits that touched it. */
export const editTopics = mysqlTable(
  'edit_topics',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    topicId: key('topic_id', { length: 40 }).notNull(),
    number: int('number').notNull(),
  },
  table => [primaryKey({ columns: [table.treeId, table.topicId, table.number] })],
)

/** A whole tree at a number, gzipped JSON, so that any moment opens without reading the log from the start. */
export const snapshots = mysqlTable(
  'snapshots',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    number: int('number').notNull(),
    data: customType<{ data: Buffer }>({ dataType: () => 'longblob' })('data').notNull(),
  },
  table => [primaryKey({ columns: [table.treeId, table.number] })],
)

/** Answer links of guests. Only the letter holds the token; this is its hash. */
export const meetingGuests = mysqlTable(
  'meeting_guests',
  {
    tokenHash: key('token_hash', { length: 64 }).primaryKey(),
    treeId: key('tree_id', { length: 40 }).notNull(),
    topicId: key('topic_id', { length: 40 }).notNull(),
    /** The person's id in the meeting's brief. */
    person: key('person', { length: 40 }).notNull(),
    createdAt: instant('created_at').notNull(),
  },
  table => [index('meeting_guests_topic').on(table.treeId, table.topicId)],
)

/** Reminders that have been written: one a day before a task's due day, one on it. */
export const reminders = mysqlTable(
  'reminders',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    topicId: key('topic_id', { length: 40 }).notNull(),
    userId: key('user_id', { length: 40 }).notNull(),
    due: varchar('due', { length: 10 }).notNull(),
    onDay: boolean('on_day').notNull(),
  },
  table => [primaryKey({ columns: [table.treeId, table.topicId, table.userId, table.due, table.onDay] })],
)

/** Private calendar addresses, one a person. */
export const calendarAddresses = mysqlTable(
  'calendar_addresses',
  {
    userId: key('user_id', { length: 40 }).primaryKey(),
    tokenHash: key('token_hash', { length: 64 }).notNull(),
    createdAt: instant('created_at').notNull(),
  },
  table => [uniqueIndex('calendar_addresses_token').on(table.tokenHash)],
)

/** Views of a tree that one person keeps for themselves. */
export const ownViews = mysqlTable(
  'own_views',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    userId: key('user_id', { length: 40 }).notNull(),
    id: key('id', { length: 40 }).notNull(),
    name: varchar('name', { length: 120 }).notNull(),
    data: json('data').$type<SavedView>().notNull(),
  },
  table => [primaryKey({ columns: [table.treeId, table.userId, table.id] })],
)

/** Files of trees. The id is the SHA-256 of what is stored, so that the same file is kept once. */
export const files = mysqlTable(
  'files',
  {
    treeId: key('tree_id', { length: 40 }).notNull(),
    id: key('id', { length: 64 }).notNull(),
    type: varchar('type', { length: 120 }).notNull(),
    size: int('size').notNull(),
    width: int('width'),
    height: int('height'),
    createdAt: instant('created_at').notNull(),
    createdBy: key('created_by', { length: 40 }).notNull(),
  },
  table => [primaryKey({ columns: [table.treeId, table.id] })],
)

export const fileChunks = mysqlTable(
  'file_chunks',
  { id: key('id', { length: 64 }).notNull(), number: int('number').notNull(), data: bytes('data').notNull() },
  table => [primaryKey({ columns: [table.id, table.number] })],
)
