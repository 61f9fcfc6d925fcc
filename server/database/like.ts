/** A pattern for LIKE that finds a text anywhere, whatever is in it; null for nothing to look for. */
export function likeAnywhere(text: string | undefined): string | null {
  const wanted = text?.trim()
  return wanted ? `%${wanted.replace(/[\\%_]/g, '\\$&')}%` : null
}
