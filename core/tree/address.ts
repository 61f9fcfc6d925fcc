const SAFE_SCHEMES = new Set(['http:', 'https:', 'mailto:', 'topic:', 'tree:', 'attachment:', 'geo:'])

/**
 * Whether an address may be kept and opened: web, mail, a topic, a tree, a file of the tree, or a place.
 * The WHATWG URL parser decides the scheme, so that no white space or control character smuggles `javascript:` in.
 */
export function isSafeAddress(address: string): boolean {
  try {
    return SAFE_SCHEMES.has(new URL(address).protocol)
  } catch {
    return false
  }
}
