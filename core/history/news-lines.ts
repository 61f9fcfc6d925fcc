import { type Difference, fieldInWords } from '../compare/differences'
import { shorten } from '../tree/title'
import type { Tree } from '../tree/tree'
import { wordOf } from './marks'

/** What is new, a line a topic, branch by branch: “  new: Lift (Move › Fit-out)”. Beyond `most` lines they are counted. */
export function newsInLines(differences: readonly Difference[], after: Tree, most: number): string[] {
  const branchOf = ({ path, title }: Difference): string => path[1] ?? title
  const branches = new Map<string, Difference[]>()
  for (const one of differences) branches.set(branchOf(one), [...(branches.get(branchOf(one)) ?? []), one])
  const lines = [...branches.values()].flat().map(one => {
    const where = one.path.map(title => shorten(title || 'untitled', 30)).join(' › ')
    const fields = one.kind === 'changed' ? [...new Set(one.fields.map(fieldInWords))].join(', ') : ''
    return `  ${wordOf(one, after)}: ${shorten(one.title || 'untitled', 80)}${fields ? ` – ${fields}` : ''}${where ? ` (${where})` : ''}`
  })
  return lines.length > most ? [...lines.slice(0, most), `  and ${lines.length - most} more`] : lines
}
