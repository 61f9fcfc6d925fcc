import type { HasRead } from '../meeting/reading'
import type { Answer, Stage } from '../tree/meeting'
import type { Role } from '../access/roles'

/** A meeting as it's listed to one person. */
export interface ListedMeeting {
  readonly treeId: string
  readonly tree: string
  readonly id: string
  readonly title: string
  readonly stage: Stage
  /** ISO 8601; '' while nobody has said. */
  readonly day: string
  /** ms since 1970 UTC */
  readonly start: number | null
  readonly zone: string | null
  readonly minutes: number
  readonly where: string
  readonly people: number
  /** One's own part in it; null when one isn't asked to come. */
  readonly part: 'chair' | 'notes' | 'needed' | 'optional' | null
  readonly answer: Answer | null
  readonly invited: boolean
  /** 0 to 1; null once it has begun. */
  readonly readiness: number | null
  readonly findings: number
}

/** A section of an agenda that somebody was asked to fill in. */
export interface Section {
  readonly treeId: string
  readonly tree: string
  readonly role: Role
  readonly id: string
  readonly title: string
  /** ISO 8601 */
  readonly by: string
  readonly meeting: string
}

/** What the tree can't say about a meeting. */
export interface MeetingWorld {
  /** Titles of other meetings at the same time, by the person's id in the brief. */
  readonly elsewhere: Readonly<Record<string, string>>
  /** Files that are named in the tree and can't be opened. */
  readonly closed: readonly string[]
  /** How far each reader of an item is, by item and person. */
  readonly reading: Readonly<Record<string, Readonly<Record<string, HasRead>>>>
}

/** How far those who read an item are, by person. */
export interface ItemReading {
  readonly reading: Readonly<Record<string, HasRead>>
}

/** What a guest sees of a meeting by the link in their letter. */
export interface GuestMeeting {
  readonly title: string
  readonly when: string
  readonly text: string
  readonly name: string
  readonly answer: Answer
  readonly stage: Stage
  readonly organizer: string
}

/** What the log says about a series' actions, by topic. */
export interface SeriesLog {
  /** ISO 8601 day on which it was last set done. */
  readonly closedOn: Readonly<Record<string, string>>
  /** The number of the edit by which a meeting was ended; meetings that weren't have none. */
  readonly endedAt: Readonly<Record<string, number>>
}
