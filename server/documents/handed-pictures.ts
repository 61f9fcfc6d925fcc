import sharp from 'sharp'

/** A picture as documents take it: PNG or JPEG, with its size in dots. */
export interface PagePicture {
  readonly kind: 'png' | 'jpg'
  readonly bytes: Buffer
  readonly width: number
  readonly height: number
}

/** Dots along one side that a page can show; more only makes the document heavy. */
const MOST_SIDE = 1800

/** The pictures of a tree for one document, each made ready once. */
export class HandedPictures {
  private readonly ready = new Map<string, PagePicture | null>()

  constructor(private readonly file: (hash: string) => { readonly type: string; readonly bytes: Uint8Array } | null) {}

  /** Makes ready what a document will ask for; what is missing or can't be read is left out. */
  async prepare(hashes: Iterable<string>): Promise<void> {
    for (const hash of new Set(hashes)) {
      if (this.ready.has(hash)) continue
      const found = this.file(hash)
      this.ready.set(hash, found && (await picture(Buffer.from(found.bytes))))
    }
  }

  async prepareSketch(svg: string): Promise<void> {
    await this.prepareMade(svg, () => Buffer.from(svg))
  }

  /** A picture that is made here, once, under a key of its own. */
  async prepareMade(key: string, make: () => Buffer | Promise<Buffer>): Promise<void> {
    if (!this.ready.has(key)) this.ready.set(key, await picture(await make()))
  }

  /** By the hash of a file, or the SVG of a sketch or a chart. */
  of(key: string): PagePicture | null {
    return this.ready.get(key) ?? null
  }
}

async function picture(bytes: Buffer): Promise<PagePicture | null> {
  try {
    const made = sharp(bytes, { density: 144, limitInputPixels: 100_000_000 }).resize(MOST_SIDE, MOST_SIDE, {
      fit: 'inside',
      withoutEnlargement: true,
    })
    const { hasAlpha, format } = await sharp(bytes).metadata()
    const kind = format === 'jpeg' && !hasAlpha ? 'jpg' : 'png'
    const { data, info } = await (kind === 'jpg' ? made.jpeg({ quality: 86 }) : made.png()).toBuffer({
      resolveWithObject: true,
    })
    return { kind, bytes: data, width: info.width, height: info.height }
  } catch {
    return null
  }
}
