import { z } from 'zod'
import { words } from './atoms'
import { levelStyle, TYPEFACES } from './style-fields'

const hex = z.string().regex(/^#[0-9a-f]{6}$/i)

/**
 * How a whole tree is dressed: its ground, its centre, ten branch colours in order, its brackets, and what each level
 * wears.
 */
export const lookSchema = z.strictObject({
  id: z.string().regex(/^[\w-]{1,40}$/),
  name: words(60).refine(text => text !== '', 'must say something'),
  page: hex,
  plank: hex,
  ink: hex,
  centre: hex,
  hues: z.array(hex).length(10),
  /** The width of brackets and left edges, in canvas units. */
  line: z.number().min(0.5).max(8),
  /** The letters of every title that has none of its own, nor of its level. */
  typeface: z.enum(TYPEFACES).optional(),
  levels: z.array(levelStyle).max(12),
})
export type Look = Readonly<z.infer<typeof lookSchema>>

/**
 * The first looks, ours. The order of hues keeps neighbours apart for colour-blind eyes (after Okabe and Ito, 2008).
 */
export const LOOKS: readonly Look[] = [
  {
    id: 'porch',
    name: 'Porch',
    page: '#f0f7f6',
    plank: '#ffffff',
    ink: '#16292d',
    centre: '#17616b',
    line: 1.6,
    levels: [],
    hues: [
      '#ad4f28',
      '#227780',
      '#84487a',
      '#37744a',
      '#2a6796',
      '#785a00',
      '#a83a62',
      '#4e5976',
      '#5e6724',
      '#6b50a2',
    ],
  },
  {
    id: 'tannery',
    name: 'Tannery',
    page: '#f7f1e8',
    plank: '#fffaf2',
    ink: '#2b2018',
    centre: '#6b3f22',
    line: 2.2,
    levels: [{}, { bold: true }],
    hues: [
      '#8c4a1f',
      '#37667c',
      '#5c6b24',
      '#7b4360',
      '#8a6410',
      '#9f3938',
      '#3f6d5e',
      '#5d5690',
      '#594827',
      '#825850',
    ],
  },
  {
    id: 'fern-bed',
    name: 'Fern bed',
    page: '#eff5ec',
    plank: '#fbfdf8',
    ink: '#1c2b1d',
    centre: '#2f5d3a',
    line: 1.6,
    levels: [{}, { shape: 'round' }],
    hues: [
      '#35713f',
      '#7a6a10',
      '#2b6f77',
      '#8b5a1c',
      '#4f6fa0',
      '#61772b',
      '#985040',
      '#4e7867',
      '#7d5a86',
      '#4d512a',
    ],
  },
  {
    id: 'slate',
    name: 'Slate and chalk',
    page: '#e9ecef',
    plank: '#f8f9fa',
    ink: '#1b2530',
    centre: '#2e3b4a',
    line: 1.2,
    levels: [{}, { fill: '#dde3ea' }],
    hues: [
      '#3f5870',
      '#6b4f3a',
      '#3d6a5c',
      '#6d5360',
      '#66602f',
      '#894643',
      '#14738c',
      '#56568a',
      '#60665d',
      '#985a84',
    ],
  },
  {
    id: 'ledger',
    name: 'Ledger',
    page: '#fbfbf8',
    plank: '#fbfbf8',
    ink: '#20201c',
    centre: '#20201c',
    line: 1,
    typeface: 'book',
    levels: [{}, { underlined: true, bold: true }, {}, { textSize: 'small' }],
    hues: [
      '#5b5b52',
      '#8a3324',
      '#2d5b7c',
      '#3f6b3a',
      '#7c5f14',
      '#6b4480',
      '#2f6a66',
      '#84475e',
      '#606826',
      '#4d5488',
    ],
  },
  {
    id: 'harbour',
    name: 'Harbour',
    page: '#eef4f9',
    plank: '#ffffff',
    ink: '#12263a',
    centre: '#124a73',
    line: 3,
    levels: [{}, { shape: 'tag', bold: true }],
    hues: [
      '#15608f',
      '#a5501f',
      '#1e7166',
      '#8a3f6a',
      '#7a6600',
      '#5a58a6',
      '#a03c3c',
      '#3a7438',
      '#5f6970',
      '#6e4307',
    ],
  },
  {
    id: 'bunting',
    name: 'Bunting',
    page: '#fff8f3',
    plank: '#ffffff',
    ink: '#2a1d2e',
    centre: '#7a2e5d',
    line: 2.6,
    levels: [{}, { shape: 'awning', textSize: 'large' }],
    hues: [
      '#b23a3a',
      '#1d6f9c',
      '#8a6a00',
      '#2e7a4a',
      '#8d4aa0',
      '#b2541a',
      '#2c757b',
      '#b03c76',
      '#5b6fb0',
      '#63791f',
    ],
  },
]

const byId = new Map(LOOKS.map(look => [look.id, look]))

/** The look a tree wears; one that is gone falls back to the first. */
export function lookOf(fields: { readonly look: string; readonly looks: readonly Look[] }): Look {
  return fields.looks.find(look => look.id === fields.look) ?? byId.get(fields.look) ?? LOOKS[0]!
}
