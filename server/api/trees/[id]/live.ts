import type { WebSocket } from 'ws'
import { whoIs } from '../../../access/accounts'
import { addressFrom } from '../../../access/address'
import { roleOn } from '../../../access/roles'
import { countLine, dropLine } from '../../../live/count'
import { sameOrigin } from '../../../live/origin'
import { enter, hear, leave } from '../../../live/rooms'
import type { Line } from '../../../live/seat'

type Seat = ReturnType<typeof enter>
const seats = new Map<string, Promise<Seat | null>>()

const addressOf = (request: Request): URL => new URL(request.url, 'http://host')
const treeIdOf = (request: Request): string =>
  /\/api\/trees\/([\w-]{1,40})\/live/.exec(addressOf(request).pathname)?.[1] ?? ''

async function admit(request: Request) {
  const account = await whoIs(request)
  if (!account) throw new Response('Please sign in.', { status: 401 })
  // A page outlives the session that it was opened in: what waits there is its person's, whoever signs in in that browser.
  const as = addressOf(request).searchParams.get('as')
  if (as !== null && as !== account.id) throw new Response('Somebody else is signed in.', { status: 403 })
  if (account.token) throw new Response('A token has no live line. Use the REST operations.', { status: 403 })
  const found = await roleOn(treeIdOf(request), account.id)
  if (!found || found.trashed) throw new Response('There is no such tree, or you have no role in it.', { status: 404 })
  return { account, role: found.role }
}

export default defineWebSocketHandler({
  async upgrade(request) {
    if (!sameOrigin(request.headers)) throw new Response('Wrong origin.', { status: 403 })
    try {
      await admit(request as Request)
    } catch (error) {
      throw error instanceof Response ? error : new Response('The database doesn’t answer.', { status: 503 })
    }
  },
  open(peer) {
    const request = peer.request as Request
    const socket = peer.websocket as unknown as WebSocket
    const line: Line = {
      send: (...pieces) => {
        for (const [i, piece] of pieces.entries())
          socket.send(piece, { fin: i === pieces.length - 1, binary: false, compress: false })
      },
      close: (code, reason) => {
        peer.close(code, reason)
      },
      cut: () => {
        peer.terminate()
      },
      waiting: () => socket.bufferedAmount,
    }
    const address = addressFrom(request.headers, peer.remoteAddress)
    // Looked at again here: between upgrade and open a role may have gone.
    seats.set(
      peer.id,
      admit(request).then(
        ({ account, role }) => {
          if (!countLine(peer.id, account.id, address)) {
            peer.close(4008, 'too-many')
            return null
          }
          return enter(line, treeIdOf(request), account, role, request)
        },
        () => {
          peer.close(4003, 'no-role')
          return null
        },
      ),
    )
  },
  async message(peer, message) {
    const seat = await seats.get(peer.id)
    if (seat) hear(seat, message.text())
  },
  async close(peer) {
    const seat = await seats.get(peer.id)
    seats.delete(peer.id)
    dropLine(peer.id)
    if (seat) leave(seat)
  },
  async error(peer) {
    const seat = await seats.get(peer.id)
    dropLine(peer.id)
    if (seat) leave(seat)
  },
})
