import type { Emptiness } from '#core/figures/chart'

/** Why a chart has nothing to show, and what would give it something. */
export const EMPTY_WORDS: Readonly<Record<Emptiness, string>> = {
  nothing: 'Nothing below has a figure in this measure.',
  'no-target': 'Nothing below has a target in this measure. The side sheet gives one to the selected topic.',
  'no-series': 'Nothing below comes again. “Over the years …” in the side sheet makes a series of a figure.',
  'no-share': 'Only what is above zero has a share.',
}
