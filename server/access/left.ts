import type { H3Event } from 'h3'

/** Says when whoever asked has gone away, so that nothing is made for nobody. */
export function whenLeft(event: H3Event): AbortSignal {
  const left = new AbortController()
  event.node.res.once('close', () => left.abort())
  return left.signal
}
