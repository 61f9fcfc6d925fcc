import type { Standing } from '#core/tree'

/** Signs for how a thing that must be settled turned out. */
export const STANDING_ICONS: Record<Standing | 'open', string> = {
  reached: 'lucide:circle-check-big',
  partly: 'lucide:contrast',
  not: 'lucide:circle-x',
  open: 'lucide:circle-dashed',
}
