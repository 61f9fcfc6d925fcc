import type { Present, Role } from '#core/contract'
import type { LineState, TreePerson } from '~/session/session'
import type { Desk } from './desk'

/** How things stand with the line, the role and the people, as the screen shows it. */
export class Status {
  readonly shown = shallowReactive({
    ready: false,
    state: 'opening' as LineState,
    goneWhy: '',
    role: 'viewer' as Role,
    waiting: 0,
    canUndo: false,
    canRedo: false,
    people: [] as readonly TreePerson[],
    present: [] as readonly Present[],
  })
  private queued = false

  constructor(private readonly desk: Desk) {}

  /** Something changed; what came of it is taken once for all that happens in this turn. */
  changed(): void {
    if (this.queued) return
    this.queued = true
    setTimeout(() => {
      this.queued = false
      this.take()
    })
  }

  take(): void {
    const { shown, desk } = this
    const { session } = desk
    Object.assign(shown, {
      state: session.state,
      goneWhy: session.goneWhy,
      role: session.role,
      waiting: desk.waiting,
      canUndo: session.canUndo && session.canEdit,
      canRedo: session.canRedo && session.canEdit,
    })
    if (shown.people !== session.people) {
      shown.people = session.people
      useFaces().hear(session.people)
      desk.planks.clear()
      if (shown.ready) desk.tell('all')
    }
    shown.present = [...session.present.values()]
  }
}
