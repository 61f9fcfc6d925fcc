import { may } from '#core/access/may'
import {
  accountOf,
  type Actor,
  actorOf,
  type EditSource,
  type NewsEdit,
  type Principal,
  type Role,
} from '#core/contract'
import { Derivation } from '#core/derive/derived'
import { RollUps } from '#core/derive/roll-ups'
import {
  addedWeight,
  applyChanges,
  type Change,
  type Edit,
  type Patch,
  refuseCircles,
  toSnapshot,
  touchedBy,
  type Tree,
  unapply,
} from '#core/tree'

import { checkWeights } from './weights'

/** An edit that was made in memory and isn't stored yet. */
export interface Staged {
  readonly live: LiveTree
  readonly principal: Principal
  readonly actor: Actor
  /** The role that it was allowed for; null where no role counts. */
  readonly role: Role | null
  readonly news: NewsEdit
  readonly patches: readonly Patch[]
  /** Bytes that it adds to the tree. */
  readonly added: number
}

/** Why an edit may not be made by whoever wants to. */
export class NotAllowed extends Error {
  constructor(readonly role: Role | null) {
    super('not allowed')
  }
}

/** Ids of recent edits that are kept, so that one sent twice is known without asking the database. */
const RECENT = 2000

/**
 * A tree in memory as the server has it: a copy, never the truth. Edits are staged, each checked at its number, and then
 * committed together when they are stored, or rolled back together. Whoever reads it for others waits until nothing is
 * staged.
 */
export class LiveTree {
  /** Roles as they were last read; forgotten whenever rights change. */
  readonly roles = new Map<string, Role | null>()
  /** Changes since the last stored snapshot. */
  unsaved = 0
  /** Bytes that were added since. */
  unsavedBytes = 0
  /** What is worked out from the tree, as in a browser. */
  private readonly derivation = new Derivation()
  readonly rollUps = this.derivation.add(new RollUps(() => this.tree))
  private readonly recent = new Map<string, number>()
  private staged: Staged[] = []
  private bytes: Buffer | null = null
  private waiting: (() => void)[] = []

  constructor(
    readonly id: string,
    readonly tree: Tree,
    /** The number of the newest edit, staged ones included. */
    public version: number,
    public epoch: string,
    /** Bytes of the tree as its snapshot is written. */
    public weight: number,
  ) {}

  /** Takes in an edit that is stored already. */
  catchUp(edit: { readonly id: string; readonly number: number; readonly changes: readonly Change[] }): void {
    const patches = applyChanges(this.tree, edit.changes)
    const added = addedWeight(patches, this.tree.fields)
    this.weight += added
    this.unsavedBytes += Math.max(0, added)
    this.tell(patches)
    this.remember(edit.id, edit.number, edit.changes.length)
  }

  /** Whether an edit of that id is stored already. */
  has(editId: string): boolean {
    return this.recent.has(editId) && !this.stagedAs(editId)
  }

  /** An edit of that id that is staged. */
  stagedAs(editId: string): NewsEdit | undefined {
    return this.staged.find(({ news }) => news.id === editId)?.news
  }

  /**
   * Makes an edit in memory and gives it the next number. Throws `NotAllowed` or `Refused`, and then changes nothing.
   */
  stage(principal: Principal, edit: Edit & { readonly source?: EditSource | undefined }, at: Date): Staged {
    const account = accountOf(principal)
    const role = account === null ? null : (this.roles.get(account) ?? null)
    const patches = this.make(principal, role, edit.changes)
    const added = addedWeight(patches, this.tree.fields)
    try {
      // Whoever is second in closing a circle of dependencies is told; what comes as a whole is never refused for one.
      if (!edit.source) refuseCircles(this.tree, edit.changes)
      // Taking something away is never refused, though saying so has some bytes.
      if (!edit.changes.every(isTakingAway)) checkWeights(patches, added, this.weight + added)
    } catch (error) {
      unapply(this.tree, patches)
      throw error
    }
    this.weight += added
    this.unsavedBytes += Math.max(0, added)
    this.tell(patches)
    const actor = actorOf(principal)
    const news: NewsEdit = {
      id: edit.id,
      changes: edit.changes,
      number: this.version + 1,
      user: actor.id,
      ...(actor.kind === 'account' ? {} : { actor: actor.kind }),
      ...(actor.behalf === null ? {} : { behalf: actor.behalf }),
      ...(edit.source ? { source: edit.source } : {}),
      at: at.toISOString(),
    }
    const staged: Staged = { live: this, principal, actor, role, news, patches, added }
    this.remember(edit.id, news.number, edit.changes.length)
    this.staged.push(staged)
    return staged
  }

  private make(principal: Principal, role: Role | null, changes: readonly Change[]): Patch[] {
    // Whoever may change a title may change all; others are asked change by change, each as the tree is by then.
    if (principal.kind === 'app' || may(principal, role, FREE, this.tree)) return applyChanges(this.tree, changes)
    const patches: Patch[] = []
    try {
      for (const change of changes) {
        if (!may(principal, role, change, this.tree)) throw new NotAllowed(role)
        patches.push(...applyChanges(this.tree, [change]))
      }
    } catch (error) {
      unapply(this.tree, patches)
      throw error
    }
    return patches
  }

  /** What was staged is stored. */
  commit(): void {
    this.staged = []
    this.release()
  }

  /** What was staged couldn't be stored: the tree is as it was before. */
  rollBack(): void {
    for (const { patches, news, added } of this.staged.reverse()) {
      unapply(this.tree, patches)
      this.weight -= added
      this.tell(patches)
      this.version = news.number - 1
      this.recent.delete(news.id)
      this.unsaved -= news.changes.length
    }
    this.staged = []
    this.bytes = null
    this.release()
  }

  /** True while something is staged. */
  get isOpen(): boolean {
    return this.staged.length > 0
  }

  /** Resolves when nothing is staged. */
  async settled(): Promise<void> {
    while (this.isOpen) await new Promise<void>(done => this.waiting.push(done))
  }

  /**
   * The snapshot as JSON in UTF-8, kept for the next who opens the tree at the same number. Bytes and not text, so that a heavy tree
   * takes its room once and outside the heap. Nothing may be staged.
   */
  snapshotBytes(): Buffer {
    this.bytes ??= Buffer.from(JSON.stringify(toSnapshot(this.tree)))
    return this.bytes
  }

  /** These are the bytes of the snapshot that it was made from. */
  wasRead(bytes: Buffer): void {
    this.bytes = bytes
  }

  private tell(patches: readonly Patch[]): void {
    this.derivation.changed(touchedBy(patches))
  }

  private remember(editId: string, number: number, changes: number): void {
    this.version = number
    this.bytes = null
    this.recent.set(editId, number)
    this.unsaved += changes
    if (this.recent.size > RECENT) this.recent.delete(this.recent.keys().next().value!)
  }

  private release(): void {
    const waiting = this.waiting
    this.waiting = []
    for (const done of waiting) done()
  }
}

const isTakingAway = ({ op }: Change): boolean => op === 'remove' || op === 'take' || op === 'tree-take'

const FREE: Change = { op: 'tree', field: 'description', value: '' }
