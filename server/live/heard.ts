import { upgradeEdit } from '#core/tree'
import { Fault } from '../access/fault'

/* What comes in on a line, before it is understood. */

/** Edits that waited in a browser may have been written in an older format. */
export function upgraded(raw: unknown): unknown {
  const { edit } = (raw ?? {}) as { edit?: unknown }
  try {
    return edit === undefined ? raw : { ...(raw as object), edit: upgradeEdit(edit) }
  } catch {
    // A format that this version doesn't know: left for the schema to refuse.
    return raw
  }
}

/** The id of what may be an edit, for whoever refuses it. */
export function editIdOf(raw: unknown): string | null {
  const id = (raw as { edit?: { id?: unknown } } | null)?.edit?.id
  return typeof id === 'string' ? id.slice(0, 40) : null
}

/** What went wrong, as it may be told. */
export const faultOf = (error: unknown): Fault =>
  error instanceof Fault ? error : new Fault(500, 'unforeseen', 'Something went wrong here. Nothing was changed.')
