/** The calendar day here and now, ISO 8601. */
export function today(): string {
  const now = new Date()
  return isoDay(now)
}

export function isoDay(date: Date): string {
  return `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`
}

export function dayDate(day: string): Date {
  const [year, month, date] = day.split('-').map(Number)
  return new Date(year!, month! - 1, date)
}

/** Whole days from one calendar day to another. */
export function daysBetween(from: string, to: string): number {
  return Math.round((Date.parse(`${to}T00:00Z`) - Date.parse(`${from}T00:00Z`)) / 86_400_000)
}

/** "12 May 2027", never an ambiguous order of numbers. */
export function dayInWords(day: string): string {
  return new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' }).format(dayDate(day))
}

/** How far off a due date is: "2 d late", "today", "in 3 d", "in 5 wk", and further off the date itself. */
export function dueInWords(due: string, now = today()): { text: string, late: boolean } {
  const days = daysBetween(now, due)
  if (days < 0) return { text: days > -21 ? `${-days} d late` : `${Math.round(-days / 7)} wk late`, late: true }
  if (days === 0) return { text: 'today', late: false }
  if (days === 1) return { text: 'tomorrow', late: false }
  if (days < 15) return { text: `in ${days} d`, late: false }
  if (days < 64) return { text: `in ${Math.round(days / 7)} wk`, late: false }
  return { text: dayInWords(due), late: false }
}

/** "just now", "12 min ago", "yesterday", then the date. */
export function agoInWords(instant: string): string {
  const minutes = Math.round((Date.now() - Date.parse(instant)) / 60_000)
  if (minutes < 1) return 'just now'
  if (minutes < 60) return `${minutes} min ago`
  const days = daysBetween(isoDay(new Date(instant)), today())
  if (days === 0) return `${Math.round(minutes / 60)} h ago`
  return days === 1 ? 'yesterday' : dayInWords(isoDay(new Date(instant)))
}
