/** Levels of lists and objects that a message may have. Nothing we send has more than a dozen. */
export const MOST_NESTING = 64

/**
 * Whether JSON text nests deeper than `most`. Looked at before it's parsed: what checks it afterwards goes down level by level and
 * would run out of stack.
 */
export function nestsDeeper(text: string, most = MOST_NESTING): boolean {
  let depth = 0
  for (let i = 0; i < text.length; i++)
    switch (text.charCodeAt(i)) {
      case 0x22: {
        // A string: on to its end, over what is escaped.
        for (i++; i < text.length && text.charCodeAt(i) !== 0x22; i++) if (text.charCodeAt(i) === 0x5c) i++
        break
      }
      case 0x5b:
      case 0x7b:
        if (++depth > most) return true
        break
      case 0x5d:
      case 0x7d:
        depth--
    }
  return false
}
