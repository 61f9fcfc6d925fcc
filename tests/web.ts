import { createServer } from 'node:http'
import sharp from 'sharp'

/** A page of the stand-in web. */
export interface WebPage {
  readonly status?: number
  readonly type?: string
  readonly body?: string | Buffer
  readonly location?: string
  /** ms until it answers. */
  readonly after?: number
}

const page = (title: string, summary: string, picture: string): string =>
  `<!doctype html><html><head><title>${title}</title><meta name="description" content="${summary}"><meta property="og:image" content="${picture}"></head><body>…</body></html>`

/** A small server that stands for the web (`WEB_STAND_IN`): the path begins with the host that was meant. */
export class Web {
  readonly pages = new Map<string, WebPage>()
  /** Host and path of all that was asked, in order. */
  readonly asked: string[] = []
  address = ''
  private readonly server = createServer((request, response) => {
    const at = (request.url ?? '').slice(1)
    this.asked.push(at)
    const found = this.pages.get(at) ?? { status: 404, body: 'nothing here' }
    setTimeout(() => {
      response.statusCode = found.status ?? 200
      response.setHeader('content-type', found.type ?? 'text/html; charset=utf-8')
      if (found.location !== undefined) response.setHeader('location', found.location)
      response.end(found.body ?? '')
    }, found.after ?? 0)
  })

  async open(): Promise<this> {
    await new Promise<void>(done => this.server.listen(0, '127.0.0.1', done))
    this.address = `http://127.0.0.1:${(this.server.address() as { port: number }).port}`
    const picture = await sharp({ create: { width: 240, height: 160, channels: 3, background: '#8c4a1f' } })
      .jpeg()
      .toBuffer()
    this.pages.set('haven.example/loft', {
      body: page('The drying loft', 'Where hides dried, and books will be read.', '/loft.jpg'),
    })
    this.pages.set('haven.example/loft.jpg', { type: 'image/jpeg', body: picture })
    this.pages.set('haven.example/old', { status: 301, location: '/loft' })
    this.pages.set('haven.example/round', { status: 302, location: '/round' })
    this.pages.set('haven.example/shut', { status: 403 })
    this.pages.set('haven.example/broken', { status: 500 })
    this.pages.set('haven.example/inward', { status: 302, location: 'https://10.0.0.1/secret' })
    return this
  }
  close(): void {
    this.server.close()
    this.server.closeAllConnections()
  }
}
