import { type SessionEvents, TreeSession } from './session'

/** A tree to be looked at: no line, nothing kept, nothing changed. */
export abstract class LookingSession extends TreeSession {
  constructor(
    treeId: string,
    userId: string,
    protected readonly told: SessionEvents,
  ) {
    super(treeId, userId, told)
  }

  override get canEdit(): boolean {
    return false
  }

  override make(): boolean {
    return false
  }

  override close(): void {}
}
