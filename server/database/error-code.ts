import { DrizzleQueryError } from 'drizzle-orm/errors'

/** The database's own error code (ER_DUP_ENTRY, ECONNREFUSED…), or '' when the error is no database error. */
export function databaseErrorCode(error: unknown): string {
  const cause = error instanceof DrizzleQueryError ? error.cause : error
  const code = (cause as { code?: unknown } | undefined)?.code
  return typeof code === 'string' ? code : ''
}

/** What the database says of itself when it's away, starting, full of others, or not brought up to date yet. */
const AWAY = new Set([
  ...['ER_CON_COUNT_ERROR', 'ER_TOO_MANY_USER_CONNECTIONS', 'ER_USER_LIMIT_REACHED', 'ER_HOST_IS_BLOCKED'],
  ...[
    'ER_SERVER_SHUTDOWN',
    'ER_NORMAL_SHUTDOWN',
    'ER_SHUTDOWN_COMPLETE',
    'ER_CONNECTION_KILLED',
    'ER_QUERY_INTERRUPTED',
  ],
  ...[
    'ER_ACCESS_DENIED_ERROR',
    'ER_DBACCESS_DENIED_ERROR',
    'ER_BAD_DB_ERROR',
    'ER_NO_SUCH_TABLE',
    'ER_SP_DOES_NOT_EXIST',
  ],
  ...['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_CHECKREAD', 'ER_ERROR_DURING_COMMIT', 'ER_OUT_OF_RESOURCES'],
  ...['ER_OPTION_PREVENTS_STATEMENT', 'ER_GET_ERRNO', 'ER_CRASHED_ON_USAGE', 'ER_DISK_FULL', 'ER_RECORD_FILE_FULL'],
])

/**
 * Whether the same may go through later, since the database or the way to it is what fails. What the database refuses of itself (a value
 * that doesn't fit) fails each time, and is our own fault.
 */
export function isAway(error: unknown): boolean {
  const code = databaseErrorCode(error)
  return code.startsWith('ER_') ? AWAY.has(code) : code !== '' && !code.startsWith('ERR_')
}

/**
 * Whether the database refuses what it's given, and would refuse it each time: SQL's class 22, data exceptions (ISO/IEC 9075-2, from
 * memory), and what says the same under a name of its own.
 */
export function isUnstorable(error: unknown): boolean {
  const cause = error instanceof DrizzleQueryError ? error.cause : error
  const { sqlState = '' } = (cause ?? {}) as { sqlState?: string }
  return sqlState.startsWith('22') || UNSTORABLE.has(databaseErrorCode(error))
}
const UNSTORABLE = new Set([
  'ER_BAD_NULL_ERROR',
  'ER_CONSTRAINT_FAILED',
  'ER_NET_PACKET_TOO_LARGE',
  'ER_TRUNCATED_WRONG_VALUE_FOR_FIELD',
])

/** Whether an error says that the database's disk is full. */
export function isDiskFull(error: unknown): boolean {
  const cause = error instanceof DrizzleQueryError ? error.cause : error
  const { code, errno, sqlMessage = '' } = (cause ?? {}) as { code?: string; errno?: number; sqlMessage?: string }
  return (
    code === 'ER_DISK_FULL' ||
    code === 'ER_RECORD_FILE_FULL' ||
    errno === 1114 ||
    errno === 1021 ||
    /No space left|errno: 28|error 28/i.test(sqlMessage)
  )
}
