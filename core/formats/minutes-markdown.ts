import type { BlockContent, List, ListItem, PhrasingContent, Root, RootContent, TableRow } from 'mdast'
import { dayInWords } from '../schedule/days'
import { ENTRY_NAMES } from '../meeting/record'
import { INTENT_NAMES } from '../meeting/invitation'
import { deliveredInWords } from '../meeting/delivered'
import type { Minutes, MinutesItem, MinutesLine, Prepared } from '../meeting/minutes'
import { printMarkdown } from './note-text'

/* Minutes as Markdown (CommonMark 0.31 with tables, github.github.com/gfm section 4.10). */

/** What stands over how the plan stands. */
export const PLAN_HEAD = 'The plan since it began'

const text = (value: string): PhrasingContent => ({ type: 'text', value })
const strong = (value: string): PhrasingContent => ({ type: 'strong', children: [text(value)] })
const paragraph = (...children: PhrasingContent[]): RootContent => ({ type: 'paragraph', children })
const heading = (depth: 1 | 2 | 3, value: string): RootContent => ({ type: 'heading', depth, children: [text(value)] })
const bullet = (...children: BlockContent[]): ListItem => ({ type: 'listItem', spread: false, children })
const list = (children: ListItem[]): List => ({ type: 'list', ordered: false, spread: false, children })
const row = (cells: readonly string[]): TableRow => ({
  type: 'tableRow',
  children: cells.map(cell => ({ type: 'tableCell', children: [text(cell)] })),
})

/** What a line of the record says beside its words: owners and day of an action, who said it and when. */
export function aboutLine({ kind, owners, due, done, by, at }: MinutesLine): string {
  const action =
    kind === 'action'
      ? [owners.join(', ') || 'nobody yet', due ? `due ${dayInWords(due)}` : 'no date', done ? 'done' : '']
      : []
  return [...action, by ? `${by}, ${at}` : at].filter(Boolean).join(' · ')
}

/** "20 min planned, 26 used". */
export function timeOf({ planned, actual }: Pick<MinutesItem, 'planned' | 'actual'>): string {
  return `${planned === null ? 'no time' : `${planned} min`} planned, ${actual} used`
}

export function headOf(minutes: Minutes): string[][] {
  const { day, began, ended, zone, where, why, people, planned, actual } = minutes
  const names = (came: boolean | null): string =>
    people
      .filter(person => person.came === came)
      .map(({ name, part }) => (part ? `${name} (${part})` : name))
      .join(', ')
  return [
    [
      'When',
      day === null
        ? ''
        : `${dayInWords(day)}${began ? `, ${began}${ended ? ` to ${ended}` : ''}` : ''} (${zone.replaceAll('_', ' ')})`,
    ],
    ['Where', where],
    ['Why', why],
    ['There', names(true)],
    ['Not there', names(false)],
    ['Not noted', names(null)],
    ['Time', `${planned} min planned, ${actual} used`],
  ].filter(([, value]) => value !== '') as string[][]
}

function preparedList(all: readonly Prepared[], level = 0): ListItem[] {
  const items: ListItem[] = []
  for (let i = 0; i < all.length; i++) {
    if (all[i]!.level !== level) continue
    let end = i + 1
    while (end < all.length && all[end]!.level > level) end++
    const below = preparedList(all.slice(i + 1, end), level + 1)
    items.push(
      bullet(
        { type: 'paragraph', children: [text(all[i]!.title)] },
        ...(all[i]!.note ? [{ type: 'paragraph' as const, children: [text(all[i]!.note)] }] : []),
        ...(below.length > 0 ? [list(below)] : []),
      ),
    )
  }
  return items
}

function lines(all: readonly MinutesLine[]): RootContent[] {
  return all.length === 0
    ? []
    : [
        list(
          all.map(line =>
            bullet({
              type: 'paragraph',
              children: [strong(ENTRY_NAMES[line.kind]), text(`: ${line.title} (${aboutLine(line)})`)],
            }),
          ),
        ),
      ]
}

function itemPart(item: MinutesItem): RootContent[] {
  const named = [
    ...item.links.map(({ words, url }) =>
      bullet({
        type: 'paragraph',
        children: /^(?:https?|mailto):/.test(url) ? [{ type: 'link', url, children: [text(words)] }] : [text(words)],
      }),
    ),
    ...item.files.map(({ name }) => bullet({ type: 'paragraph', children: [text(`File: ${name}`)] })),
  ]
  return [
    heading(2, `${item.number} ${item.title}`),
    paragraph(text([INTENT_NAMES[item.intent], item.owners.join(', '), timeOf(item)].filter(Boolean).join(' · '))),
    ...(item.serves.length > 0 ? [paragraph(strong('To be settled'), text(`: ${item.serves.join('; ')}`))] : []),
    ...(item.note ? [paragraph(text(item.note))] : []),
    ...(item.prepared.length > 0 ? [list(preparedList(item.prepared))] : []),
    ...lines(item.lines),
    ...(named.length > 0 ? [list(named)] : []),
  ]
}

export function writeMinutesMarkdown(minutes: Minutes): string {
  return printMarkdown(minutesDocument(minutes))
}

/** The minutes as a document of headings, lists and tables. */
export function minutesDocument(minutes: Minutes): Root {
  const children: RootContent[] = [
    heading(1, minutes.title),
    list(
      headOf(minutes).map(([name, value]) =>
        bullet({ type: 'paragraph', children: [strong(name!), text(`: ${value}`)] }),
      ),
    ),
  ]
  if (minutes.musts.length > 0) {
    children.push(heading(2, 'What was to be settled'))
    children.push(
      list(
        minutes.musts.map(must =>
          bullet({ type: 'paragraph', children: [strong(must.text), text(`: ${deliveredInWords(must)}`)] }),
        ),
      ),
    )
  }
  if (minutes.actions.length > 0) {
    children.push(heading(2, 'Actions'))
    children.push({
      type: 'table',
      align: [],
      children: [
        row(['What', 'Who', 'Due', 'From']),
        ...minutes.actions.map(one =>
          row([one.title, one.owners.join(', ') || 'nobody yet', one.due ? dayInWords(one.due) : '', one.item]),
        ),
      ],
    })
  }
  for (const item of minutes.items) children.push(...itemPart(item))
  if (minutes.besides.length > 0) children.push(heading(2, 'Besides'), ...lines(minutes.besides))
  if (minutes.plan)
    children.push(
      heading(2, PLAN_HEAD),
      list(minutes.plan.map(line => bullet({ type: 'paragraph', children: [text(line)] }))),
    )
  return { type: 'root', children } as Root
}

/**
 * What one person has to do from a meeting, as the beginning of their letter. `person`: null for a guest, who has
 * nothing here.
 */
export function ownActions(minutes: Minutes, person: string | null): RootContent[] {
  if (person === null) return []
  const own = minutes.actions.filter(({ ownerIds, done }) => ownerIds.includes(person) && !done)
  if (own.length === 0) return [paragraph(text('Nothing is yours to do from this meeting.'))]
  return [
    heading(2, 'Yours to do'),
    list(
      own.map(one =>
        bullet({
          type: 'paragraph',
          children: [
            text(`${one.title}${one.due ? `, due ${dayInWords(one.due)}` : ''}${one.item ? ` (${one.item})` : ''}`),
          ],
        }),
      ),
    ),
  ]
}
