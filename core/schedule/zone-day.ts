/** The day that it is in a zone now, ISO 8601; null for no zone, or none that there is. `now`: ms since 1970 UTC. */
export function dayIn(zone: string | null, now = Date.now()): string | null {
  if (zone === null) return null
  try {
    // Swedish days are written as in ISO 8601.
    return new Intl.DateTimeFormat('sv-SE', { timeZone: zone, calendar: 'gregory' }).format(now)
  } catch (error) {
    if (error instanceof RangeError) return null
    throw error
  }
}
