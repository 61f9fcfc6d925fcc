import {
  type Change,
  type Field,
  type Fields,
  isLive,
  markerSetsOf,
  rivalsOf,
  setAll,
  shorten,
  type Step,
  toggleMember,
  topicOf,
  type TopicId,
} from '#core/tree'
import type { Moment } from '#core/schedule/times'
import { comesAgain, finished } from '#core/schedule/turns'
import type { Turned } from '~/session/session'
import type { Desk } from './desk'

/** Fields that a reference shows of its original. */
const SHOWN_FIELDS: ReadonlySet<Field> = new Set([
  ...(['title', 'start', 'due', 'startTime', 'dueTime', 'duration', 'done', 'priority'] as const),
])

/** Making edits of what somebody does, and taking them back. */
export class Authoring {
  constructor(private readonly desk: Desk) {}

  /** Whether one may change the tree; says so when not. */
  guard(): boolean {
    const { session } = this.desk
    if (session.canEdit) return true
    this.desk.say(
      session.state === 'gone'
        ? session.goneWhy
        : session.state === 'then'
          ? 'This is the tree as it was. Bring something of it back, or go back to now to change it.'
          : `As ${session.role} you can read this tree but not change it.`,
    )
    return false
  }

  /** Makes one edit of what somebody did. False when there is nothing to do or it's refused. */
  run(step: Pick<Step, 'changes'>): boolean {
    return this.desk.session.make(step.changes)
  }

  /**
   * What is done to a reference is done to its original, where that stands in this tree; elsewhere it can only be done
   * there.
   */
  private originals(ids: readonly TopicId[]): TopicId[] {
    const { tree, guises } = this.desk
    let elsewhere = false
    const found = ids.flatMap(id => {
      const topic = tree.topics.get(id)
      if (!topic?.reference) return [id]
      const { original } = guises.of(topic)
      if (original?.tree === null) return [original.topic]
      elsewhere = true
      return []
    })
    if (elsewhere) this.desk.say('What is shown from another tree is changed there. The arrow sign leads to it.')
    return [...new Set(found)]
  }

  set<F extends Field>(field: F, value: Fields[F], ids: readonly TopicId[]): void {
    if (!this.guard()) return
    const meant = SHOWN_FIELDS.has(field) ? this.originals(ids) : ids
    if (field === 'done' && value === 100) this.finish(meant)
    else this.run(setAll(this.desk.tree, meant, field, value))
  }

  /** A day with or without a time of it, as one edit. */
  setMoment(field: 'start' | 'due', moment: Moment | null, ids: readonly TopicId[]): void {
    if (!this.guard()) return
    const { tree } = this.desk
    const meant = this.originals(ids)
    const time = field === 'start' ? 'startTime' : 'dueTime'
    this.run({
      changes: [
        ...setAll(tree, meant, field, moment?.day ?? null).changes,
        ...setAll(tree, meant, time, moment?.time ?? null).changes,
      ],
    })
  }

  /** Tasks are done; of one that comes again it's a turn, and what is said of it is when the next is. */
  private finish(ids: readonly TopicId[]): void {
    const { desk } = this
    const turned = ids.filter(id => comesAgain(topicOf(desk.tree, id)) && topicOf(desk.tree, id).done !== 100)
    const changes = ids.flatMap(id => {
      const topic = topicOf(desk.tree, id)
      return topic.done === 100 ? [] : finished(desk.tree, topic, desk.treeDay, desk.userId)
    })
    if (!this.run({ changes }) || turned.length === 0) return
    const [first] = turned
    const { title, due, done } = topicOf(desk.tree, first!)
    desk.say(
      turned.length > 1
        ? `${turned.length} tasks come again: each stands there for its next turn.`
        : done === 100
          ? `“${shorten(title || 'untitled', 40)}”: that was its last turn.`
          : `“${shorten(title || 'untitled', 40)}” is done for now. It comes again on ${dayInWords(due!)}.`,
      true,
    )
  }

  toggle(set: 'markers' | 'people', member: string, ids: readonly TopicId[]): void {
    if (!this.guard()) return
    const { tree } = this.desk
    const rivals = set === 'markers' ? rivalsOf(member, markerSetsOf(tree.fields)) : []
    this.run(toggleMember(tree, this.originals(ids), set, member, rivals))
  }

  /** Gives topics to several people in one edit; where somebody is on one already, they stay. */
  giveAll(people: readonly string[], ids: readonly TopicId[]): void {
    if (!this.guard()) return
    const { tree } = this.desk
    const to = this.originals(ids).map(id => topicOf(tree, id))
    const changes = people.flatMap(member =>
      to
        .filter(topic => !topic.people.includes(member))
        .map(({ id }): Change => ({ op: 'put', topic: id, set: 'people', member })),
    )
    if (changes.length > 0) this.run({ changes })
  }

  put(topic: TopicId, change: Change): void {
    if (this.guard()) this.run({ changes: [change] })
    this.desk.tell(new Set([topic]))
  }

  toggleDone(ids: readonly TopicId[]): void {
    const { tree, guises } = this.desk
    this.set('done', ids.every(id => guises.of(topicOf(tree, id)).topic.done === 100) ? 0 : 100, ids)
  }

  undo(): void {
    const arrived = this.desk.session.takeArrived()
    if (arrived !== null) {
      void this.takeBackThere(arrived)
      return
    }
    this.after(this.desk.session.undo(), 'There is nothing of yours to undo.')
  }

  /** Takes back what the server made, over whatever others have done since. */
  async takeBackThere(number: number): Promise<void> {
    const { desk } = this
    desk.session.arrivedWith = null
    try {
      const { stays } = await callApi<{ stays: Turned['stays'] }>(
        `/api/trees/${desk.session.treeId}/edits/${number}/take-back`,
        { method: 'POST' },
      )
      this.after({ topics: [], stays }, 'Taken back.')
    } catch (error) {
      desk.say((error as Error).message)
    }
  }

  redo(): void {
    this.after(this.desk.session.redo(), 'There is nothing to redo.')
  }

  /** Shows what came of an undo or redo, and says what stays and why. */
  after({ topics, stays }: Turned, nothing: string): void {
    const { desk } = this
    const there = [...topics, ...stays.map(one => one.topic)].filter(id => isLive(desk.tree, id))
    if (there.length > 0) desk.visit(there[0]!)
    const [first] = stays
    if (!first) {
      if (topics.length === 0) desk.say(nothing)
      return
    }
    const one = stays.length === 1
    const named = one
      ? `“${shorten(desk.tree.topics.get(first.topic)?.title || 'untitled', 40)}” stays`
      : `${stays.length} topics stay`
    desk.say(
      first.why === 'worked'
        ? `${named}: somebody has put work there since.`
        : `${named} where ${one ? 'it is' : 'they are'}: the old place has gone.`,
    )
  }
}
