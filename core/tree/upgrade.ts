import type { Change } from './change'

/**
 * The format that changes and snapshots are written in now. 2: a branch with a page of
 * its own has an annex. 3: main branches have a colour of their own (`fromSnapshot` gives it). 4: what had a side each
 * has one split (`fromSnapshot` finds it).
 */
export const EDIT_FORMAT = 4

type Loose = Readonly<Record<string, unknown>>

/** How one format becomes the next: a change becomes as many as it takes, a topic of a snapshot one. */
export interface Upgrade {
  readonly change: (change: Loose) => readonly Loose[]
  readonly topic: (topic: Loose) => Loose
  /** The tree's own fields; the same where it isn't said. */
  readonly fields?: (fields: Loose) => Loose
}

/** The first leads from format 1 to 2, and so on: as many as formats there were before this one. */
const UPGRADES: readonly Upgrade[] = [
  { change: annexInChange, topic: annexInTopic, fields: annexInFilters },
  { change: change => [change], topic: topic => topic },
  { change: withoutSide, topic: sideless },
]

function sideless({ side: _, ...topic }: Loose): Loose {
  return topic
}
function withoutSide(change: Loose): Loose[] {
  if (change.op === 'set' && change.field === 'side') return []
  return [change.op === 'add' && isObject(change.with) ? { ...change, with: sideless(change.with) } : change]
}

function annexInTopic({ page, ...topic }: Loose): Loose {
  return page === undefined ? topic : { ...topic, annex: page }
}
function annexInChange(change: Loose): Loose[] {
  if (change.op === 'set' && change.field === 'page') return [{ ...change, field: 'annex' }]
  if (change.op === 'add' && isObject(change.with)) return [{ ...change, with: annexInTopic(change.with) }]
  if (change.op === 'tree-put' && change.set === 'views') return [{ ...change, member: annexInFilter(change.member) }]
  return [change]
}
function annexInFilters(fields: Loose): Loose {
  return Array.isArray(fields.views) ? { ...fields, views: fields.views.map(view => annexInFilter(view)) } : fields
}
/** A kept view's filter may ask for it, in groups within groups; what is nested deeper than one may be is left as it is. */
function annexInFilter(value: unknown, depth = 0): unknown {
  if (depth > DEEPEST) return value
  if (Array.isArray(value)) return value.map(part => annexInFilter(part, depth + 1))
  if (!isObject(value)) return value
  const made = Object.fromEntries(Object.entries(value).map(([key, part]) => [key, annexInFilter(part, depth + 1)]))
  return made.about === 'kind' && made.is === 'page' ? { ...made, is: 'annex' } : made
}
/** How deep a kept view nests at most, its own shape included. */
const DEEPEST = 40
const isObject = (value: unknown): value is Loose =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/**
 * Changes of an older format as they're written now. Throws `RangeError` for a format that this program doesn't know yet:
 * a newer one wrote it.
 */
export function upgradeChanges(
  format: number,
  changes: readonly unknown[],
  upgrades: readonly Upgrade[] = UPGRADES,
): readonly Change[] {
  checkFormat(format, upgrades)
  let now = changes as readonly Loose[]
  for (const { change } of upgrades.slice(format - 1)) now = now.flatMap(change)
  return now as readonly unknown[] as readonly Change[]
}

/** Topics of a snapshot of an older format as they're written now. Throws as `upgradeChanges` does. */
export function upgradeTopics<T>(
  format: number,
  topics: readonly T[],
  upgrades: readonly Upgrade[] = UPGRADES,
): readonly T[] {
  checkFormat(format, upgrades)
  let now = topics as readonly unknown[] as readonly Loose[]
  for (const { topic } of upgrades.slice(format - 1)) now = now.map(topic)
  return now as readonly unknown[] as readonly T[]
}

/** A snapshot that somebody sent, in whatever format; what isn't one is left for the schema to refuse. Throws as `upgradeChanges` does. */
export function upgradeSnapshot(raw: unknown): unknown {
  if (typeof raw !== 'object' || raw === null) return raw
  const { format = 1, topics, fields } = raw as { format?: unknown; topics?: unknown; fields?: unknown }
  if (typeof format !== 'number' || !Array.isArray(topics) || typeof fields !== 'object' || fields === null) return raw
  if (!topics.every(topic => typeof topic === 'object' && topic !== null)) return raw
  return {
    ...raw,
    format: EDIT_FORMAT,
    topics: upgradeTopics(format, topics as readonly object[]),
    fields: upgradeFields(format, fields),
  }
}

/** The tree's own fields in a snapshot of an older format as they're written now. Throws as `upgradeChanges` does. */
export function upgradeFields<T>(format: number, fields: T, upgrades: readonly Upgrade[] = UPGRADES): T {
  checkFormat(format, upgrades)
  let now = fields as unknown as Loose
  for (const one of upgrades.slice(format - 1)) now = one.fields?.(now) ?? now
  return now as unknown as T
}

function checkFormat(format: number, upgrades: readonly Upgrade[]): void {
  if (!Number.isInteger(format) || format < 1 || format > upgrades.length + 1)
    throw new RangeError(`format ${format} is not one that this version of Sun Porch knows`)
}

/** An edit that somebody sent, in whatever format they knew; what isn't one is left for the schema to refuse. */
export function upgradeEdit(raw: unknown, upgrades: readonly Upgrade[] = UPGRADES): unknown {
  if (typeof raw !== 'object' || raw === null) return raw
  const { format = 1, changes, ...rest } = raw as { format?: unknown; changes?: unknown }
  if (typeof format !== 'number' || !Array.isArray(changes)) return raw
  const loose = changes.every(change => typeof change === 'object' && change !== null)
  return loose ? { ...rest, changes: upgradeChanges(format, changes, upgrades) } : { ...rest, changes }
}
