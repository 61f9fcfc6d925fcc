/** Whether a request comes from a page of this very site. Programs that aren't browsers send no Origin. */
export function sameOrigin(headers: Headers): boolean {
  const origin = headers.get('origin')
  if (origin === null) return true
  try {
    return new URL(origin).host === (headers.get('x-forwarded-host') ?? headers.get('host'))
  } catch {
    return false
  }
}
