import { unzipSync } from 'fflate'
import { Unreadable } from '#core/capture/nested'

/* What is packed may be far larger than the file: it's unpacked to what its parts say they have and no further, before anything reads it. */

const MOST_PART = 24 * 1024 * 1024
const MOST_WHOLE = 48 * 1024 * 1024

export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b
/** A compound file: an office document of the old kind, or one with a password. */
export const isCompound = (bytes: Uint8Array): boolean => bytes[0] === 0xd0 && bytes[1] === 0xcf && bytes[2] === 0x11

/**
 * The parts of a package that are wanted, by name, and the names of all. Throws `Unreadable` for what is no package, or unpacks to too
 * much.
 */
export function unpack(
  bytes: Uint8Array,
  wanted: (name: string) => boolean,
): { readonly parts: Record<string, Uint8Array>; readonly names: readonly string[] } {
  let size = 0
  let tooMuch = false
  const names: string[] = []
  let parts: Record<string, Uint8Array>
  try {
    parts = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        names.push(name)
        if (tooMuch || !wanted(name)) return false
        size += originalSize
        tooMuch = originalSize > MOST_PART || size > MOST_WHOLE
        return !tooMuch
      },
    })
  } catch {
    throw new Unreadable('This file is broken: it begins like a packed document and doesn’t go on like one.')
  }
  if (tooMuch) throw new Unreadable('What is packed in this document is too long to be shown.')
  return { parts, names }
}
