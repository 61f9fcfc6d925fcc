import type { SavedView } from '#core/tree/view'
import type { Desk } from '~/desk/desk'
import { chartingOf, showChart, shownChartNow } from '~/figures/charting'

/** Takes over how a saved view looks at the tree. */
export function takeView(desk: Desk, view: SavedView): void {
  desk.finding.text.value = view.text
  desk.finding.query.value = view.query
  desk.finding.rest.value = view.rest
  desk.view.value = view.view
  if (view.outline) desk.outline.value = view.outline
  if (view.board) desk.board.value = view.board
  if (view.depth !== null) desk.openTo(view.depth)
  if (view.chart) showChart(desk, view.chart)
  else if (view.view === 'figures') chartingOf(desk).face.value = 'sheet'
}

/** How the tree is looked at just now, to be kept under a name. */
export function viewNow(desk: Desk, id: string, name: string): SavedView {
  const { text, query, rest } = desk.finding
  const depth = desk.depth.value
  return {
    id,
    name: name.trim().toWellFormed().slice(0, 120),
    text: text.value,
    query: query.value,
    rest: rest.value,
    view: desk.view.value === 'meeting' ? 'canvas' : desk.view.value,
    depth: depth !== null && depth > 0 ? depth : null,
    outline: desk.outline.value,
    board: desk.board.value,
    chart: shownChartNow(desk),
  }
}
