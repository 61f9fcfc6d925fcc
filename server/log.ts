import pino from 'pino'
import { databaseErrorCode } from './database/error-code'
import { LEVELS } from './settings'

/*
 * The log: a line of JSON an event, on standard error. It never says a title, a note, a token or a mail address; network
 * addresses stand in security events alone (`security: true`).
 */

/** What may be told of an error: its kind, and where in our own code; never the data in its words. */
function tellable(error: unknown): Record<string, unknown> {
  const code = databaseErrorCode(error)
  if (code) return { database: code }
  if (!(error instanceof Error)) return { kind: typeof error }
  return {
    kind: error.name,
    at: error.stack
      ?.split('\n')
      .filter(line => /^\s+at /.test(line))
      .slice(0, 8),
  }
}

/** Before the settings are checked, which says what is wrong with them. */
const levelOf = (said: string | undefined): string => LEVELS.find(level => level === said) ?? 'info'

export const log = pino(
  {
    level: levelOf(process.env.LOG_LEVEL),
    base: undefined,
    timestamp: pino.stdTimeFunctions.isoTime,
    formatters: { level: label => ({ level: label }) },
    serializers: { error: tellable },
  },
  pino.destination({ fd: 2, sync: true }),
)
