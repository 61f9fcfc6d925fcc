import type { ShownPicture } from '#core/formats/contents'
import { redraw } from '../files/picture'

/* Pictures out of somebody's document, drawn anew so that nothing but pixels comes through. Runs in a thread. */

/** Pictures of one document, and bytes of all of them once drawn. */
const MOST_PICTURES = 150
const MOST_BYTES = 12 * 1024 * 1024

/** Draws the pictures of one document, as many as fit; what can't be shown is counted. */
export class ShownPictures {
  private drawn = 0
  private bytes = 0
  /** How many were left out. */
  left = 0

  /** Null for what isn't a picture that can be drawn, or is one too many. */
  async draw(data: Uint8Array, words: string): Promise<ShownPicture | null> {
    if (this.drawn >= MOST_PICTURES || this.bytes >= MOST_BYTES) return this.without()
    this.drawn++
    try {
      const { data: out, type } = await redraw(Buffer.from(data))
      this.bytes += out.length
      return { src: `data:${type};base64,${out.toString('base64')}`, words }
    } catch {
      return this.without()
    }
  }
  private without(): null {
    this.left++
    return null
  }
  /** What was left out, in words; nothing where all are shown. */
  said(): string[] {
    return this.left === 0 ? [] : [this.left === 1 ? 'One picture isn’t shown.' : `${this.left} pictures aren’t shown.`]
  }
}
