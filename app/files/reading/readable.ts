import { contentsKindOf } from '#core/formats/contents'
import type { Attachment } from '#core/tree'

/** Whether a file has words that can be read beside the tree, passage by passage. Rows of a sheet are none. */
export function canRead(file: Pick<Attachment, 'type' | 'preview' | 'name'>): boolean {
  if (file.preview !== null) return false
  if (file.type === 'application/pdf') return true
  const kind = contentsKindOf(file)
  return kind === null ? file.type === 'text/plain' : kind !== 'sheets'
}
