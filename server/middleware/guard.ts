import { sameOrigin } from '../live/origin'
import { settings } from '../settings'

/** What every answer says to browsers, and the check that a write comes from a page of ours. */
export default defineEventHandler(event => {
  setResponseHeaders(event, {
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'same-origin',
    'x-frame-options': 'DENY',
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-resource-policy': 'same-origin',
    'permissions-policy': 'camera=(), microphone=(), geolocation=()',
    ...(settings().TLS ? { 'strict-transport-security': 'max-age=31536000; includeSubDomains' } : {}),
  })
  if (event.path.startsWith('/api/')) setResponseHeader(event, 'cache-control', 'no-store')
  if (!['GET', 'HEAD', 'OPTIONS'].includes(event.method) && !sameOrigin(event.headers)) {
    setResponseStatus(event, 403)
    return { error: { code: 'origin', message: 'This request comes from another site.' } }
  }
})
