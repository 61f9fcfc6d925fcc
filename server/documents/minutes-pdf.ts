import { aboutLine, headOf, timeOf, PLAN_HEAD } from '#core/formats/minutes-markdown'
import { INTENT_NAMES } from '#core/meeting/invitation'
import { deliveredInWords } from '#core/meeting/delivered'
import type { Minutes, MinutesItem, MinutesLine } from '#core/meeting/minutes'
import { ENTRY_NAMES } from '#core/meeting/record'
import { dayInWords } from '#core/schedule/days'
import { PageWriter, PORCH, QUIET } from './page-writer'

/* Minutes as a PDF: A4, text that can be searched and copied, bookmarks for the items, page numbers. */

function writeLine(page: PageWriter, line: MinutesLine): void {
  page.room(30)
  page.write(
    [
      ['•  ', { color: PORCH }],
      [`${ENTRY_NAMES[line.kind]}: `, { bold: true, color: PORCH }],
      [line.title],
      [`   ${aboutLine(line)}`, { size: 9, color: QUIET }],
    ],
    { indent: 10, after: 3 },
  )
  if (line.note) page.write([[line.note, { size: 9.5 }]], { indent: 24 })
}

function writeItem(page: PageWriter, item: MinutesItem): void {
  // A heading stays with what comes first below it.
  page.room(item.lines.length + item.prepared.length > 0 ? 110 : 70)
  page.space(10)
  page.mark(`${item.number} ${item.title}`)
  page.write([[`${item.number}  ${item.title || 'untitled'}`, { size: 14, bold: true }]], { after: 2 })
  page.write(
    [
      [
        [INTENT_NAMES[item.intent], item.owners.join(', '), timeOf(item)].filter(Boolean).join(' · '),
        { size: 9, color: QUIET },
      ],
    ],
    { after: 6 },
  )
  if (item.serves.length > 0) page.write([['To be settled: ', { bold: true }], [item.serves.join('; ')]])
  if (item.note) page.write([[item.note]])
  let part = 0
  for (const { level, title, note } of item.prepared) {
    page.room(26)
    if (level === 0)
      page.write([[`${item.number}.${++part}  ${title || 'untitled'}`, { bold: true, color: PORCH, size: 11 }]], {
        after: 2,
      })
    else page.write([['–  ', { color: QUIET }], [title]], { indent: 10 * level, after: 2 })
    if (note) page.write([[note]], { indent: 10 * level })
  }
  for (const line of item.lines) writeLine(page, line)
  for (const { words, url } of item.links)
    page.write(
      [['•  ', { color: PORCH }], /^(?:https?|mailto):/i.test(url) ? [words, { link: url, color: PORCH }] : [words]],
      { indent: 10, after: 3 },
    )
  for (const { name } of item.files)
    page.write([['•  ', { color: PORCH }], ['File: ', { bold: true }], [name]], { indent: 10, after: 3 })
}

export async function minutesAsPdf(minutes: Minutes): Promise<Buffer> {
  const page = new PageWriter(minutes.title)
  page.write([[minutes.title || 'Meeting', { size: 22, bold: true, color: PORCH }]], { after: 10 })
  page.table([92, page.width - 92], null, headOf(minutes))
  if (minutes.musts.length > 0) {
    page.write([['What was to be settled', { size: 14, bold: true }]], { after: 4 })
    for (const must of minutes.musts)
      page.write([['•  ', { color: PORCH }], [must.text, { bold: true }], [`: ${deliveredInWords(must)}`]], {
        indent: 10,
      })
  }
  if (minutes.actions.length > 0) {
    page.room(80)
    page.space(8)
    page.mark('Actions')
    page.write([['Actions', { size: 14, bold: true }]], { after: 4 })
    const width = page.width
    page.table(
      [width * 0.44, width * 0.22, width * 0.15, width * 0.19],
      ['What', 'Who', 'Due', 'From'],
      minutes.actions.map(one => [
        one.title,
        one.owners.join(', ') || 'nobody yet',
        one.due ? dayInWords(one.due) : '',
        one.item,
      ]),
    )
  }
  for (const item of minutes.items) writeItem(page, item)
  if (minutes.besides.length > 0) {
    page.space(10)
    page.write([['Besides', { size: 14, bold: true }]])
    for (const line of minutes.besides) writeLine(page, line)
  }
  if (minutes.plan) {
    page.space(10)
    page.write([[PLAN_HEAD, { size: 14, bold: true }]], { after: 4 })
    for (const line of minutes.plan) page.write([['•  ', { color: PORCH }], [line]], { indent: 10 })
  }
  return page.finish()
}
