import { promisify } from 'node:util'
import { brotliCompress, constants, gzip } from 'node:zlib'

/* The document that every page of the app begins with: the same for each, so it's made once and kept as it's sent. */

type NitroApp = Parameters<Parameters<typeof defineNitroPlugin>[0]>[0]

const CODINGS = ['br', 'gzip'] as const
/** How hard brotli tries: at this the document takes some 10 ms, once. */
const BROTLI = { params: { [constants.BROTLI_PARAM_QUALITY]: 5 } }

interface Shell {
  readonly headers: Readonly<Record<string, string>>
  readonly plain: Buffer
  readonly br: Buffer
  readonly gzip: Buffer
}

/** By a method that nobody opens pages with, which the router still gives to what makes them. */
const made = (nitro: NitroApp, path: string): Promise<Response> =>
  nitro.localFetch(path, { method: 'OPTIONS' }) as Promise<Response>

async function makeShell(nitro: NitroApp): Promise<Shell> {
  const answer = await made(nitro, '/')
  if (!answer.ok) throw new Error(`the app’s document was answered with ${answer.status}`)
  const plain = Buffer.from(await answer.text())
  const [br, zipped] = await Promise.all([promisify(brotliCompress)(plain, BROTLI), promisify(gzip)(plain)])
  const headers = Object.fromEntries(
    ['content-type', 'content-security-policy'].map(name => [name, answer.headers.get(name) ?? '']),
  )
  return { headers, plain, br, gzip: zipped }
}

/** What the first screen asks for can be on its way while the scripts load. */
function ahead(path: string): string {
  const tree = /^\/trees\/([\w-]{1,40})(?:\?|$)/.exec(path)?.[1]
  return ['/api/me', ...(tree ? [`/api/trees/${tree}`] : [])]
    .map(one => `<${one}>; rel=preload; as=fetch; crossorigin`)
    .join(', ')
}

export default defineNitroPlugin(nitro => {
  // While developing the document changes with what is developed.
  if (import.meta.dev) return
  let kept: Promise<Shell> | null = null
  nitro.router.get(
    '/**',
    defineEventHandler(async event => {
      // What went wrong is told in a document of its own.
      if (event.path.startsWith('/__nuxt_error')) return made(nitro, event.path)
      kept ??= makeShell(nitro)
      const shell = await kept.catch((error: unknown) => {
        kept = null
        throw error
      })
      const taken = getHeader(event, 'accept-encoding') ?? ''
      const coding = CODINGS.find(name => new RegExp(`\\b${name}\\b(?!;q=0(?:\\D|$))`).test(taken))
      setResponseHeaders(event, { ...shell.headers, link: ahead(event.path), vary: 'accept-encoding' })
      if (coding) setResponseHeader(event, 'content-encoding', coding)
      return coding ? shell[coding] : shell.plain
    }),
  )
})
