import { detailChanges, type Known, readDetails } from '#core/capture/quick-details'
import { byLetters } from '#core/find/by-letters'
import {
  addressesIn,
  besideSlot,
  type Change,
  indent,
  isLive,
  isWithin,
  lastChild,
  markersOf,
  moveTo,
  outdent,
  type Step,
  type Topic,
  topicOf,
  type TopicId,
  wayBack,
} from '#core/tree'
import { expectField } from '~/focus/typeahead'
import type { Desk } from './desk'
import { newId } from './new-id'

/** The one title that is being typed, from its opening to being kept or dropped. */
export class Typing {
  /** `fresh`: the topic was just made and goes again when nothing is typed. */
  readonly open = shallowRef<{ readonly id: TopicId; readonly fresh: boolean } | null>(null)
  readonly draft = ref('')
  /** Where the focus was before a new topic was begun. */
  private cameFrom: TopicId = ''

  constructor(private readonly desk: Desk) {}

  /** What words after `//` are read with. */
  known(): Known {
    // Whoever joins while words are typed is known at once, not with the next key.
    void this.desk.status.people
    return {
      people: this.desk.session.people,
      markers: markersOf(this.desk.tree.fields),
      ...daySense(),
      figureIn: this.desk.planks.figures?.read,
      due: this.open.value ? (this.desk.tree.topics.get(this.open.value.id)?.due ?? null) : null,
      start: this.open.value ? (this.desk.tree.topics.get(this.open.value.id)?.start ?? null) : null,
      ...(this.open.value ? { topicCalled: words => this.called(words, this.open.value!.id) } : {}),
    }
  }

  /** The topic that is called so, and that another may wait for. */
  private called(words: string, by: TopicId): Topic | null {
    const { tree } = this.desk
    const said = words.trim().toLocaleLowerCase()
    const found = byLetters(tree, words, 6, ({ id }) => id !== by)
    const exact = found.filter(({ title }) => title.trim().toLocaleLowerCase() === said)
    const [one, ...more] = exact.length > 0 ? exact : found
    if (!one || more.length > 0 || isWithin(tree, one.id, by) || isWithin(tree, by, one.id)) return null
    return wayBack(tree, by, one.id) ? null : one
  }

  /** Opens a title for typing. */
  edit(id: TopicId, fresh = false): void {
    const { desk } = this
    if (!desk.session.canEdit) {
      desk.say(`As ${desk.session.role} you can read this tree but not change it.`)
      return
    }
    if (topicOf(desk.tree, id).reference && !fresh) {
      desk.say('This topic shows another one. Its words are changed at the original.')
      return
    }
    this.keep()
    desk.journey.arrive()
    expectField()
    this.draft.value = topicOf(desk.tree, id).title
    this.open.value = { id, fresh }
    this.redraft()
    desk.select(id)
  }

  /** The plank grows with what is typed. */
  redraft(): void {
    const open = this.open.value
    if (!open || !this.desk.tree.topics.has(open.id)) return
    this.desk.planks.setDraft(open.id, this.draft.value || ' ')
    this.desk.tell(new Set([open.id]))
  }

  /** Makes a topic that nobody hears of yet and opens its title. `unfold`: what has to be open for it to be seen. */
  begin(step: Step, unfold?: TopicId): void {
    const { desk } = this
    if (!desk.guard()) return
    if (step.made.length === 0) {
      desk.say('That can’t be done with the centre of the tree.')
      return
    }
    this.keep()
    if (unfold && desk.isFolded(unfold)) desk.toggleFold([unfold])
    this.cameFrom = desk.focus.value
    const [made] = step.made
    const born = desk.born()
    const changes = step.changes.map(change =>
      change.op === 'add' && change.topic === made ? { ...change, with: { ...change.with, ...born } } : change,
    )
    if (desk.session.hold(changes)) this.edit(made!, true)
  }

  /** What a typed title means, as changes. */
  private titleChanges(topic: Topic, said: string): Change[] {
    // It isn't open any more by now; who may be waited for is asked of the topic all the same.
    const topicCalled = (words: string): Topic | null => this.called(words, topic.id)
    const { title, details } = readDetails(said.toWellFormed(), {
      ...this.known(),
      topicCalled,
      due: topic.due,
      start: topic.start,
    })
    const changes: Change[] =
      title === topic.title ? [] : [{ op: 'set', topic: topic.id, field: 'title', value: title }]
    // An address that is typed in a title can be opened from then on.
    for (const url of addressesIn(title))
      if (!topic.links.some(link => link.url === url) && !addressesIn(topic.title).includes(url))
        changes.push({ op: 'put', topic: topic.id, set: 'links', member: { id: newId(), url, title: '' } })
    return [...changes, ...detailChanges(topic.id, details)]
  }

  private end(): string {
    this.open.value = null
    this.desk.planks.endDraft()
    return this.draft.value.replace(/\s+$/, '')
  }

  /** Keeps what was typed, if anything is open. Words after `//` become details. */
  keep(): void {
    const { desk } = this
    const open = this.open.value
    if (!open) return
    const said = this.end().toWellFormed()
    const topic = desk.tree.topics.get(open.id)
    if (!topic) return
    if (said === '' && open.fresh) {
      desk.session.letGo()
      return
    }
    const changes = this.titleChanges(topic, said)
    if (open.fresh) desk.session.release(changes)
    else desk.session.make(changes)
    desk.tell(new Set([open.id]))
  }

  /** Ends typing by Esc: a new topic keeps its text; an edited title goes back, and redo brings what was typed. */
  drop(): void {
    const { desk } = this
    const open = this.open.value
    if (!open) return
    if (open.fresh && this.draft.value.trimEnd() !== '') {
      this.keep()
      return
    }
    const said = this.end()
    const topic = desk.tree.topics.get(open.id)
    if (!open.fresh && topic && said !== topic.title) {
      desk.session.offerRedo(this.titleChanges(topic, said))
      desk.say('The title is as it was.', {
        name: 'Take what I typed',
        run: () => desk.redo(),
        holds: () => desk.session.canRedo,
      })
    }
    if (open.fresh) {
      const before = topic?.parent
      desk.session.letGo()
      if (this.cameFrom && isLive(desk.tree, this.cameFrom)) desk.select(this.cameFrom)
      else if (before) desk.select(before)
    }
    desk.tell(new Set([open.id]))
  }

  /** Moves the topic that is being typed, and types on. */
  move(how: 'in' | 'out'): void {
    const { desk } = this
    const open = this.open.value
    if (!open) return
    this.go(how === 'in' ? indent(desk.tree, [open.id]) : outdent(desk.tree, [open.id]))
  }

  private go(step: Step): void {
    const { desk } = this
    const open = this.open.value!
    const draft = this.draft.value
    if (open.fresh ? desk.session.holdMore(step.changes) : desk.session.make(step.changes)) {
      this.draft.value = draft
      desk.unfoldTo(open.id)
      this.redraft()
      desk.reveal(open.id)
    }
  }

  /** A new topic becomes a child of where one came from instead of its sibling, or the other way round; typing goes on. */
  turn(): void {
    const { desk, cameFrom } = this
    const open = this.open.value
    if (!open?.fresh || !isLive(desk.tree, cameFrom)) return
    const isChild = topicOf(desk.tree, open.id).parent === cameFrom
    if (isChild && cameFrom === desk.tree.centre) desk.say('The centre stands alone: what is new hangs under it.')
    else
      this.go(
        moveTo(
          desk.tree,
          [open.id],
          isChild ? besideSlot(desk.tree, cameFrom, 'after') : lastChild(desk.tree, cameFrom),
        ),
      )
  }

  /** Ends typing in a topic that somebody removed. */
  mend(): void {
    const open = this.open.value
    if (!open || isLive(this.desk.tree, open.id)) return
    this.open.value = null
    this.desk.say('Somebody removed the topic you were typing in.')
  }
}
