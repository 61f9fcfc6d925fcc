/** The card beside the tree: the first steps, the ten keys that matter, or none. */
export const shownCard = ref<'steps' | 'ten' | null>(null)

export function turnCard(what: 'steps' | 'ten'): void {
  shownCard.value = shownCard.value === what ? null : what
}

/** How far somebody has come with the first steps, kept in this browser. */
export interface FirstStepsKept {
  readonly tree: string
  readonly done: number
}
const KEPT = 'first-steps'

export function keptSteps(): FirstStepsKept | null {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? 'null') as FirstStepsKept | null
    return typeof kept?.tree === 'string' && Number.isInteger(kept.done) ? kept : null
  } catch {
    return null
  }
}
export const keepSteps = (kept: FirstStepsKept): void => localStorage.setItem(KEPT, JSON.stringify(kept))
