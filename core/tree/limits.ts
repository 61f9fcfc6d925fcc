/** What a tree and a message may hold at most. Whatever goes over is refused whole and changes nothing. */
export const LIMITS = {
  /** Topics in a tree, those in its trash included. */
  topics: 100_000,
  /** Characters (UTF-16 units) in a title. */
  title: 10_000,
  /** Bytes in one live message or one REST body. */
  message: 2 * 1024 * 1024,
  /** Changes in one edit. */
  changes: 25_000,
  /** Levels below the centre or a loose topic. */
  depth: 400,
  /** Members in one set of one topic. */
  members: 100,
  /** Parts of one meeting: what must be settled, the items, the people, their answers and attendance. */
  meetingParts: 600,
  /** Sets of markers, and looks, that a tree has of its own. */
  treeMembers: 40,
  /** Closed and extra days of a tree's working calendar. */
  exceptions: 1000,
  /** Bytes of one note, as a Yjs update. */
  note: 2 * 1024 * 1024,
} as const
