/** A topic's address inside its tree: URL-safe letters, unguessable, made by whoever adds the topic. */
export type TopicId = string

export interface Link {
  readonly id: string
  readonly url: string
  readonly title: string
}

export type Side = 'left' | 'right'
export type TextSize = 'small' | 'large' | 'huge'
export type Shape = 'box' | 'round' | 'tag'

/**
 * One item of a tree. Topics are never altered in place: a change puts a new object in the tree,
 * so a view can tell by identity whether it must draw again.
 */
export interface Topic {
  readonly id: TopicId
  /** null for the centre and for loose topics. */
  readonly parent: TopicId | null
  /** Fractional key among siblings; equal keys are ordered by id. */
  readonly order: string
  /** True while the branch that starts here is in the trash. Topics below keep their own value. */
  readonly removed: boolean
  readonly title: string
  /** Calendar days, ISO 8601, without a zone. */
  readonly start: string | null
  readonly due: string | null
  /** Working days. */
  readonly duration: number | null
  /** Per cent, 0 to 100. */
  readonly done: number | null
  /** 1 (most urgent) to 5. */
  readonly priority: number | null
  readonly folded: boolean
  /** Which side of the centre a main branch stands on; null lets the arrangement choose. */
  readonly side: Side | null
  /** Where a loose topic stands, in canvas units from the centre's middle; null lets the arrangement choose. */
  readonly x: number | null
  readonly y: number | null
  readonly fill: string | null
  readonly ink: string | null
  readonly textSize: TextSize | null
  readonly bold: boolean
  readonly slanted: boolean
  readonly shape: Shape | null
  readonly markers: readonly string[]
  readonly people: readonly string[]
  readonly links: readonly Link[]
  /** The note as a merged Yjs update in base64; null when there is none. */
  readonly note: string | null
}

/** What a topic has when nobody has said anything about it. */
export const BLANK: Omit<Topic, 'id' | 'parent' | 'order'> = {
  removed: false,
  title: '',
  start: null,
  due: null,
  duration: null,
  done: null,
  priority: null,
  folded: false,
  side: null,
  x: null,
  y: null,
  fill: null,
  ink: null,
  textSize: null,
  bold: false,
  slanted: false,
  shape: null,
  markers: [],
  people: [],
  links: [],
  note: null,
}

/** A task is a topic with at least one of start, due, duration, done, people, priority. */
export function isTask(topic: Topic): boolean {
  return topic.start !== null || topic.due !== null || topic.duration !== null
    || topic.done !== null || topic.priority !== null || topic.people.length > 0
}
