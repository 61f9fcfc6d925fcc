import { isLive, type TopicId } from '#core/tree'
import type { Desk } from './desk'

/** There and back: where links, references and cross-links led from. */
export class Journey {
  private readonly trail: { readonly focus: TopicId; readonly only: TopicId | null }[] = []
  /** How many steps back there are. */
  readonly steps = ref(0)

  constructor(private readonly desk: Desk) {}

  /** Goes to a topic by something that leads there; Esc leads back. */
  to(id: TopicId): void {
    const { desk } = this
    if (!isLive(desk.tree, id)) {
      desk.say('That topic is in the trash, or not there any more.')
      return
    }
    this.trail.push({ focus: desk.focus.value, only: desk.only.value })
    this.steps.value = this.trail.length
    desk.visit(id)
  }

  /** One step back. False when there is none. */
  back(): boolean {
    const { desk } = this
    const step = this.trail.pop()
    this.steps.value = this.trail.length
    if (!step) return false
    if (step.only !== desk.only.value && (step.only === null || isLive(desk.tree, step.only))) desk.showOnly(step.only)
    if (isLive(desk.tree, step.focus)) desk.visit(step.focus)
    return true
  }

  /** Who begins to work here has arrived: nothing leads back any more. */
  arrive(): void {
    this.trail.length = this.steps.value = 0
  }
}
