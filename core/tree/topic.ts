import { entriesOf } from './field-spec'
import { type Fields, FIELDS } from './fields'
import { SETS, type SetValues } from './sets'

/** A topic's address inside its tree: URL-safe letters, unguessable, made by whoever adds the topic. */
export type TopicId = string

/**
 * One item of a tree. Topics are never altered in place: a change puts a new object in the tree,
 * so a view can tell by identity whether it must draw again.
 */
export interface Topic extends Readonly<Fields>, Readonly<SetValues> {
  readonly id: TopicId
  /** null for the centre and for loose topics. */
  readonly parent: TopicId | null
  /** Fractional key among siblings; equal keys are ordered by id. */
  readonly order: string
  /** True while the branch that starts here is in the trash. Topics below keep their own value. */
  readonly removed: boolean
  /** The note as a merged Yjs update in base64; null when there is none. */
  readonly note: string | null
}

/** What a topic carries besides where it stands. */
export type Content = Omit<Topic, 'id' | 'parent' | 'order'>

/*
 * One object that all topics are copied from. Objects that are put together key by key get as many layouts in memory as
 * there are ways to be born, and every walk over them takes ten times as long; copies of one that was read from JSON
 * all share its layout.
 */
const TEMPLATE = JSON.parse(
  JSON.stringify({
    id: '',
    parent: null,
    order: '',
    removed: false,
    ...Object.fromEntries(entriesOf(FIELDS).map(([name, spec]) => [name, spec.blank])),
    ...Object.fromEntries(Object.keys(SETS).map(name => [name, []])),
    note: null,
  }),
) as Topic

const { id: _id, parent: _parent, order: _order, ...content } = TEMPLATE
/** What a topic has when nobody has said anything about it. */
export const BLANK: Content = content
export const CONTENT_NAMES = Object.keys(BLANK) as readonly (keyof Content)[]

/**
 * Whether a value says nothing: the one rule for what is left out of copies, snapshots and files. A done of 0, a length
 * of 0 and a place at 0 say something.
 */
export function isBlank(key: keyof Content, value: unknown): boolean {
  const blank = BLANK[key]
  return value === undefined || value === blank || (Array.isArray(blank) && Array.isArray(value) && value.length === 0)
}

/** A topic that nobody has said anything about. */
export function newTopic(
  id: TopicId,
  parent: TopicId | null,
  order: string,
): { -readonly [K in keyof Topic]: Topic[K] } {
  const topic: { -readonly [K in keyof Topic]: Topic[K] } = { ...TEMPLATE }
  topic.id = id
  topic.parent = parent
  topic.order = order
  return topic
}

/** A task is a topic with at least one of start, due, length, progress, people, priority, work, estimates, dependencies, a rule by which it comes again. */
export function isTask(topic: Topic): boolean {
  return (
    topic.start !== null ||
    topic.due !== null ||
    topic.duration !== null ||
    topic.done !== null ||
    topic.priority !== null ||
    topic.people.length > 0 ||
    topic.effort !== null ||
    topic.estimate !== null ||
    topic.waits.length > 0 ||
    topic.again !== null
  )
}

export type TaskState = 'open' | 'begun' | 'done'

/** How far a task is: done, under way (something of it is done, or it's said to have begun), or not begun. */
export function taskState({ done, began }: Topic): TaskState {
  return done === 100 ? 'done' : (done ?? 0) > 0 || began !== null ? 'begun' : 'open'
}
