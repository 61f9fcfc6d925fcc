import { markerSetsOf, type Marker, markersOf } from '../tree/markers'
import { collator } from '../tree/reshape'
import { isTask, type TaskState, taskState, type Topic, type TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { allTopics } from '../tree/walk'
import type { BoardShape } from '../tree/board'

/*
 * Tasks as cards in columns: by their state, who does them, priority or markers, and in rows by main branch. A card with two
 * people, or two markers of one kind, stands in both columns, as it does in the groups of an outline.
 */

/** What all cards of a column have. `null`: they have none of it. */
export type ColumnValue =
  | { readonly kind: 'state'; readonly state: TaskState }
  | { readonly kind: 'person'; readonly id: string | null }
  | { readonly kind: 'priority'; readonly level: number | null }
  | { readonly kind: 'marker'; readonly id: string | null }

export interface Column {
  /** Known by it among all columns of the tree, whatever the board is told by. */
  readonly id: string
  readonly name: string
  readonly value: ColumnValue
  /** How many cards it is to hold at most; null where nobody said. */
  readonly most: number | null
  /** How many cards stand in it, over all rows. */
  readonly count: number
}

/** One row of the board. */
export interface Lane {
  /** The main branch whose cards stand in it; null for loose ones, and for all where there's one row. */
  readonly branch: TopicId | null
  /** The cards of each column, in the order in which the tree is read. */
  readonly cells: readonly (readonly TopicId[])[]
}

export interface Board {
  readonly columns: readonly Column[]
  readonly lanes: readonly Lane[]
}

export interface BoardAsked {
  readonly shape: BoardShape
  /** The branch whose cards are shown; null for the tree. */
  readonly only: TopicId | null
  readonly locale?: string
  /** Everybody who may be given something, by name. */
  readonly people: readonly { readonly id: string; readonly name: string }[]
  /** The name of somebody who has a task and may be given none any more. */
  personName(id: string): string
  hidden(id: TopicId): boolean
  /** A topic that is shown though it is no task, such as one that is just being typed; or null. */
  readonly extra?: TopicId | null
}

export const STATES: readonly { readonly state: TaskState; readonly name: string }[] = [
  { state: 'open', name: 'Not begun' },
  { state: 'begun', name: 'Under way' },
  { state: 'done', name: 'Done' },
]
const PRIORITIES = [1, 2, 3, 4, 5] as const

/** The markers that a board is told by: all of the tree's that are used, or those of one set; none when the set is gone. */
function markersFor(tree: Tree, by: string): readonly Marker[] {
  if (by !== 'marker') return markerSetsOf(tree.fields).find(({ id }) => `set-${id}` === by)?.markers ?? []
  const used = new Set<string>()
  for (const { markers } of allTopics(tree)) for (const id of markers) used.add(id)
  return markersOf(tree.fields).filter(({ id }) => used.has(id))
}

type Bare = Omit<Column, 'most' | 'count'>

/** Everybody who may be given something, and whoever has something all the same. */
function everybody(tree: Tree, { people, personName }: BoardAsked): { readonly id: string; readonly name: string }[] {
  const known = new Map(people.map(({ id, name }) => [id, name]))
  for (const topic of allTopics(tree)) for (const id of topic.people) if (!known.has(id)) known.set(id, personName(id))
  return Array.from(known, ([id, name]) => ({ id, name }))
}

function columnsOf(tree: Tree, asked: BoardAsked): Bare[] {
  const { by } = asked.shape
  switch (by) {
    case 'state':
      return STATES.map(({ state, name }) => ({ id: `state-${state}`, name, value: { kind: 'state', state } }))
    case 'priority':
      return [
        ...PRIORITIES.map((level): Bare => ({
          id: `priority-${level}`,
          name: `Priority ${level}`,
          value: { kind: 'priority', level },
        })),
        { id: 'priority-none', name: 'No priority', value: { kind: 'priority', level: null } },
      ]
    case 'person': {
      const names = collator(asked.locale ?? 'en')
      return [
        { id: 'person-none', name: 'Nobody', value: { kind: 'person', id: null } },
        ...everybody(tree, asked)
          .sort((a, b) => names.compare(a.name, b.name) || (a.id < b.id ? -1 : 1))
          .map(({ id, name }): Bare => ({ id: `person-${id}`, name, value: { kind: 'person', id } })),
      ]
    }
    default:
      return [
        { id: 'marker-none', name: 'None of these', value: { kind: 'marker', id: null } },
        ...markersFor(tree, by).map(({ id, name }): Bare => ({
          id: `marker-${id}`,
          name,
          value: { kind: 'marker', id },
        })),
      ]
  }
}

/** The columns of a card, by their ids. What nobody on the board has asked for is told with those that have none. */
function columnsFor(topic: Topic, by: string, known: ReadonlySet<string>): string[] {
  if (by === 'state') return [`state-${taskState(topic)}`]
  if (by === 'priority') return [`priority-${topic.priority ?? 'none'}`]
  const [prefix, values] = by === 'person' ? ['person', topic.people] : ['marker', topic.markers]
  const found = values.map(id => `${prefix}-${id}`).filter(id => known.has(id))
  return found.length > 0 ? found : [`${prefix}-none`]
}

/**
 * The board of a tree. A card is a task; by markers also what bears one of them. Topics that only show another one
 * aren't cards: the other one is. Cost: all topics.
 */
export function boardOf(tree: Tree, asked: BoardAsked): Board {
  const { shape, only, hidden, extra = null } = asked
  const bare = columnsOf(tree, asked)
  const index = new Map(bare.map(({ id }, i) => [id, i]))
  const known: ReadonlySet<string> = new Set(index.keys())
  const top = only ?? tree.centre
  const lanes = new Map<TopicId | null, TopicId[][]>()
  const laneOf = (branch: TopicId | null): TopicId[][] => {
    let cells = lanes.get(branch)
    if (!cells) lanes.set(branch, (cells = bare.map(() => [])))
    return cells
  }
  // Main branches have their row in the tree's order, whether a card stands in it or not.
  if (shape.rows) for (const id of childrenOf(tree, top)) laneOf(id)
  const counts = bare.map(() => 0)
  /** The main branch of each topic; parents come first. */
  const branches = new Map<TopicId, TopicId | null>()
  for (const topic of allTopics(tree)) {
    const { id, parent } = topic
    const above = parent === null ? undefined : branches.get(parent)
    const inside = id === top || parent === top || (parent !== null && branches.has(parent))
    if (!inside && (only !== null || parent !== null)) continue
    branches.set(id, parent === top ? id : (above ?? null))
    if (id === tree.centre || topic.reference !== null || (hidden(id) && id !== extra)) continue
    const bears = shape.by !== 'state' && shape.by !== 'person' && shape.by !== 'priority'
    const marked = bears && topic.markers.some(marker => known.has(`marker-${marker}`))
    if (!isTask(topic) && !marked && id !== extra) continue
    const cells = laneOf(shape.rows ? branches.get(id)! : null)
    for (const column of columnsFor(topic, shape.by, known)) {
      const at = index.get(column)!
      cells[at]!.push(id)
      counts[at]!++
    }
  }
  if (lanes.size === 0) laneOf(null)
  const limits = new Map(tree.fields.columnLimits.map(({ id, most }) => [id, most]))
  return {
    columns: bare.map((column, i) => ({ ...column, most: limits.get(column.id) ?? null, count: counts[i]! })),
    lanes: [...lanes].map(([branch, cells]) => ({ branch, cells })),
  }
}

export interface BoardPlace {
  readonly lane: number
  readonly column: number
  readonly index: number
}

/** Where a card stands; where it stands in more than one column, in the one that is named, else the first. */
export function placeOn(board: Board, id: TopicId, among?: string): BoardPlace | null {
  let first: BoardPlace | null = null
  for (const [lane, { cells }] of board.lanes.entries())
    for (const [column, cards] of cells.entries()) {
      const index = cards.indexOf(id)
      if (index < 0) continue
      const place = { lane, column, index }
      if (among === undefined || board.columns[column]!.id === among) return place
      first ??= place
    }
  return first
}

/**
 * The card beside one: up and down through the rows of its column, left and right at the same height, over columns that are
 * empty. Null at the edge.
 */
export function cardBeside(
  { lanes, columns }: Board,
  { lane, column, index }: BoardPlace,
  to: 'up' | 'down' | 'left' | 'right',
): TopicId | null {
  if (to === 'up' || to === 'down') {
    const by = to === 'up' ? -1 : 1
    const next = lanes[lane]!.cells[column]![index + by]
    if (next !== undefined) return next
    for (let at = lane + by; lanes[at]; at += by) {
      const cards = lanes[at]!.cells[column]!
      if (cards.length > 0) return cards[by < 0 ? cards.length - 1 : 0]!
    }
    return null
  }
  const by = to === 'left' ? -1 : 1
  for (let at = column + by; at >= 0 && at < columns.length; at += by) {
    const cards = lanes[lane]!.cells[at]!
    if (cards.length > 0) return cards[Math.min(index, cards.length - 1)]!
    // In no row at this height: the nearest row that has one.
    for (let far = 1; far < lanes.length; far++)
      for (const other of [lane - far, lane + far]) {
        const there = lanes[other]?.cells[at]
        if (there?.length) return there[0]!
      }
  }
  return null
}

/** The title of a lane. */
export const laneName = (tree: Tree, { branch }: Lane): string =>
  branch === null ? 'Not on a branch' : topicOf(tree, branch).title || 'untitled'
