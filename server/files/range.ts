import parseRange from 'range-parser'

/**
 * What a Range header asks of a file of `size` bytes (RFC 9110, section 14): both ends included. Null for the whole
 * file, which is also the answer to what isn't understood and to several ranges at once; 'outside' for a range that
 * begins after the end.
 */
export function rangeOf(header: string | undefined, size: number): { from: number; to: number } | 'outside' | null {
  // An end before its beginning is no range at all, which the parser doesn't tell from one beyond the file.
  const [, first, last] = /^bytes=(\d+)-(\d+)$/.exec(header?.trim() ?? '') ?? []
  if (first !== undefined && Number(last) < Number(first)) return null
  const found = header === undefined ? -2 : parseRange(size, header.trim())
  if (found === -1) return 'outside'
  if (found === -2 || found.type !== 'bytes' || found.length !== 1) return null
  const { start, end } = found[0]!
  return { from: start, to: end }
}
