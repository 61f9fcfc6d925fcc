import type { ServerMessage } from '#core/contract'
import type { Line } from './line'

/** The server doesn't know one any more: it's shown, and the line is tried again until it does. */
export function isSignedOut(line: Line): void {
  window.dispatchEvent(new Event(SIGNED_OUT))
  line.drop()
}

/**
 * Why a live line is refused: a browser isn't told, so it's asked. Null where it's for now, or where whoever shows it hears of it: that
 * nobody is signed in by the answer itself, that somebody else is as an event of the window.
 */
export async function whyRefused(
  treeId: string,
  userId: string,
): Promise<Extract<ServerMessage, { type: 'gone' }> | null> {
  try {
    const { id } = await callApi<{ id: string }>('/api/me')
    if (id !== userId) {
      window.dispatchEvent(new Event(SOMEBODY_ELSE))
      return null
    }
    await callApi(`/api/trees/${treeId}/members`)
    // Its owners may still ask about a tree in the trash; a line to it nobody has.
    const trash = await callApi<readonly { readonly id: string }[]>('/api/trees?scope=trash')
    if (trash.some(tree => tree.id === treeId))
      return { type: 'gone', code: 'trashed', message: 'This tree has been moved to the trash.' }
  } catch (error) {
    if (error instanceof ApiError && (error.status === 403 || error.status === 404))
      return { type: 'gone', code: error.code, message: error.message }
  }
  return null
}
