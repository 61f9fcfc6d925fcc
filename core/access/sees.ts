import type { Change, Initial } from '../tree/change'
import { isTreeChange } from '../tree/change'
import { type Snapshot, toSnapshot } from '../tree/snapshot'
import { EDIT_FORMAT } from '../tree/upgrade'
import { BLANK, type Content, CONTENT_NAMES, isBlank, type Topic, type TopicId } from '../tree/topic'
import { childrenOf, isLive, type Tree } from '../tree/tree'
import { FRESH_FIELDS } from '../tree/tree-fields'
import type { Principal } from './principal'
import { allows, type Role } from './roles'

/** What may be left out of a part of a tree that somebody is given. */
export type Withheld = 'notes' | 'files' | 'people'

/** The part of a tree that somebody may have. */
export interface Sight {
  /** The branch, with the topic it starts from; null for the whole tree, its trash included. */
  readonly branch: TopicId | null
  readonly without: ReadonlySet<Withheld>
}
export const WHOLE_SIGHT: Sight = { branch: null, without: new Set() }

/** What a link or a view grants beyond roles. */
export interface Grant {
  readonly branch: TopicId | null
  readonly without?: readonly Withheld[]
}

/**
 * The part of a tree that a principal may have; null for none of it. Whoever has a role has the whole; a guest has the
 * meeting they were asked to, without files; a grant narrows either.
 */
export function sees(principal: Principal, role: Role | null, grant?: Grant): Sight | null {
  const narrowed: Sight | null = grant ? { branch: grant.branch, without: new Set(grant.without ?? []) } : null
  if (principal.kind === 'guest') return narrowed ?? { branch: principal.meeting, without: new Set(['files']) }
  if (principal.kind === 'app' || (role !== null && allows(role, 'viewer'))) return narrowed ?? WHOLE_SIGHT
  return narrowed
}

export const isWhole = (sight: Sight): boolean => sight.branch === null && sight.without.size === 0

/** What each kind withholds. */
const KEYS: Readonly<Record<Withheld, readonly (keyof Content)[]>> = {
  notes: ['note'],
  files: ['files', 'picture', 'sketch'],
  people: ['people', 'entry', 'meeting', 'item'],
}

const isAboutGroups = (change: Change): boolean =>
  (change.op === 'tree-put' || change.op === 'tree-take') && change.set === 'groups'

/**
 * A part of a tree as one principal has it: the snapshot to begin with, and from then on what of each edit is theirs to know.
 * A branch that is placed into the part comes as new, one that is placed out of it goes.
 */
export class Part {
  /** Topics its holder has and may go on hearing of. */
  private readonly known = new Set<TopicId>()
  /** Topics its holder was given once and that have left the part. */
  private readonly gone = new Set<TopicId>()
  private lives = true
  private readonly hidden: ReadonlySet<keyof Content>

  constructor(
    private readonly tree: Tree,
    private readonly sight: Sight,
  ) {
    this.hidden = new Set([...sight.without].flatMap(kind => KEYS[kind]))
  }

  /** The topic that the part starts from. */
  get root(): TopicId {
    return this.sight.branch ?? this.tree.centre
  }

  /** The part as it is now. Empty but for its root when that is in the trash. */
  snapshot(): Snapshot {
    this.known.clear()
    this.gone.clear()
    this.lives = isLive(this.tree, this.root)
    if (this.sight.branch === null) {
      for (const id of this.tree.topics.keys()) this.known.add(id)
      const whole = toSnapshot(this.tree)
      // Who else there is, and by which address, is for those who have the whole.
      return { ...whole, fields: { ...whole.fields, groups: [] }, topics: whole.topics.map(topic => this.lean(topic)) }
    }
    const topics: Snapshot['topics'][number][] = []
    const walk = (id: TopicId): void => {
      this.known.add(id)
      const topic = this.tree.topics.get(id)!
      topics.push(this.lean(id === this.root ? { ...topic, parent: null, order: 'a0' } : topic))
      for (const child of childrenOf(this.tree, id)) walk(child)
    }
    if (this.lives) walk(this.root)
    else {
      this.known.add(this.root)
      topics.push({ id: this.root, parent: null, order: 'a0' })
    }
    return { format: EDIT_FORMAT, centre: this.root, fields: { ...FRESH_FIELDS, look: this.tree.fields.look }, topics }
  }

  /**
   * What of an edit this part's holder is told. The tree has it already. Null when a branch comes back that had left, or the
   * part goes into the trash or comes out of it: then the snapshot is given anew.
   */
  news(changes: readonly Change[]): Change[] | null {
    if (this.sight.branch === null) return changes.flatMap(change => this.told(change))
    if (isLive(this.tree, this.root) !== this.lives) return null
    // What happens in the trash is nobody’s news.
    if (!this.lives) return []
    if (changes.some(change => !isTreeChange(change) && this.returns(change.topic))) return null
    return changes.flatMap(change => this.told(change))
  }

  private returns(topic: TopicId): boolean {
    return this.gone.has(topic) && this.holds(topic)
  }

  private told(change: Change): Change[] {
    if (isTreeChange(change)) return this.sight.branch === null && !isAboutGroups(change) ? [change] : []
    const { topic } = change
    const holds = this.holds(topic)
    if (change.op === 'add') {
      if (!holds || this.known.has(topic) || !this.knows(change.parent)) return []
      this.known.add(topic)
      return [change.with ? { ...change, with: this.initial(change.with) } : change]
    }
    if (
      topic === this.root &&
      this.sight.branch !== null &&
      change.op !== 'set' &&
      change.op !== 'put' &&
      change.op !== 'take' &&
      change.op !== 'note'
    )
      return []
    if (change.op === 'place') {
      if (!this.known.has(topic)) return holds ? this.arrival(topic) : []
      if (holds) return this.knows(change.parent) ? [change] : []
      this.leave(topic)
      return [{ op: 'remove', topic }]
    }
    if (!holds || !this.known.has(topic)) return []
    if (change.op === 'set' && this.hidden.has(change.field)) return []
    if ((change.op === 'put' || change.op === 'take') && this.hidden.has(change.set)) return []
    return change.op === 'note' && this.hidden.has('note') ? [] : [change]
  }

  /** Whether a topic lies in the part now. Cost: the depth. */
  private holds(id: TopicId): boolean {
    if (this.sight.branch === null) return true
    for (let at: TopicId | null = id; at !== null; at = this.tree.topics.get(at)?.parent ?? null)
      if (at === this.root) return true
    return false
  }

  private knows(parent: TopicId | null): boolean {
    return this.sight.branch === null || (parent !== null && this.known.has(parent))
  }

  private leave(id: TopicId): void {
    for (const one of this.known)
      if (one === id || !this.holds(one)) {
        this.known.delete(one)
        this.gone.add(one)
      }
  }

  /** A branch that came in, whole, as it is now; nothing while what it hangs from hasn't come yet. */
  private arrival(id: TopicId): Change[] {
    const { parent, order, removed } = this.tree.topics.get(id)!
    if (this.known.has(id) || !this.knows(parent)) return []
    this.known.add(id)
    const content: Record<string, unknown> = {}
    const topic = this.tree.topics.get(id)!
    for (const key of CONTENT_NAMES)
      if (key !== 'removed' && !this.hidden.has(key) && !isBlank(key, topic[key])) content[key] = topic[key]
    return [
      { op: 'add', topic: id, parent, order, with: content as Initial },
      ...(removed ? [{ op: 'remove' as const, topic: id }] : []),
      ...childrenOf(this.tree, id).flatMap(child => this.arrival(child)),
    ]
  }

  private lean<T extends Partial<Topic>>(topic: T): T {
    if (this.hidden.size === 0 && this.sight.branch === null) return topic
    return Object.fromEntries(
      Object.entries(topic).filter(
        ([key, value]) =>
          !this.hidden.has(key as keyof Content) && !(key in BLANK && isBlank(key as keyof Content, value)),
      ),
    ) as T
  }

  private initial(given: Initial): Initial {
    return Object.fromEntries(
      Object.entries(given).filter(([key]) => !this.hidden.has(key as keyof Content)),
    ) as Initial
  }
}
