import type { Cue } from '#core/presenting/cue'

/** What the page that presents tells the speaker's window. */
export interface Told {
  readonly cue: Cue
  /** When presenting began, ms since 1970 UTC. */
  readonly began: number
}
export type Move = 'next' | 'back' | 'first' | 'last'

/** Word between the two windows: the presenting page tells, the speaker's asks for it and asks to move. */
export type CueWord =
  | { readonly kind: 'told'; readonly told: Told }
  | { readonly kind: 'over' }
  | { readonly kind: 'ask' }
  | { readonly kind: 'move'; readonly to: Move }

/** The channel of a tree within this browser; closed with the component that opened it. */
export function useCues(treeId: string, heard: (word: CueWord) => void): (word: CueWord) => void {
  const channel = new BroadcastChannel(`sun-porch-presenting/${treeId}`)
  channel.onmessage = ({ data }: MessageEvent<CueWord>) => heard(data)
  onScopeDispose(() => channel.close())
  // What Vue watches can't be cloned; what is told is plain.
  return word => channel.postMessage(JSON.parse(JSON.stringify(word)))
}

/** Which way a key leads while presenting, in either window. */
export const moveOf: Readonly<Record<string, Move>> = {
  'present-next': 'next',
  'present-back': 'back',
  'present-first': 'first',
  'present-last': 'last',
}
