/*
 * What a file's bytes say as text. A byte-order mark or an XML declaration names the encoding; bytes that are valid
 * UTF-8 with anything beyond ASCII in them are UTF-8 for all practical purposes; what is left is guessed, and the
 * person is asked.
 */

/** Encodings that are offered, by their names in the WHATWG Encoding Standard. */
export const ENCODINGS = [
  'utf-8',
  'utf-16le',
  'utf-16be',
  'windows-1252',
  'iso-8859-2',
  'windows-1250',
  'windows-1251',
  'macintosh',
] as const
export type Encoding = (typeof ENCODINGS)[number]

export interface Decoded {
  readonly text: string
  readonly encoding: string
  /** False when it's a guess that the person should look at. */
  readonly sure: boolean
}

const MARKS: readonly { readonly bytes: readonly number[]; readonly encoding: Encoding }[] = [
  { bytes: [0xef, 0xbb, 0xbf], encoding: 'utf-8' },
  { bytes: [0xff, 0xfe], encoding: 'utf-16le' },
  { bytes: [0xfe, 0xff], encoding: 'utf-16be' },
]

export function decodeAs(bytes: Uint8Array, encoding: string): string {
  return new TextDecoder(encoding).decode(bytes)
}

/**
 * The encoding that an XML or HTML head declares, in a spelling that the decoder knows; null when none or an unknown
 * one.
 */
function declared(bytes: Uint8Array): string | null {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 1024))
  const said =
    /^\s*<\?xml[^>]*\bencoding\s*=\s*["']([\w.:-]+)["']/i.exec(head)?.[1] ??
    /<meta[^>]*\bcharset\s*=\s*["']?([\w.:-]+)/i.exec(head)?.[1]
  if (!said) return null
  try {
    return new TextDecoder(said).encoding
  } catch {
    return null
  }
}

/** Zero bytes on one side of every second place are UTF-16 without its mark. */
function unmarkedUtf16(bytes: Uint8Array): Encoding | null {
  const sample = bytes.subarray(0, 4096)
  if (sample.length < 4) return null
  let even = 0
  let odd = 0
  for (const [i, byte] of sample.entries()) {
    if (byte !== 0) continue
    if (i % 2 === 0) even++
    else odd++
  }
  const half = sample.length / 2
  return odd > half * 0.4 && even < half * 0.1 ? 'utf-16le' : even > half * 0.4 && odd < half * 0.1 ? 'utf-16be' : null
}

/** Reads bytes as text, and says in which encoding, and whether that's for certain. */
export function decode(bytes: Uint8Array): Decoded {
  const mark = MARKS.find(one => one.bytes.every((byte, i) => bytes[i] === byte))
  if (mark) return { text: decodeAs(bytes, mark.encoding), encoding: mark.encoding, sure: true }
  const utf16 = unmarkedUtf16(bytes)
  if (utf16) return { text: decodeAs(bytes, utf16), encoding: utf16, sure: true }
  let utf8: string | null = null
  try {
    utf8 = new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    /* bytes that UTF-8 never has */
  }
  const said = declared(bytes)
  // A declaration that says UTF-8 over bytes that aren't is as good as none.
  if (said && said !== 'utf-8') return { text: decodeAs(bytes, said), encoding: said, sure: true }
  if (utf8 !== null) return { text: utf8, encoding: 'utf-8', sure: true }
  return { text: decodeAs(bytes, 'windows-1252'), encoding: 'windows-1252', sure: false }
}
