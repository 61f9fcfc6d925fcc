import { settings } from '../settings'

/* How many live lines a person and a network address have open. */

const lines = new Map<string, { readonly person: string; readonly address: string }>()
const open = new Map<string, number>()

const add = (key: string, by: number): void => {
  const count = (open.get(key) ?? 0) + by
  if (count > 0) open.set(key, count)
  else open.delete(key)
}

/** Whoever was cut off for flooding has no line for so long. */
const HUSH_MS = 5000
const hushed = new Map<string, number>()
export function hush(person: string): void {
  hushed.set(person, Date.now() + HUSH_MS)
  setTimeout(() => {
    if ((hushed.get(person) ?? 0) <= Date.now()) hushed.delete(person)
  }, HUSH_MS + 100).unref()
}

/** Counts a line in. False, and not counted, when the person or the address has as many as they may, or was just cut off. */
export function countLine(id: string, person: string, address: string): boolean {
  const { SOCKETS_PER_PERSON, SOCKETS_PER_ADDRESS } = settings()
  if ((hushed.get(person) ?? 0) > Date.now()) return false
  if ((open.get(`person ${person}`) ?? 0) >= SOCKETS_PER_PERSON) return false
  if ((open.get(`address ${address}`) ?? 0) >= SOCKETS_PER_ADDRESS) return false
  lines.set(id, { person, address })
  add(`person ${person}`, 1)
  add(`address ${address}`, 1)
  return true
}

export function dropLine(id: string): void {
  const line = lines.get(id)
  if (!line) return
  lines.delete(id)
  add(`person ${line.person}`, -1)
  add(`address ${line.address}`, -1)
}

/** Lines that are open. */
export const openLines = (): number => lines.size
