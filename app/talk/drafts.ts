import type { Body } from '#core/talk/body'

/** What was begun and isn't said: kept with the tab, by the field that it was begun in. */
const KEPT = 'sun-porch-draft '

export function readDraft(key: string): Body | null {
  try {
    return JSON.parse(sessionStorage.getItem(KEPT + key) ?? 'null') as Body | null
  } catch {
    return null
  }
}

export function keepDraft(key: string, body: Body | null): void {
  try {
    if (body) sessionStorage.setItem(KEPT + key, JSON.stringify(body))
    else sessionStorage.removeItem(KEPT + key)
  } catch {
    /* no room: it stays in the field */
  }
}
