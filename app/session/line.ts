import type { ClientMessage, ServerMessage } from '#core/contract'

/** What a line needs of a WebSocket. */
export type Socket = Pick<WebSocket, 'readyState' | 'onopen' | 'onmessage' | 'onclose' | 'send' | 'close'>

export interface LineEvents {
  /** A socket stands; the first word is to be said. */
  opened(): void
  heard(message: ServerMessage): void
  /** The socket is gone; the line tries again by itself. `refused`: it never stood. */
  lost(refused: boolean): void
  /** Time to ask the other end for a sign of life. */
  beat(): void
}

const FIRST_RETRY_MS = 500
const LONGEST_RETRY_MS = 15_000
const BEAT_MS = 15_000
/** A line that says nothing for this long is taken for dead. */
const SILENCE_MS = 40_000
const OPEN = 1

/** A socket to a tree, for the person whose page this is: it's refused to anybody else. */
export const dial = (treeId: string, userId: string): WebSocket =>
  new WebSocket(`${location.origin.replace(/^http/, 'ws')}/api/trees/${treeId}/live?as=${userId}`)

/** The line to the server: kept up, and taken up again whenever it breaks, a little later each time. */
export class Line {
  private socket: Socket | null = null
  private retry = FIRST_RETRY_MS
  private retryTimer: ReturnType<typeof setTimeout> | undefined
  private beatTimer: ReturnType<typeof setInterval> | undefined
  private heardAt = 0
  private stood = false
  private ended = false

  constructor(
    private readonly dial: () => Socket,
    private readonly events: LineEvents,
  ) {}

  begin(): void {
    this.beatTimer = setInterval(() => this.beat(), BEAT_MS)
    this.connect()
  }

  /** Ends it for good. */
  end(): void {
    this.ended = true
    clearInterval(this.beatTimer)
    clearTimeout(this.retryTimer)
    this.socket?.close()
  }

  /** Drops the socket; another is made by itself. */
  readonly drop = (): void => {
    if (this.socket) this.down(this.socket)
  }

  /** Tries at once, if no socket stands. */
  readonly hurry = (): void => {
    this.retry = FIRST_RETRY_MS
    if (!this.socket) this.connect()
  }

  /** All is well: the next break is tried again soon. */
  settle(): void {
    this.retry = FIRST_RETRY_MS
  }

  send(message: ClientMessage | string): void {
    if (this.socket?.readyState === OPEN)
      this.socket.send(typeof message === 'string' ? message : JSON.stringify(message))
  }

  private connect(): void {
    if (this.ended) return
    clearTimeout(this.retryTimer)
    const socket = this.dial()
    this.socket = socket
    this.stood = false
    socket.onopen = () => {
      if (socket !== this.socket) return
      this.stood = true
      this.heardAt = Date.now()
      this.events.opened()
    }
    socket.onmessage = event => {
      this.heardAt = Date.now()
      if (socket === this.socket) this.events.heard(JSON.parse(event.data as string) as ServerMessage)
    }
    socket.onclose = () => this.down(socket)
  }

  /**
   * Takes a socket for gone at once: without a network its own close waits long for an answer from the other end,
   * and what it still hears is no longer ours.
   */
  private down(socket: Socket): void {
    if (socket !== this.socket) return
    this.socket = null
    socket.close()
    if (this.ended) return
    this.events.lost(!this.stood)
    // Many browsers come back after a restart; they shouldn't all knock at once.
    this.retryTimer = setTimeout(() => this.connect(), this.retry * (0.5 + Math.random()))
    this.retry = Math.min(LONGEST_RETRY_MS, this.retry * 2)
  }

  private beat(): void {
    if (this.socket?.readyState !== OPEN) return
    if (Date.now() - this.heardAt > SILENCE_MS) this.down(this.socket)
    else this.events.beat()
  }
}
