import { lineInWords, type RunSheet, warningsOf } from '../calendar/run-sheet'
import { escapeHtml as e } from '../formats/clipboard'
import type { TopicId } from '../tree/topic'

export interface RunSheetAsked {
  readonly sheet: RunSheet
  /** What the tree is called. */
  readonly tree: string
  /** The day in words. */
  readonly head: string
  /** IANA zone on whose walls the times are. */
  readonly zone: string
  readonly titleOf: (id: TopicId) => string
  readonly nameOf: (person: string) => string
  readonly paper: 'A4' | 'Letter'
}

const STYLE = `
body{font:11pt/1.4 Figtree,system-ui,sans-serif;color:#16292d;margin:0}
h1{font-size:18pt;line-height:1.2;margin:0}p{margin:2pt 0 10pt;color:#4f6468}
table{border-collapse:collapse;width:100%}
th{text-align:left;font-size:9pt;color:#4f6468;border-bottom:1.5pt solid #16292d;padding:2pt 8pt 2pt 0}
td{vertical-align:top;border-bottom:.6pt solid #b8c7c5;padding:5pt 8pt 5pt 0;overflow-wrap:anywhere}
td.when{white-space:nowrap;font-weight:650;font-variant-numeric:tabular-nums}
tr{break-inside:avoid}thead{display:table-header-group}
.done{text-decoration:line-through}.warning{display:block;font-weight:650}.tick{width:14pt}
.tick span{display:inline-block;width:9pt;height:9pt;border:1pt solid #16292d}`

/** A run-sheet as a page to be printed: a line a row, with a box to tick. Nothing in it runs. */
export function runSheetPage({ sheet, tree, head, zone, titleOf, nameOf, paper }: RunSheetAsked): string {
  const rows = sheet.lines.map(line => {
    const { entry, people, place } = line
    const warnings = warningsOf(line, titleOf, nameOf)
    return (
      `<tr><td class="when">${e(lineInWords(line))}</td>` +
      `<td><span dir="auto"${entry.done ? ' class="done"' : ''}>${e(titleOf(entry.id))}</span>` +
      `${warnings.map(words => `<span class="warning">! ${e(words)}</span>`).join('')}</td>` +
      `<td>${e(people.map(nameOf).join(', '))}</td><td dir="auto">${e(place)}</td><td class="tick"><span></span></td></tr>`
    )
  })
  const untimed = sheet.untimed.map(({ id }) => e(titleOf(id))).join(' · ')
  return (
    `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${e(`${tree}, ${head}`)}</title>` +
    `<style>@page{size:${paper === 'A4' ? 'A4' : 'letter'} portrait;margin:14mm}${STYLE}</style></head><body>` +
    `<h1 dir="auto">${e(tree)}</h1><p>${e(head)}. Times on the wall of ${e(zone.replaceAll('_', ' '))}.</p>` +
    `${untimed ? `<p dir="auto">At any time, or all day: ${untimed}</p>` : ''}` +
    `<table><thead><tr><th>When</th><th>What</th><th>Who</th><th>Where</th><th></th></tr></thead><tbody>${rows.join('')}</tbody></table>` +
    `</body></html>`
  )
}
