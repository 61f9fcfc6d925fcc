import { whoIs } from '../../../access/accounts'
import { roleOn } from '../../../access/roles'
import { enter, hear, leave } from '../../../live/rooms'
import { sameOrigin } from '../../../live/origin'

type Seat = ReturnType<typeof enter>
const seats = new Map<string, Promise<Seat | null>>()

const treeIdOf = (request: Request): string =>
  /\/api\/trees\/([\w-]{1,40})\/live/.exec(new URL(request.url, 'http://host').pathname)?.[1] ?? ''

async function admit(request: Request) {
  const account = await whoIs(request)
  if (!account) throw new Response('Please sign in.', { status: 401 })
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
    const line = {
      send: (text: string) => {
        peer.send(text)
      },
      close: (code: number, reason: string) => {
        peer.close(code, reason)
      },
    }
    // Looked at again here: between upgrade and open a role may have gone.
    seats.set(
      peer.id,
      admit(request).then(
        ({ account, role }) => enter(line, treeIdOf(request), account, role, request),
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
    if (seat) leave(seat)
  },
  async error(peer) {
    const seat = await seats.get(peer.id)
    if (seat) leave(seat)
  },
})
