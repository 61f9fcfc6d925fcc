import { createHash } from 'node:crypto'
import type { DrawnPicture } from '#core/formats/html-document'
import { redraw } from '../files/picture'

/** Pictures that come along with a document, and what they weigh together once they're drawn anew, bytes. */
const MOST_PICTURES = 200
const MOST_BYTES = 40 * 1024 * 1024

/** A picture of a document as it was drawn anew, to be kept with the tree. */
export interface DrawnFile extends DrawnPicture {
  readonly bytes: Uint8Array
}

/** The pictures of one document, drawn anew: nothing but pixels comes through. */
export class DrawnPictures {
  private readonly drawn = new Map<string, DrawnFile>()
  private weight = 0

  /** Draws one under a name. False for a kind that can't be drawn, and for what is too much: it stays behind, and is counted. */
  async draw(name: string, bytes: () => Promise<Buffer>): Promise<boolean> {
    if (this.drawn.size >= MOST_PICTURES || this.weight >= MOST_BYTES) return false
    try {
      const { data, ...of } = await redraw(await bytes())
      this.weight += data.length
      const file = createHash('sha256').update(data).digest('hex')
      this.drawn.set(name, { ...of, file, size: data.length, bytes: new Uint8Array(data) })
      return true
    } catch {
      return false
    }
  }

  readonly of = (name: string): DrawnFile | null => this.drawn.get(name) ?? null

  get all(): readonly DrawnFile[] {
    return [...this.drawn.values()]
  }
}
