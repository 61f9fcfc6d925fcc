import { z } from 'zod'
import { ROLES, type Role } from '../access/roles'
import { whole, words } from '../tree/atoms'

/*
 * Every REST operation: what it takes and who may call it. The server checks requests against these schemas and
 * the OpenAPI document is made from them.
 */

export const idSchema = z.string().regex(/^[\w-]{1,40}$/)
export const email = z
  .email()
  .max(254)
  .transform(text => text.toLowerCase())
export const password = z.string().min(10, 'A password needs at least 10 characters.').max(200)
export const name = z.string().trim().min(1, 'Please give a name.').max(120).refine(whole, 'must be well-formed text')
export const title = words(10_000)
export const role = z.enum(ROLES)
export const tree = z.object({ id: idSchema })
export const meeting = z.object({ id: idSchema, topic: idSchema })
export const token = z.object({ token: z.string().min(20).max(104) })
export const none = z.object({})

export const EXPORT_FORMATS = ['json', 'markdown', 'opml', 'csv', 'text'] as const
export const MINUTES_FORMATS = ['docx', 'pdf', 'markdown', 'tasks'] as const
export const IMPORT_FORMATS = ['json', 'markdown', 'opml', 'csv', 'text', 'html', 'calendar', 'docx', 'xlsx'] as const

/** 'nobody': no sign-in needed. 'person': signed in. A role: that role, or more, on the tree in the path. */
export type Access = 'nobody' | 'person' | Role

export interface Operation<
  P extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  A extends Access = Access,
> {
  readonly method: 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE'
  readonly path: string
  readonly summary: string
  readonly access: A
  readonly params: P
  readonly query: Q
  readonly body: B
}

export function operation<
  A extends Access,
  P extends z.ZodType = typeof none,
  Q extends z.ZodType = typeof none,
  B extends z.ZodType = typeof none,
>(
  method: Operation['method'],
  path: string,
  access: A,
  summary: string,
  parts: { params?: P; query?: Q; body?: B } = {},
): Operation<P, Q, B, A> {
  return {
    method,
    path,
    access,
    summary,
    params: parts.params ?? (none as unknown as P),
    query: parts.query ?? (none as unknown as Q),
    body: parts.body ?? (none as unknown as B),
  }
}
