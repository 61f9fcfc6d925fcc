import { createHash, timingSafeEqual } from 'node:crypto'
import { registry } from '../metrics'
import { settings } from '../settings'

const digest = (text: string): Buffer => createHash('sha256').update(text).digest()

/** For a scraper that shows the token of the settings; to everybody else there is nothing here. */
export default defineEventHandler(async event => {
  const token = settings().METRICS_TOKEN
  const shown = /^Bearer (.+)$/.exec(getHeader(event, 'authorization') ?? '')?.[1]
  if (!token || !shown || !timingSafeEqual(digest(shown), digest(token))) {
    setResponseStatus(event, 404)
    return 'Nothing here.'
  }
  setResponseHeader(event, 'content-type', registry.contentType)
  return registry.metrics()
})
