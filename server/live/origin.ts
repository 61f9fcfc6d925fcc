import { settings } from '../settings'

/**
 * Whether a request comes from a page of this very site: scheme, host and port (RFC 6454). Programs that aren't browsers send
 * no Origin. What stands before the app says which host and scheme people see, where it's trusted to.
 */
export function sameOrigin(headers: Headers): boolean {
  const origin = headers.get('origin')
  if (origin === null) return true
  const { TLS, TRUST_PROXY } = settings()
  const said = (name: string): string | undefined =>
    (TRUST_PROXY && headers.get(name)?.split(',')[0]?.trim()) || undefined
  const host = said('x-forwarded-host') ?? headers.get('host')
  const scheme = said('x-forwarded-proto') ?? (TLS ? 'https' : 'http')
  try {
    return new URL(origin).origin === new URL(`${scheme}://${host}`).origin
  } catch {
    return false
  }
}
