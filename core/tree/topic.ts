import type { BriefPart, Entry, ItemPart } from './meeting'
import type { Attachment, Check, Link, Numbering, Place, Reference, Tie } from './substance'

/** A topic's address inside its tree: URL-safe letters, unguessable, made by whoever adds the topic. */
export type TopicId = string

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

/**
 * A picture in a topic: a file of the tree, how wide it's shown in canvas units, its height over its width, and where
 * it stands.
 */
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
   * Where somebody put it; null lets the arrangement choose. A loose topic's upper left corner, in canvas units from
   * the
   * centre's middle. Any other topic's middle from its parent's middle: so a branch placed by hand moves by one change.
   */
  readonly x: number | null
  readonly y: number | null
  /** In front of (above 0) or behind the others, where topics are placed by hand. */
  readonly z: number
  /**
   * The arrangement of the branch that starts here, where it isn't the tree's. A loose topic that has one is drawn as
   * a centre.
   */
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
  readonly files: readonly Attachment[]
  readonly checks: readonly Check[]
  /** Cross-links that start here. */
  readonly ties: readonly Tie[]
  readonly place: Place | null
  /** A small freehand drawing, as the SVG that `sketch.ts` describes. */
  readonly sketch: string | null
  /** True for a branch that has a page of its own: elsewhere just its plank is shown. */
  readonly page: boolean
  /**
   * The topic that is shown in this one's place, live. Its own title is what it was called when the reference was
   * made.
   */
  readonly reference: Reference | null
  /** How what hangs from here is numbered. On the centre it counts for the whole tree. */
  readonly numbering: Numbering | null
  /** The parts of a meeting's brief and of its running; a topic that has any is a meeting. */
  readonly meeting: readonly BriefPart[]
  /** The parts of an agenda item; a topic that has any is one. */
  readonly item: readonly ItemPart[]
  /** What this topic is in a meeting's record. */
  readonly entry: Entry | null
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
  files: [],
  checks: [],
  ties: [],
  place: null,
  sketch: null,
  page: false,
  reference: null,
  numbering: null,
  meeting: [],
  item: [],
  entry: null,
  note: null,
}

/**
 * Whether a value says nothing: the one rule for what is left out of copies, snapshots and files. A done of 0, a
 * length of 0 and a place at 0 say something.
 */
export function isBlank(key: keyof typeof BLANK, value: unknown): boolean {
  const blank = BLANK[key]
  return value === undefined || value === blank || (Array.isArray(blank) && Array.isArray(value) && value.length === 0)
}

/**
 * A topic that nobody has said anything about. Written out field by field, in one place for all topics: objects that
 * are put
 * together by spreading get as many layouts in memory as there are ways to be born, and every walk over them takes ten
 * times as long.
 */
export function newTopic(
  id: TopicId,
  parent: TopicId | null,
  order: string,
): { -readonly [K in keyof Topic]: Topic[K] } {
  return {
    id,
    parent,
    order,
    removed: BLANK.removed,
    title: BLANK.title,
    start: BLANK.start,
    due: BLANK.due,
    duration: BLANK.duration,
    done: BLANK.done,
    priority: BLANK.priority,
    folded: BLANK.folded,
    side: BLANK.side,
    x: BLANK.x,
    y: BLANK.y,
    z: BLANK.z,
    arrangement: BLANK.arrangement,
    tray: BLANK.tray,
    hue: BLANK.hue,
    fill: BLANK.fill,
    ink: BLANK.ink,
    textSize: BLANK.textSize,
    bold: BLANK.bold,
    slanted: BLANK.slanted,
    underlined: BLANK.underlined,
    shape: BLANK.shape,
    border: BLANK.border,
    edge: BLANK.edge,
    width: BLANK.width,
    picture: BLANK.picture,
    markers: BLANK.markers,
    people: BLANK.people,
    links: BLANK.links,
    files: BLANK.files,
    checks: BLANK.checks,
    ties: BLANK.ties,
    place: BLANK.place,
    sketch: BLANK.sketch,
    page: BLANK.page,
    reference: BLANK.reference,
    numbering: BLANK.numbering,
    meeting: BLANK.meeting,
    item: BLANK.item,
    entry: BLANK.entry,
    note: BLANK.note,
  }
}

/** A task is a topic with at least one of start, due, duration, done, people, priority. */
export function isTask(topic: Topic): boolean {
  return (
    topic.start !== null ||
    topic.due !== null ||
    topic.duration !== null ||
    topic.done !== null ||
    topic.priority !== null ||
    topic.people.length > 0
  )
}
