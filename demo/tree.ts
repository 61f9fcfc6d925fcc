/*
 * The demo: a town library branch moves into a converted tannery. Lines nest by tabs; after `//` stand quick details,
 * with dates that count from the day of loading, so that the demo is always in the middle of things.
 */

import type { Arrangement, Initial, Tie } from '#core/tree'
import type { DemoSeries } from './meetings'
import type { DemoFigures } from './figures'
import type { DemoPlan } from './plan'

export interface DemoTree {
  readonly title: string
  readonly description: string
  readonly tags?: readonly string[]
  readonly arrangement?: Arrangement
  readonly text: string
  /** Notes in Markdown, by topic title. */
  readonly notes: Readonly<Record<string, string>>
  readonly folded: readonly string[]
  readonly links?: Readonly<Record<string, readonly { url: string; title: string }[]>>
  /** Whatever else hangs on topics, by title. */
  readonly more?: Readonly<Record<string, Pick<Initial, 'place' | 'annex' | 'numbering'>>>
  /** Lines of checklists, by topic title; done ones begin with x. */
  readonly checks?: Readonly<Record<string, readonly string[]>>
  /** Cross-links: from one title to another. */
  readonly ties?: readonly (Pick<Tie, 'label' | 'ends'> & { readonly from: string; readonly to: string })[]
  readonly plan?: DemoPlan
  readonly figures?: DemoFigures
  /** The branches that are meetings, where they are. */
  readonly series?: DemoSeries
  /** Topics that show one of another demo tree: where they stand, and the title of the original. */
  readonly shows?: readonly { readonly under: string; readonly title: string }[]
}
