/** Characters that RFC 8187's `ext-value` takes as they are, and `encodeURIComponent` leaves. */
const TOO_MUCH = /['()*!]/g

/**
 * The `Content-Disposition` of something to be saved under a name (RFC 6266): in ASCII for old programs, and whole as RFC 8187
 * writes it. Half a character becomes U+FFFD.
 */
export function saveAs(name: string): string {
  const whole = name.toWellFormed()
  const plain = whole.replace(/[^\x20-\x7e]|["\\%]/gu, '_')
  const encoded = encodeURIComponent(whole).replace(
    TOO_MUCH,
    character => `%${character.charCodeAt(0).toString(16).toUpperCase()}`,
  )
  return `attachment; filename="${plain}"; filename*=UTF-8''${encoded}`
}
