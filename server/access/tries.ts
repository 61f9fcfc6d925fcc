import { createHash } from 'node:crypto'
import { RateLimiterMySQL, type RateLimiterRes } from 'rate-limiter-flexible'
import { again } from '../database/again'
import { connections, databaseName, isPassing } from '../database/connect'
import { Fault } from './fault'

const HOUR_SECONDS = 3600
const LONGEST_WAIT_SECONDS = 15 * 60

/** Many count at the same row at once: one that is sent back because it met another counts again. */
class PatientLimiter extends RateLimiterMySQL {
  override async consume(...given: Parameters<RateLimiterMySQL['consume']>): Promise<RateLimiterRes> {
    return again(isPassing, () => super.consume(...given))
  }
}

const limiter = (keyPrefix: string, points: number, duration: number): RateLimiterMySQL =>
  new PatientLimiter({
    storeClient: connections().pool,
    storeType: 'pool',
    dbName: databaseName(),
    tableName: 'rate_limits',
    tableCreated: true,
    clearExpiredByTimeout: false,
    keyPrefix,
    points,
    duration,
  })

const slowed = (ms: number): Fault => {
  const seconds = Math.max(1, Math.ceil(ms / 1000))
  return new Fault(429, 'slowed', `Too many tries. Wait ${seconds} seconds, then try again.`, { seconds })
}

/** What the limiter rejects with when the database fails is an `Error`; else it says how long to wait. */
function refusal(error: unknown): RateLimiterRes {
  if (error instanceof Error) throw error
  return error as RateLimiterRes
}

/**
 * Tries of which some an hour cost nothing and each further one has to wait twice as long as the one before, a quarter of an
 * hour at most. Counted before anything is looked at, so that of many at once no more pass than of as many one after the
 * other.
 */
class GrowingWait {
  private readonly free: RateLimiterMySQL
  /** Shut while one has to wait. */
  private readonly gate: RateLimiterMySQL
  /** Tries beyond the free ones that were looked at. */
  private readonly further: RateLimiterMySQL

  constructor(name: string, free: number) {
    this.free = limiter(`${name} free`, free, HOUR_SECONDS)
    this.gate = limiter(`${name} gate`, 1, 1)
    this.further = limiter(`${name} further`, 1_000_000, HOUR_SECONDS)
  }

  /** Throws `slowed` while one has to wait. */
  async pass(key: string): Promise<void> {
    const count = await this.free.consume(key).catch(refusal)
    if (count.consumedPoints <= this.free.points) {
      if (count.remainingPoints === 0) await this.gate.consume(key, 1, { customDuration: 1 }).catch(refusal)
      return
    }
    const further = ((await this.further.get(key))?.consumedPoints ?? 0) + 1
    const wait = Math.min(LONGEST_WAIT_SECONDS, 2 ** Math.min(further, 20))
    const gate = await this.gate.consume(key, 1, { customDuration: wait }).catch(refusal)
    if (gate.consumedPoints > 1) throw slowed(gate.msBeforeNext)
    await this.further.set(key, further, HOUR_SECONDS)
  }

  async forget(key: string): Promise<void> {
    await Promise.all([this.free.delete(key), this.gate.delete(key), this.further.delete(key)])
  }

  /** One that passed was none of those that are meant. */
  async takeBack(key: string): Promise<void> {
    await this.free.reward(key, 1)
  }
}

let waits: Record<'pair' | 'account' | 'address' | 'known' | 'code', GrowingWait> | undefined
const all = (): NonNullable<typeof waits> =>
  (waits ??= {
    pair: new GrowingWait('sign-in pair', 5),
    account: new GrowingWait('sign-in account', 40),
    address: new GrowingWait('sign-in address', 30),
    known: new GrowingWait('sign-in known', 10),
    code: new GrowingWait('code', 5),
  })

const digest = (text: string): string => createHash('sha256').update(text).digest('base64url')

export interface Try {
  /** It was right: what was counted for it is taken back. */
  forgive(): Promise<void>
}

/**
 * Counts a try at an account from a network address: at the account from anywhere, from the address at anything, and at
 * both. So whoever guesses from elsewhere soon waits, and the owner doesn't wait for them. From a browser where the account
 * was signed in to before (`known` names it) only that browser's own tries count. Throws `slowed` while one has to wait.
 */
export async function countTry(email: string, address: string, known: string | null): Promise<Try> {
  const { pair, account, address: from, known: own } = all()
  if (known !== null) {
    await own.pass(known)
    return { forgive: () => own.forget(known) }
  }
  const keys = { account: digest(email), from: digest(address), pair: digest(`${email} ${address}`) }
  await pair.pass(keys.pair)
  await from.pass(keys.from)
  await account.pass(keys.account)
  return {
    async forgive() {
      await Promise.all([pair.forget(keys.pair), account.forget(keys.account), from.takeBack(keys.from)])
    },
  }
}

/** Counts a guess at somebody's second factor, wherever it's asked for and whatever else was right. Throws `slowed`. */
export async function countCode(userId: string): Promise<Try> {
  const { code } = all()
  await code.pass(userId)
  return { forgive: () => code.forget(userId) }
}

const budgets = new Map<string, RateLimiterMySQL>()

/** Takes one from what somebody may do of something in a time. False when it's used up. */
export async function spend(what: string, who: string, most: number, seconds: number): Promise<boolean> {
  const name = `${what} ${most}`
  const budget = budgets.get(name) ?? limiter(name, most, seconds)
  budgets.set(name, budget)
  const { consumedPoints } = await budget.consume(digest(who)).catch(refusal)
  return consumedPoints <= most
}

/** As `spend`, and throws `slowed` when it's used up. */
export async function mustSpend(what: string, who: string, most: number, seconds: number): Promise<void> {
  if (!(await spend(what, who, most, seconds)))
    throw new Fault(429, 'slowed', 'That was asked for too often. Try again later.')
}
