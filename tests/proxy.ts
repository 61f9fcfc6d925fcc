import { createServer, request, type Server } from 'node:http'
import { type AddressInfo, connect } from 'node:net'

/** Stands before a house as a proxy does: can be away, and can say that there is a newer service worker. */
export class Proxy {
  /** Answers that the house is away, as a proxy does whose house is being started again. */
  away = false
  /** What is added to the service worker's script. */
  newer = ''
  private readonly server: Server

  private constructor(private readonly house: URL) {
    this.server = createServer((asked, answer) => {
      if (this.away) {
        answer.writeHead(502).end('Bad gateway')
        return
      }
      const onward = request(
        { host: house.hostname, port: house.port, path: asked.url, method: asked.method, headers: asked.headers },
        given => {
          const altered = this.newer !== '' && asked.url === '/sw.js'
          const headers = altered ? { 'content-type': 'text/javascript' } : given.headers
          answer.writeHead(given.statusCode!, headers)
          given.pipe(answer, { end: !altered })
          if (altered) given.on('end', () => answer.end(this.newer))
        },
      )
      onward.on('error', () => answer.destroy())
      if (asked.url === '/sw.js')
        for (const name of ['accept-encoding', 'if-none-match', 'if-modified-since']) onward.removeHeader(name)
      asked.pipe(onward)
    })
    this.server.on('upgrade', (asked, socket, head) => {
      if (this.away) {
        socket.destroy()
        return
      }
      const onward = connect(Number(house.port), house.hostname, () => {
        onward.write(
          `GET ${asked.url} HTTP/1.1\r\n${Object.entries(asked.headers)
            .map(([name, value]) => `${name}: ${String(value)}`)
            .join('\r\n')}\r\n\r\n`,
        )
        onward.write(head)
        onward.pipe(socket).pipe(onward)
      })
      onward.on('error', () => socket.destroy())
      socket.on('error', () => onward.destroy())
    })
  }

  static async before(house: string): Promise<Proxy> {
    const proxy = new Proxy(new URL(house))
    await new Promise<void>(done => proxy.server.listen(0, '127.0.0.1', done))
    return proxy
  }

  get url(): string {
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`
  }

  close(): void {
    this.server.closeAllConnections()
    this.server.close()
  }
}
