import type { H3Event } from 'h3'
import { settings } from '../settings'

/**
 * The network address that a request comes from. Behind a proxy all come from the proxy's: then `TRUST_PROXY=on` says that
 * it's there, and the address that it names counts. Without the setting what a request says of itself counts for nothing.
 */
export function addressOf(event: H3Event): string {
  return getRequestIP(event, { xForwardedFor: settings().TRUST_PROXY }) ?? 'unknown'
}
