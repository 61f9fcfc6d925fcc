/** A small sign on a topic. `shape` and `sign` tell markers apart without colour; `hue` names a colour of the theme. */
export interface Marker {
  readonly id: string
  readonly name: string
  readonly set: 'standing' | 'kind'
  readonly shape: 'circle' | 'square' | 'triangle' | 'diamond' | 'speech' | 'pennant'
  readonly sign: 'tick' | 'mark' | 'query' | 'letter-d' | 'letter-i' | 'spark'
  readonly hue: 'fern' | 'sun' | 'clay' | 'slate' | 'plum' | 'sky' | 'porch'
}

/** The first marker set: how a topic stands, and what it is. Red, amber and green with shape and word are common practice. */
export const MARKERS: readonly Marker[] = [
  { id: 'on-track', name: 'On track', set: 'standing', shape: 'circle', sign: 'tick', hue: 'fern' },
  { id: 'at-risk', name: 'At risk', set: 'standing', shape: 'square', sign: 'mark', hue: 'sun' },
  { id: 'stuck', name: 'Stuck', set: 'standing', shape: 'triangle', sign: 'mark', hue: 'clay' },
  { id: 'decision', name: 'Decision', set: 'kind', shape: 'square', sign: 'letter-d', hue: 'slate' },
  { id: 'question', name: 'Question', set: 'kind', shape: 'speech', sign: 'query', hue: 'sky' },
  { id: 'idea', name: 'Idea', set: 'kind', shape: 'pennant', sign: 'spark', hue: 'fern' },
  { id: 'information', name: 'Information', set: 'kind', shape: 'circle', sign: 'letter-i', hue: 'porch' },
  { id: 'important', name: 'Important', set: 'kind', shape: 'diamond', sign: 'mark', hue: 'plum' },
]

const byId = new Map(MARKERS.map(marker => [marker.id, marker]))

export function markerOf(id: string): Marker | undefined {
  return byId.get(id)
}
