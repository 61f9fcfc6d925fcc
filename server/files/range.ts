/**
 * What a Range header asks of a file of `size` bytes (RFC 9110, section 14): both ends included. Null for the whole
 * file, which is also the answer to what isn't understood and to several ranges at once; 'outside' for a range that
 * begins after the end.
 */
export function rangeOf(header: string | undefined, size: number): { from: number; to: number } | 'outside' | null {
  const match = /^bytes=(\d*)-(\d*)$/.exec(header?.trim() ?? '')
  if (!match || (match[1] === '' && match[2] === '')) return null
  if (match[1] === '') {
    const last = Number(match[2])
    return last === 0 ? 'outside' : { from: Math.max(0, size - last), to: size - 1 }
  }
  const from = Number(match[1])
  const to = match[2] === '' ? size - 1 : Math.min(Number(match[2]), size - 1)
  if (match[2] !== '' && Number(match[2]) < from) return null
  return from >= size ? 'outside' : { from, to }
}
