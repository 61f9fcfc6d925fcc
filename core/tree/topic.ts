/** A topic's address inside its tree: URL-safe letters, unguessable, made by whoever adds the topic. */
export type TopicId = string

export interface Link {
  readonly id: string
  readonly url: string
  readonly title: string
}

export type Side = 'left' | 'right'
export type TextSize = 'small' | 'large' | 'huge'
/** Outlines of our own for planks that somebody wants to stand out. */
export const SHAPES = ['box', 'round', 'tag', 'slate', 'awning', 'ticket'] as const
export type Shape = (typeof SHAPES)[number]
export const BORDERS = ['thin', 'thick', 'dashed', 'double'] as const
export type Border = (typeof BORDERS)[number]
/** How a tree or a branch of it is laid out. */
export const ARRANGEMENTS = ['both', 'right', 'left', 'down', 'around', 'time', 'hand'] as const
export type Arrangement = (typeof ARRANGEMENTS)[number]

/** A picture in a topic: a file of the tree, how wide it's shown in canvas units, its height over its width, and where it stands. */
export interface Picture {
  readonly file: string
  readonly width: number
  readonly ratio: number
  readonly place: 'before' | 'above' | 'below'
}

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
  /**
   * Where somebody put it; null lets the arrangement choose. A loose topic's upper left corner, in canvas units from the
   * centre's middle. Any other topic's middle from its parent's middle: so a branch placed by hand moves by one change.
   */
  readonly x: number | null
  readonly y: number | null
  /** In front of (above 0) or behind the others, where topics are placed by hand. */
  readonly z: number
  /** The arrangement of the branch that starts here, where it isn't the tree's. A loose topic that has one is drawn as a centre. */
  readonly arrangement: Arrangement | null
  /** True for a loose topic that waits in the tray, off the canvas. */
  readonly tray: boolean
  /** The branch's colour from here on: a place in the look's palette, or a colour; null takes the parent's. */
  readonly hue: string | null
  readonly fill: string | null
  readonly ink: string | null
  readonly textSize: TextSize | null
  readonly bold: boolean
  readonly slanted: boolean
  readonly underlined: boolean
  readonly shape: Shape | null
  readonly border: Border | null
  readonly edge: string | null
  /** The widest its text may run, in canvas units. */
  readonly width: number | null
  readonly picture: Picture | null
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
  z: 0,
  arrangement: null,
  tray: false,
  hue: null,
  fill: null,
  ink: null,
  textSize: null,
  bold: false,
  slanted: false,
  underlined: false,
  shape: null,
  border: null,
  edge: null,
  width: null,
  picture: null,
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
