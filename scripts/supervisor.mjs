/*
 * Keeps one program running: what ends by itself is started again after a pause that grows, and given up, in words, when it ends
 * again and again.
 */
import { say } from './machine.mjs'

const FIRST_PAUSE_MS = 500
const LONGEST_PAUSE_MS = 30_000
/** Ends within this time that are too many. */
const MOST_ENDS = 8
const WITHIN_MS = 5 * 60_000
const PATIENCE_MS = 15_000
/** Ends so when a setting is wrong (EX_CONFIG of sysexits.h): starting again wouldn't help. */
const WRONG_SETTINGS = 78

export class Supervisor {
  /** `start` resolves to the child process; `stop`, where given, ends it cleanly. */
  constructor(name, { start, stop, started, gaveUp }) {
    this.name = name
    this.hooks = { start, stop, started, gaveUp }
    this.child = null
    this.wanted = false
    this.ends = []
  }

  get pid() {
    return this.child?.pid
  }

  async start() {
    this.wanted = true
    this.child = await this.hooks.start()
    const { child } = this
    child.once('exit', (code, signal) => this.ended(child, signal ?? `code ${code}`))
    this.hooks.started?.()
  }

  ended(child, why) {
    if (child !== this.child) return
    this.child = null
    if (!this.wanted) return
    if (why === `code ${WRONG_SETTINGS}`) {
      this.wanted = false
      this.hooks.gaveUp?.('Mend what stands above, then start again.')
      return
    }
    const now = Date.now()
    this.ends = [...this.ends.filter(at => now - at < WITHIN_MS), now]
    if (this.ends.length >= MOST_ENDS) {
      this.wanted = false
      this.hooks.gaveUp?.(
        `${this.name} ended ${MOST_ENDS} times within five minutes (${why}). What it said stands above; mend that, then start again.`,
      )
      return
    }
    const pause = Math.min(LONGEST_PAUSE_MS, FIRST_PAUSE_MS * 2 ** (this.ends.length - 1))
    say(`${this.name} ended by itself (${why}). Starting it again in ${pause / 1000} s …`)
    this.timer = setTimeout(() => {
      if (this.wanted)
        this.start().catch(error => this.hooks.gaveUp?.(`${this.name} could not be started again: ${error.message}`))
    }, pause)
  }

  /** Ends it and waits; after a while by force. */
  async stop() {
    this.wanted = false
    clearTimeout(this.timer)
    const { child } = this
    if (!child || child.exitCode !== null || child.signalCode !== null) return
    await new Promise(done => {
      child.once('exit', done)
      const force = setTimeout(() => child.kill('SIGKILL'), PATIENCE_MS)
      force.unref()
      if (this.hooks.stop) void this.hooks.stop()
      else child.kill('SIGTERM')
    })
    this.child = null
  }

  /** Ends it without waiting. */
  kill() {
    this.wanted = false
    if (this.child && this.child.exitCode === null) this.child.kill('SIGTERM')
  }
}
