import type { H3Event } from 'h3'
import { log } from '../log'
import { Fault } from './fault'

/** A browser that was on its way can't read an error: it's sent to the sign-in page, which says in words what is wrong. */
export async function backWith(event: H3Event, error: unknown, then: string): Promise<void> {
  if (!(error instanceof Fault)) log.error({ error }, 'a sign-in by an organisation failed')
  if (error instanceof Fault && error.code === 'no-organisation') throw error
  const trouble = error instanceof Fault ? error.code : 'unforeseen'
  const query = new URLSearchParams({ trouble, ...(then === '/' ? {} : { then }) })
  await sendRedirect(event, `/sign-in?${query.toString()}`, 303)
}
