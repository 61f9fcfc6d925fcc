import { DrizzleQueryError } from 'drizzle-orm/errors'

/** The database's own error code (ER_DUP_ENTRY, ECONNREFUSED…), or '' when the error is no database error. */
export function databaseErrorCode(error: unknown): string {
  const cause = error instanceof DrizzleQueryError ? error.cause : error
  const code = (cause as { code?: unknown } | undefined)?.code
  return typeof code === 'string' ? code : ''
}

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
