import { z } from 'zod'
import { words } from './atoms'

/** Outlines and signs of our own drawing; each pair tells a marker apart without its colour. */
export const MARKER_SHAPES = [
  'circle',
  'square',
  'triangle',
  'diamond',
  'speech',
  'pennant',
  'leaf',
  'hex',
  'bare',
] as const
export const MARKER_SIGNS = [
  'tick',
  'mark',
  'double-mark',
  'query',
  'spark',
  'letter-d',
  'letter-i',
  'letter-r',
  'letter-a',
  'letter-p',
  'ring',
  'half',
  'bar-1',
  'bar-2',
  'bar-3',
  'bar-4',
  'smile',
  'flat',
  'frown',
  'sun',
  'cloud',
  'pause',
  'cross',
  'key',
  'pin',
  'eye',
  'hand',
  'box',
  'link',
  'coin',
  'clock',
  'star',
  'none',
] as const
export const MARKER_HUES = ['fern', 'sun', 'clay', 'slate', 'plum', 'sky', 'porch', 'stone'] as const

const id = z.string().regex(/^[\w-]{1,40}$/)

const markerSchema = z.strictObject({
  id,
  name: words(60).refine(text => text !== '', 'must say something'),
  shape: z.enum(MARKER_SHAPES),
  sign: z.enum(MARKER_SIGNS),
  hue: z.enum(MARKER_HUES),
  /** One emoji instead of a drawn sign. */
  emoji: words(16).optional(),
})

/** A set that a team makes for a tree. `exclusive`: a topic has one of its markers at most. */
export const customMarkerSet = z.strictObject({
  id,
  name: words(60).refine(text => text !== '', 'must say something'),
  exclusive: z.boolean(),
  markers: z.array(markerSchema).max(60),
})

export type Marker = Readonly<z.infer<typeof markerSchema>>
export interface MarkerSet {
  readonly id: string
  readonly name: string
  readonly exclusive: boolean
  readonly markers: readonly Marker[]
}

const marker = (
  id: string,
  name: string,
  shape: Marker['shape'],
  sign: Marker['sign'],
  hue: Marker['hue'],
): Marker => ({ id, name, shape, sign, hue })
const emoji = (id: string, name: string, sign: string): Marker => ({
  id,
  name,
  shape: 'bare',
  sign: 'none',
  hue: 'stone',
  emoji: sign,
})

/**
 * The sets that come with the app. Red, amber and green with shape and word for the standing are common practice;
 * drawing and choice are ours.
 */
export const MARKER_SETS: readonly MarkerSet[] = [
  {
    id: 'importance',
    name: 'Importance',
    exclusive: true,
    markers: [
      marker('must', 'Must', 'hex', 'bar-4', 'clay'),
      marker('should', 'Should', 'hex', 'bar-3', 'sun'),
      marker('could', 'Could', 'hex', 'bar-2', 'sky'),
      marker('wont', 'Not this time', 'hex', 'bar-1', 'stone'),
    ],
  },
  {
    id: 'standing',
    name: 'Standing',
    exclusive: true,
    markers: [
      marker('on-track', 'On track', 'circle', 'tick', 'fern'),
      marker('at-risk', 'At risk', 'square', 'mark', 'sun'),
      marker('stuck', 'Stuck', 'triangle', 'mark', 'clay'),
      marker('paused', 'Paused', 'circle', 'pause', 'stone'),
      marker('given-up', 'Given up', 'square', 'cross', 'slate'),
    ],
  },
  {
    id: 'kind',
    name: 'Kind',
    exclusive: false,
    markers: [
      marker('decision', 'Decision', 'square', 'letter-d', 'slate'),
      marker('question', 'Question', 'speech', 'query', 'sky'),
      marker('risk', 'Risk', 'triangle', 'letter-r', 'clay'),
      marker('idea', 'Idea', 'pennant', 'spark', 'fern'),
      marker('information', 'Information', 'circle', 'letter-i', 'porch'),
      marker('important', 'Important', 'diamond', 'mark', 'plum'),
      marker('action', 'Action', 'square', 'letter-a', 'fern'),
      marker('parked', 'Parked', 'square', 'letter-p', 'stone'),
      marker('cost', 'Costs money', 'circle', 'coin', 'sun'),
      marker('waiting', 'Waiting', 'circle', 'clock', 'sky'),
    ],
  },
  {
    id: 'feeling',
    name: 'Feeling',
    exclusive: true,
    markers: [
      marker('glad', 'Glad', 'leaf', 'smile', 'fern'),
      marker('unsure', 'Unsure', 'leaf', 'flat', 'sun'),
      marker('uneasy', 'Uneasy', 'leaf', 'frown', 'clay'),
      marker('sunny', 'Looking up', 'leaf', 'sun', 'sun'),
      marker('cloudy', 'Clouding over', 'leaf', 'cloud', 'slate'),
    ],
  },
  {
    id: 'free',
    name: 'Free signs',
    exclusive: false,
    markers: [
      marker('sign-ring', 'Ring', 'bare', 'ring', 'porch'),
      marker('sign-half', 'Half', 'bare', 'half', 'porch'),
      marker('sign-star', 'Star', 'bare', 'star', 'sun'),
      marker('sign-pin', 'Pin', 'bare', 'pin', 'clay'),
      marker('sign-key', 'Key', 'bare', 'key', 'slate'),
      marker('sign-eye', 'Look again', 'bare', 'eye', 'sky'),
      marker('sign-hand', 'Raised hand', 'bare', 'hand', 'plum'),
      marker('sign-box', 'Parcel', 'bare', 'box', 'slate'),
      marker('sign-link', 'Belongs together', 'bare', 'link', 'fern'),
    ],
  },
  {
    id: 'emoji',
    name: 'Emoji',
    exclusive: false,
    markers: [
      emoji('emoji-books', 'Books', '📚'),
      emoji('emoji-truck', 'Van', '🚚'),
      emoji('emoji-tools', 'Tools', '🛠️'),
      emoji('emoji-party', 'Party', '🎉'),
      emoji('emoji-coffee', 'Coffee', '☕'),
      emoji('emoji-thanks', 'Thanks', '🙏'),
      emoji('emoji-fire', 'Hot', '🔥'),
      emoji('emoji-plant', 'Growing', '🌱'),
      emoji('emoji-phone', 'Call', '📞'),
      emoji('emoji-money', 'Money', '💶'),
      emoji('emoji-lock', 'Confidential', '🔒'),
      emoji('emoji-heart', 'Love it', '❤️'),
    ],
  },
]

/** Every marker that comes with the app. */
export const MARKERS: readonly Marker[] = MARKER_SETS.flatMap(set => set.markers)

/**
 * The sets of a tree: those of the app, in which the tree's own of the same id stand instead, and then the tree's own
 * others.
 */
export function markerSetsOf(fields: { readonly markerSets: readonly MarkerSet[] }): readonly MarkerSet[] {
  if (fields.markerSets.length === 0) return MARKER_SETS
  const own = new Map(fields.markerSets.map(set => [set.id, set]))
  return [
    ...MARKER_SETS.map(set => own.get(set.id) ?? set),
    ...fields.markerSets.filter(set => !MARKER_SETS.some(shipped => shipped.id === set.id)),
  ]
}

/** Every marker that a tree offers. */
export function markersOf(fields: { readonly markerSets: readonly MarkerSet[] }): readonly Marker[] {
  return fields.markerSets.length === 0 ? MARKERS : markerSetsOf(fields).flatMap(set => set.markers)
}

const shipped = new Map(MARKERS.map(one => [one.id, one]))

/** A marker by its id, in a tree's own sets first. */
export function markerOf(id: string, own: readonly MarkerSet[] = []): Marker | undefined {
  for (const set of own) for (const one of set.markers) if (one.id === id) return one
  return shipped.get(id)
}

/** The other markers of the set in which a marker excludes its neighbours; none when it doesn't. */
export function rivalsOf(id: string, sets: readonly MarkerSet[]): readonly string[] {
  const set = sets.find(one => one.markers.some(marker => marker.id === id))
  return set?.exclusive ? set.markers.map(marker => marker.id).filter(other => other !== id) : []
}
