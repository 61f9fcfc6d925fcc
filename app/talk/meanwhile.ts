import type { Told } from '#core/talk/saying'
import { hearAgain, type Thread } from '#core/talk/thread'

/** What is told while words are on their way: it may not be in them, and is heard again over them. */
export class Meanwhile {
  private flying = 0
  private told: Told[] = []

  hear(told: Told): void {
    if (this.flying > 0) this.told.push(told)
  }

  /** Asks, and takes what is found; `heard`: a thread that was found, with what was told meanwhile. */
  async over<T>(ask: () => Promise<T>, take: (found: T, heard: (thread: Thread) => Thread) => void): Promise<T> {
    this.flying++
    try {
      const found = await ask()
      take(found, thread =>
        this.told.reduce((now, told) => (told.thread === now.id ? hearAgain(now, told) : now), thread),
      )
      return found
    } finally {
      if (--this.flying === 0) this.told = []
    }
  }
}
