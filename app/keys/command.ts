import type { MeetingAct } from '~/meeting/useMeeting'
import type { Desk } from '~/desk/desk'

export type Panel =
  'markers' | 'dress' | 'arrange' | 'key' | 'filter' | 'annexes' | 'since' | 'bench' | 'comments' | 'steps' | 'reading'
/** What of the side sheet a command goes to. */
export type SheetPart = 'note' | 'task' | 'link' | 'file' | 'check' | 'place' | 'sketch' | 'tie' | 'comment'
export type Box =
  'everything' | 'keys' | 'share' | 'help' | 'duplicate' | 'starter' | 'forOthers' | 'about' | 'vote' | 'handout'

export interface Command {
  readonly id: string
  readonly name: string
  readonly group:
    | 'Type and build'
    | 'Move and order'
    | 'Arrange'
    | 'Go and find'
    | 'See'
    | 'Mark and dress'
    | 'Substance'
    | 'Plan'
    | 'Meet'
    | 'General'
  /** Whether it stands on the context menu of a topic: on it at once, or under the heading of its group. */
  readonly menu?: 'first' | 'more'
  readonly changes?: boolean
  run(desk: Desk, house: House): void
}

/** What the page around the tree can do. */
export interface House {
  fit(): void
  fitSelection(): void
  zoom(by: number | 'whole'): void
  open(what: Box): void
  panel(what: Panel): void
  tray(): void
  find(): void
  moveUnder(): void
  overview(): void
  picture(): void
  toggleTheme(): void
  into(part: SheetPart): void
  /** Asks for a topic and ties the selection to it, lets it wait for it, or makes a reference to it. */
  choose(what: 'tie' | 'reference' | 'wait' | 'wait-abroad'): void
  /** Into the first cell of the row, in the outline. */
  cells(): void
  /** Does something to the meeting that the selection belongs to, showing it. */
  meetingDo(what: MeetingAct): void
  /** Shows the meeting, or the tree again. */
  meeting(): void
  makeMeeting(): void
  /** Opens the history of the tree, seen at a topic; of its branch alone where that's asked for. */
  history(topic: string | null, alone: boolean): void
  /** Presents the tree, step by step. */
  present(): void
  /** Opens the tree side by side with another state of it. */
  compare(): void
}

type Group = Command['group']
/** A command that changes the tree. */
export const command = (
  group: Group,
  id: string,
  name: string,
  run: Command['run'],
  menu?: Command['menu'],
  changes = true,
): Command => ({ id, name, group, run, changes, ...(menu ? { menu } : {}) })
/** A command that changes nothing but what one sees. */
export const looking = (group: Group, id: string, name: string, run: Command['run'], menu?: Command['menu']): Command =>
  command(group, id, name, run, menu, false)
