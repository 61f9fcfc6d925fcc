import type { H3Event } from 'h3'
import { settings } from '../settings'

/**
 * The network address that a request comes from. Behind a proxy all come from the proxy's: then `TRUST_PROXY=on` says that
 * it's there, and the address that it names counts. Without the setting what a request says of itself counts for nothing.
 */
export const addressOf = (event: H3Event): string => addressFrom(event.headers, getRequestIP(event))

/** The same of a request that became a socket. */
export function addressFrom(headers: Headers, remote: string | undefined): string {
  const said = settings().TRUST_PROXY ? headers.get('x-forwarded-for')?.split(',')[0]?.trim() : undefined
  return said || remote || 'unknown'
}
