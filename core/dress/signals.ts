import type { MARKER_HUES } from '../tree/markers'

/** Colours that say something, whatever the look is: the same as in the style sheet, for what is drawn without one. */
export interface Signals extends Readonly<Record<(typeof MARKER_HUES)[number], string>> {
  readonly quiet: string
  readonly hairline: string
  /** The sign on a marker's outline. */
  readonly signGround: string
  /** Letters on the sun's yellow. */
  readonly onSun: string
}

const DAY: Signals = {
  quiet: '#4f6468',
  hairline: '#d5e2e0',
  porch: '#17616b',
  sun: '#f0b43c',
  clay: '#a93f27',
  fern: '#3e7b4f',
  slate: '#33576f',
  plum: '#7a4e8a',
  sky: '#2f6f9f',
  stone: '#65706e',
  signGround: '#ffffff',
  onSun: '#352400',
}
const DUSK: Signals = {
  quiet: '#9bb2af',
  hairline: '#2b4241',
  porch: '#7cc4c9',
  sun: '#f0b43c',
  clay: '#ec8f70',
  fern: '#83c290',
  slate: '#86b0cb',
  plum: '#c79ad6',
  sky: '#7fb8e0',
  stone: '#a3b3b0',
  signGround: '#122120',
  onSun: '#352400',
}

export const signalsOf = (dusk: boolean): Signals => (dusk ? DUSK : DAY)
