import { readDetails } from '#core/capture/quick-details'
import { readMoment } from '#core/schedule/clock-words'
import { readLength } from '#core/schedule/day-words'
import { finished } from '#core/schedule/turns'
import type { PlannedDays } from '#core/find/rows'
import { type AnyColumn, type Column, isFigureColumn, measureOf } from '#core/tree/view'
import { type Change, markersOf, type SetName, topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'

/** Columns whose cells can be typed in. */
export const TYPED: readonly Column[] = ['markers', 'people', 'start', 'due', 'length', 'done', 'priority']
export const isTyped = (column: AnyColumn): boolean => isFigureColumn(column) || TYPED.includes(column)
export const COLUMN_NAMES: Record<Column, string> = {
  number: 'Number',
  markers: 'Markers',
  people: 'People',
  start: 'Start',
  due: 'Due',
  length: 'Length',
  done: 'Done',
  priority: 'Priority',
  begins: 'Planned from',
  ends: 'Planned to',
  float: 'May slip',
  signs: 'Signs',
}

/** What a column is called: its own name, or that of its measure. */
export const columnName = (desk: Desk, column: AnyColumn): string =>
  isFigureColumn(column)
    ? (desk.tree.fields.measures.find(({ id }) => id === measureOf(column))?.name ?? 'Figure')
    : COLUMN_NAMES[column]

/** Columns that the plan fills. */
export const PLANNED: readonly Column[] = ['begins', 'ends', 'float']
export const isPlanned = (column: string): boolean => PLANNED.some(one => one === column)

/** What the plan says in a cell. */
export function plannedText(planned: PlannedDays | null, column: Column): string {
  if (!planned) return ''
  if (column === 'begins') return dayInWords(planned.start)
  if (column === 'ends') return dayInWords(planned.finish)
  return planned.totalFloat === null ? '' : `${Math.round(planned.totalFloat * 10) / 10} d`
}

/** The times of the days that columns hold. */
const TIMES = { start: 'startTime', due: 'dueTime' } as const

/** What a cell says when it's opened for typing. */
export function cellText(desk: Desk, id: TopicId, column: Column): string {
  const topic = topicOf(desk.tree, id)
  switch (column) {
    case 'markers':
      return topic.markers
        .map(marker => markersOf(desk.tree.fields).find(one => one.id === marker)?.name ?? marker)
        .join(', ')
    case 'people':
      return topic.people.map(desk.nameOf).join(', ')
    case 'start':
    case 'due':
      return topic[column] === null ? '' : momentInWords(topic[column], topic[TIMES[column]])
    case 'length':
      return topic.duration === null ? '' : String(topic.duration)
    case 'done':
    case 'priority':
      return topic[column] === null ? '' : String(topic[column])
    default:
      return ''
  }
}

/** The changes that what was typed in a cell means; null, with the reason, when it isn't understood. */
export function readCell(desk: Desk, topic: TopicId, column: Column, said: string): readonly Change[] | string {
  const text = said.trim()
  // What was opened and not changed says what it said, whether or not it could be read back.
  if (text === cellText(desk, topic, column).trim()) return []
  const now = topicOf(desk.tree, topic)
  switch (column) {
    case 'start':
    case 'due': {
      const said = text === '' ? null : readMoment(text, daySense(), now[column])
      if (text !== '' && said === null)
        return `“${text}” isn’t a day. “fri”, “12 May”, “in 2 weeks” and “fri 14:30” are.`
      const { day, time } = said ?? { day: null, time: null }
      const field = TIMES[column]
      return [
        ...(day === now[column] ? [] : [{ op: 'set', topic, field: column, value: day } as const]),
        ...(time === now[field] ? [] : [{ op: 'set', topic, field, value: time } as const]),
      ]
    }
    case 'length':
    case 'done':
    case 'priority': {
      const field = column === 'length' ? 'duration' : column
      const value =
        text === ''
          ? null
          : ((column === 'length' ? readLength(text, ownLocale(), desk.tree.fields.dayHours) : null) ??
            Number(text.replace(',', '.').replace(/\s*%$/, '')))
      const fits =
        value === null ||
        (Number.isFinite(value) &&
          (column === 'length'
            ? value >= 0 && value <= 10_000
            : Number.isInteger(value) && (column === 'done' ? value >= 0 && value <= 100 : value >= 1 && value <= 5)))
      if (!fits)
        return column === 'length'
          ? 'A length is a number of working days; “2 weeks” and “6 h” are lengths, too.'
          : column === 'done'
            ? 'Done is a number from 0 to 100.'
            : 'A priority is a number from 1, the most urgent, to 5.'
      if (field === 'done' && value === 100 && now.done !== 100)
        return finished(desk.tree, now, desk.treeDay, desk.userId)
      return value === now[field] ? [] : [{ op: 'set', topic, field, value } as Change]
    }
    case 'people':
    case 'markers':
      return readMembers(desk, topic, column, text)
    default:
      return []
  }
}

function readMembers(
  desk: Desk,
  topic: TopicId,
  set: Extract<SetName, 'people' | 'markers'>,
  text: string,
): readonly Change[] | string {
  const { details, title } = readDetails(`x // ${text}`, {
    ...desk.known(),
    ...(set === 'people' ? { markers: [] } : { people: [] }),
  })
  const wanted = details[set] ?? []
  const left = /\/\/\s*(.*)$/.exec(title)?.[1] ?? ''
  if (text !== '' && left !== '')
    return `“${left}” isn’t ${set === 'people' ? 'somebody of this tree' : 'a marker'}. Nothing was changed.`
  const now = topicOf(desk.tree, topic)[set]
  return [
    ...now.filter(member => !wanted.includes(member)).map((member): Change => ({ op: 'take', topic, set, member })),
    ...wanted.filter(member => !now.includes(member)).map((member): Change => ({ op: 'put', topic, set, member })),
  ]
}
