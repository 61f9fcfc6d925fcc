import type { ShownTopic } from '#core/contract'
import type { TopicId } from '#core/tree'
import type { Desk } from './desk'

/** What references to other trees show: asked of the server when they are new, and when one of those trees changed. */
export class Elsewhere {
  private timer = 0
  private asked = ''

  /** `shown`: told which topics look otherwise now. */
  constructor(
    private readonly desk: Desk,
    private readonly shown: (ids: readonly TopicId[]) => void,
  ) {}

  /** Asks soon, and to hear of changes there. */
  ask(wait = 250): void {
    clearTimeout(this.timer)
    this.timer = window.setTimeout(() => {
      const { guises, session } = this.desk
      const { trees } = guises
      if (trees.length === 0) return
      this.asked = trees.join()
      session.watchTrees(trees)
      callApi<ShownTopic[]>(`/api/trees/${session.treeId}/shown`).then(
        found => this.shown(guises.take(found)),
        () => {
          /* offline: what was known stays */
        },
      )
    }, wait)
  }

  /** Asks where references lead to trees that weren't asked about yet. */
  askOfNew(): void {
    if (this.desk.guises.trees.join() !== this.asked) this.ask()
  }

  close(): void {
    clearTimeout(this.timer)
  }
}
