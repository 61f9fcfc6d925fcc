import { nanoid } from 'nanoid'
import type { NewsEdit, Present, Role, ServerMessage } from '#core/contract'
import type { Told } from '#core/talk/saying'
import { type Part, sees, type Sight } from '#core/access/sees'
import type { Account } from '../access/accounts'
import { bus } from '../bus'
import { Allowance } from './allowance'
import { hush } from './count'

/** The line to one browser tab, however the socket is made. */
export interface Line {
  /** Sends one message, which may be given in pieces. */
  send(...pieces: readonly (string | Buffer)[]): void
  close(code: number, reason: string): void
  /** Ends it at once, without waiting for the other end. */
  cut(): void
  /** Bytes that were sent and that the other end hasn't taken. */
  waiting(): number
}

/** Messages that a line may send at once, and a second in the long run; refusals after which it's cut. */
const MESSAGES = [1000, 100, 500] as const
/** Bytes, likewise: each message costs what it weighs, whatever it says. */
const BYTES = [32 * 1024 * 1024, 4 * 1024 * 1024, 20] as const
/** Hellos, likewise: an answer to one may be a whole tree. */
const HELLOS = [10, 0.5, 20] as const
/** Askings to look, likewise: each takes the eyes of all who are here. */
const LOOKS = [3, 0.2, 1000] as const
/** Bytes that may wait for a reader who doesn't read. The heaviest tree that is allowed, twice. */
const MOST_WAITING = 160 * 1024 * 1024
/** Looks and steps of one person are told at most this often. */
const PRESENCE_MS = 100

/** One browser tab in one tree. */
export class Seat {
  readonly client = nanoid(10)
  present: Present
  said = false
  /** Whether it was told who is here: from then on it hears of every step. */
  knowsWho = false
  /** News that came while the missed edits were being read. */
  held: NewsEdit[] | null = null
  sentVersion = 0
  /** The number of the newest saying that it was told of, and what was said while it was greeted. */
  sentTalk = 0
  unheard: Told[] = []
  /** What of the tree it may have, where that isn't all of it. */
  part: Part | null = null
  /** How many of the shares of what a tree may weigh it was told of. */
  nearness = 0
  /** A hello is being answered; of those that come meanwhile the last is answered then. */
  greeting = false
  next: { readonly since: number | null; readonly epoch?: string | undefined } | null = null
  private readonly messages = new Allowance(...MESSAGES)
  private readonly bytes = new Allowance(...BYTES)
  private readonly hellos = new Allowance(...HELLOS)
  private readonly looks = new Allowance(...LOOKS)
  private presenceDue: NodeJS.Timeout | null = null
  private presenceTold = 0

  constructor(
    readonly line: Line,
    readonly treeId: string,
    readonly account: Account,
    public role: Role,
    readonly request: Request,
  ) {
    this.present = {
      id: account.id,
      name: account.name,
      client: this.client,
      selected: [],
      typing: null,
      presents: false,
    }
  }

  say(message: ServerMessage): void {
    this.sendText(JSON.stringify(message))
  }

  /** Tells what was said and isn't told yet; while somebody is greeted it waits, and who says no hello is told nothing. */
  tellTalk(told: readonly Told[]): void {
    if (this.greeting) this.unheard.push(...told)
    if (this.greeting || !this.said) return
    const fresh = told.filter(({ number }) => number > this.sentTalk)
    if (fresh.length === 0) return
    this.sentTalk = fresh.at(-1)!.number
    this.say({ type: 'said', told: fresh })
  }

  /** Sends, or cuts the line where what was sent before isn't taken. */
  sendText(...pieces: readonly (string | Buffer)[]): void {
    if (this.line.waiting() > MOST_WAITING) this.line.cut()
    else this.line.send(...pieces)
  }

  /** Counts a message, whatever is in it. False when it isn't to be looked at. */
  spend(bytes: number): boolean {
    const said = [this.messages.spend(), this.bytes.spend(bytes)]
    if (said.includes('cut')) this.cutOff()
    return said.every(one => one === 'fine')
  }

  spendHello(): boolean {
    const said = this.hellos.spend()
    if (said === 'cut') this.cutOff()
    return said === 'fine'
  }

  maySpendLook(): boolean {
    return this.looks.spend() === 'fine'
  }

  private cutOff(): void {
    hush(this.account.id)
    this.line.cut()
  }

  /** Tells the others where this person is: at once, and then no oftener than `PRESENCE_MS`, the newest alone. */
  move(selected: readonly string[], typing: string | null, presents: boolean): void {
    this.present = { ...this.present, selected, typing, presents }
    if (this.presenceDue) return
    const wait = this.presenceTold + PRESENCE_MS - Date.now()
    if (wait <= 0) this.tellPresence()
    else
      this.presenceDue = setTimeout(() => {
        this.presenceDue = null
        this.tellPresence()
      }, wait)
  }

  tellPresence(): void {
    this.presenceTold = Date.now()
    bus.tell({ about: 'here', tree: this.treeId, present: this.present })
  }

  /** What somebody may have of a tree; a role that shows nothing has no seat. */
  get sight(): Sight {
    return sees({ kind: 'account', id: this.account.id }, this.role)!
  }

  gone(): void {
    if (this.presenceDue) clearTimeout(this.presenceDue)
  }
}
