/**
 * What a line may send: so much at once, and so much a second in the long run. What is over is refused; whoever goes on being
 * refused is cut off.
 */
export class Allowance {
  private tokens: number
  private refilled: number
  private refused = 0

  constructor(
    private readonly burst: number,
    private readonly steady: number,
    /** Refusals after which the line is cut; one is forgiven with every message that is within the allowance. */
    private readonly patience: number,
    private readonly now: () => number = Date.now,
  ) {
    this.tokens = burst
    this.refilled = now()
  }

  /** Takes `cost` of it: fine, refused, or refused once too often. */
  spend(cost = 1): 'fine' | 'refused' | 'cut' {
    const now = this.now()
    this.tokens = Math.min(this.burst, this.tokens + ((now - this.refilled) / 1000) * this.steady)
    this.refilled = now
    if (this.tokens < cost) return ++this.refused > this.patience ? 'cut' : 'refused'
    this.tokens -= cost
    if (this.refused > 0) this.refused--
    return 'fine'
  }
}
