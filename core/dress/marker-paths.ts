import type { Marker } from '../tree/markers'

/* Markers as they're drawn, on the screen and in pictures alike. */

/** The outline of each shape, in a square of 18 units. */
export const MARKER_OUTLINES: Readonly<Record<Marker['shape'], string>> = {
  circle: 'M9 1a8 8 0 1 1 0 16A8 8 0 0 1 9 1Z',
  square: 'M2 2h14v14H2Z',
  triangle: 'M9 1 17.5 16.5H.5Z',
  diamond: 'M9 .5 17.5 9 9 17.5.5 9Z',
  speech: 'M9 1a8 7.5 0 0 1 0 15H1.5V8.5A7.5 7.5 0 0 1 9 1Z',
  pennant: 'M1.5 2h10.5L17 9l-5 7H1.5Z',
  leaf: 'M9 .8C14.5 2.5 17 6 17 9.8 17 14 13.5 17 9 17S1 14 1 9.8C1 6 3.5 2.5 9 .8Z',
  hex: 'M5 1.5h8L17.3 9 13 16.5H5L.7 9Z',
  bare: '',
}
/** The sign on it, as strokes. */
export const MARKER_STROKES: Readonly<Record<Marker['sign'], string>> = {
  tick: 'M5.2 9.4 8 12.2 13 6.2',
  mark: 'M9 5v5M9 12.8v.4',
  'double-mark': 'M6.8 5v5M6.8 12.8v.4M11.2 5v5M11.2 12.8v.4',
  query: 'M6.7 6.8a2.3 2.3 0 1 1 3.2 2.1c-.6.3-.9.7-.9 1.4M9 12.8v.3',
  spark: 'M8 5v8M4.2 9h7.6',
  'letter-d': 'M6.6 5v8h1.8a4 4 0 0 0 0-8Z',
  'letter-i': 'M9 8.2v4.6M9 5.4v.2',
  'letter-r': 'M7 13V5.4h2.4a2.2 2.2 0 0 1 0 4.4H7M9.4 9.8 11.4 13',
  'letter-a': 'M5.6 13 9 5l3.4 8M6.9 10.4h4.2',
  'letter-p': 'M7 13V5.2h2.4a2.4 2.4 0 0 1 0 4.8H7',
  ring: 'M9 3.5a5.5 5.5 0 1 1 0 11 5.5 5.5 0 0 1 0-11Z',
  half: 'M9 3.5a5.5 5.5 0 1 1 0 11ZM9 3.5a5.5 5.5 0 0 0 0 11',
  'bar-1': 'M5.5 12.4h7',
  'bar-2': 'M5.5 12.4h7M5.5 10h7',
  'bar-3': 'M5.5 12.4h7M5.5 9.6h7M5.5 6.8h7',
  'bar-4': 'M5.5 13h7M5.5 10.4h7M5.5 7.8h7M5.5 5.2h7',
  smile: 'M6.3 7.2v.3M11.7 7.2v.3M5.8 10.6c1.8 2.4 4.6 2.4 6.4 0',
  flat: 'M6.3 7.2v.3M11.7 7.2v.3M6 11.6h6',
  frown: 'M6.3 7.2v.3M11.7 7.2v.3M5.8 12.4c1.8-2.4 4.6-2.4 6.4 0',
  sun: 'M9 7.2a2 2 0 1 1 0 4 2 2 0 0 1 0-4ZM9 4.4v.5M9 13.4v.5M4.3 9.2h.5M13.2 9.2h.5',
  cloud: 'M6 12.2h6.2a1.9 1.9 0 0 0 .1-3.8A3.2 3.2 0 0 0 6.2 8 2.1 2.1 0 0 0 6 12.2Z',
  pause: 'M7 6v6M11 6v6',
  cross: 'M6 6l6 6M12 6l-6 6',
  key: 'M6.5 8.5a2.8 2.8 0 1 1 0 .1M9 8.6h6.5v3M12.6 8.6v2.4',
  pin: 'M9 16.2C5.6 12.4 4.4 10 4.4 7.8a4.6 4.6 0 0 1 9.2 0c0 2.2-1.2 4.6-4.6 8.4ZM9 7.6v.4',
  eye: 'M1.8 9C5 4.4 13 4.4 16.2 9 13 13.6 5 13.6 1.8 9ZM9 8v2',
  hand: 'M5.6 9.4V5.6M8 8.6V3.6M10.4 8.6V4.2M12.8 9.4V6M5.6 9.4c-1-.9-2.4 0-1.7 1.3l1.9 3.4c.7 1.2 1.7 1.7 3.2 1.7 2.6 0 3.8-1.6 3.8-4.4V9.4',
  box: 'M3 6.4 9 3.4l6 3v6l-6 3-6-3ZM3 6.4l6 3 6-3M9 9.4v6',
  link: 'M7.6 10.4a2.6 2.6 0 0 1 0-3.7l1.8-1.8a2.6 2.6 0 0 1 3.7 3.7l-.9.9M10.4 7.6a2.6 2.6 0 0 1 0 3.7l-1.8 1.8a2.6 2.6 0 0 1-3.7-3.7l.9-.9',
  coin: 'M11.4 6.6a3.4 3.4 0 1 0 0 4.8M5.4 8.3h4.4M5.4 10h3.6',
  clock: 'M9 5.4V9l2.6 1.6',
  star: 'M9 2.6 10.9 7l4.7.4-3.6 3.1 1.1 4.6L9 12.6l-4.1 2.5L6 10.5 2.4 7.4 7.1 7Z',
  none: '',
}

/** How far down the sign stands on its outline, whose middle isn't the square's. */
export const signShift = (shape: Marker['shape']): number => (shape === 'triangle' ? 1.6 : shape === 'leaf' ? 0.4 : 0)
