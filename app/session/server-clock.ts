/** What time the server has, as far as this browser can tell: off by half the quickest round trip at most. */
export class ServerClock {
  private offBy = 0
  private quickest = Infinity
  private asked = 0

  constructor(
    private readonly now: () => number = () => Date.now(),
    /** A clock that never steps back, ms. */
    private readonly steady: () => number = () => performance.now(),
  ) {}

  /** Milliseconds since 1970 UTC. */
  get time(): number {
    return Math.round(this.now() + this.offBy)
  }

  /** A new line: round trips are timed anew. Until the first has been, `at` has to do. */
  begin(at: number): void {
    if (this.quickest === Infinity) this.offBy = at - this.now()
    this.quickest = Infinity
  }

  ask(): void {
    this.asked = this.steady()
  }

  /** The server's word for what time it is, in answer to `ask`. */
  answer(at: number): void {
    const trip = this.steady() - this.asked
    if (trip > this.quickest) return
    this.quickest = trip
    this.offBy = at + trip / 2 - this.now()
  }
}
