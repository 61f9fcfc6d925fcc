const characters = new Intl.Segmenter('en', { granularity: 'grapheme' })

/**
 * A title in one line of at most so many characters, for places where it's only named. Counts characters as people see
 * them, and cuts none in two.
 */
export function shorten(title: string, most = 40): string {
  const line = title.replace(/\s+/g, ' ').trim() || 'untitled'
  if (line.length <= most) return line
  const shown: string[] = []
  for (const { segment } of characters.segment(line)) {
    if (shown.length === most) return `${shown.slice(0, -1).join('')}…`
    shown.push(segment)
  }
  return line
}

/** The first character as people see it; empty for an empty text. */
export function firstCharacter(text: string): string {
  for (const { segment } of characters.segment(text.toWellFormed().slice(0, 64))) return segment
  return ''
}

/** At most `most` UTF-16 units of a text, cut between characters as people see them, and well-formed. */
export function cut(text: string, most: number): string {
  const whole = text.toWellFormed()
  if (whole.length <= most) return whole
  let end = 0
  for (const { index, segment } of characters.segment(whole.slice(0, most + 64))) {
    if (index + segment.length > most) break
    end = index + segment.length
  }
  return whole.slice(0, end)
}

/** A title as a file name that any file system takes, without its ending. */
export function fileStem(title: string): string {
  return cut(title.replace(/[\p{C}\\/:*?"<>|]+/gu, ' ').trim(), 80) || 'tree'
}

/** The first letters of a person's first and last name, in capitals; '?' for nobody. What stands in brackets isn't a name. */
export function initialsOf(name: string): string {
  const parts = name
    .replace(/\s*\([^)]*\)\s*$/, '')
    .trim()
    .split(/\s+/)
  return (firstCharacter(parts[0] || '?') + (parts.length > 1 ? firstCharacter(parts.at(-1)!) : '')).toLocaleUpperCase()
}
