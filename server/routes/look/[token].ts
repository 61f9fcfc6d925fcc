import type { H3Event } from 'h3'
import { KINDS, type Kind } from '#core/handing/choice'
import { escapeHtml } from '#core/formats/clipboard'
import { addressOf } from '../../access/address'
import { Fault } from '../../access/fault'
import { countOpened, type GuestLink, linkOf } from '../../access/guest-links'
import { isSealed, sealed } from '../../access/hashed'
import { spend } from '../../access/tries'
import { saveAs } from '../../files/disposition'
import { lookAt } from '../../guests/look'
import { PULSE_HASH, PULSE_SCRIPT, pulseOf } from '../../guests/pulse'
import { busyPage, gonePage, wordPage } from '../../guests/look-page'

/*
 * Where a link without an account leads. The page is written here and needs no script; what isn't allowed isn't sent. A word is asked
 * for before anything of the tree is read.
 */

const TAKEN_AS: readonly Kind[] = ['docx', 'pdf', 'markdown', 'png']
/** Words that one address may try at one link in an hour, and all addresses together. */
const TRIES = 10
const TRIES_OF_ALL = 200
const COOKIE = 'sun-porch-look'

/** What is sealed into the cookie: another word, or another address, asks again. */
const proof = ({ id, tokenHash, wordHash }: GuestLink): string => `${id} ${tokenHash} ${wordHash ?? ''}`

interface How {
  /** Whether others may list the page. */
  readonly listed?: boolean
  /** Whether the page follows what it shows. */
  readonly follows?: boolean
}

function html(event: H3Event, status: number, text: string, { listed = false, follows = false }: How = {}): string {
  setResponseStatus(event, status)
  setResponseHeaders(event, {
    'content-type': 'text/html; charset=utf-8',
    'cache-control': 'no-store',
    // The address is the key: it goes nowhere but here. Without it, a form would come from nowhere, and be refused.
    'referrer-policy': 'same-origin',
    'content-security-policy': [
      "default-src 'none'; img-src data:; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'",
      ...(follows ? [`script-src ${PULSE_HASH}; connect-src 'self'`] : []),
    ].join('; '),
    ...(listed ? {} : { 'x-robots-tag': 'noindex, nofollow' }),
  })
  return text
}

async function knowsWord(event: H3Event, link: GuestLink): Promise<'yes' | 'ask' | string> {
  if (link.wordHash === null || isSealed('look', proof(link), getCookie(event, COOKIE) ?? '')) return 'yes'
  if (event.method !== 'POST') return 'ask'
  const word = new URLSearchParams((await readRawBody(event, 'utf8'))?.slice(0, 2000) ?? '').get('word') ?? ''
  const may =
    (await spend('look', `${link.id} ${addressOf(event)}`, TRIES, 3600)) &&
    (await spend('look all', link.id, TRIES_OF_ALL, 3600))
  if (!may) return 'That was tried too often. Wait an hour, then try again.'
  if (!(await verifyPassword(link.wordHash, word))) return 'That isn’t the word.'
  setCookie(event, COOKIE, sealed('look', proof(link)), {
    httpOnly: true,
    sameSite: 'lax',
    path: event.path.split('?')[0]!,
    secure: getRequestProtocol(event) === 'https',
    maxAge: 60 * 60 * 24,
  })
  return 'yes'
}

export default defineEventHandler(async event => {
  if (!['GET', 'HEAD', 'POST'].includes(event.method)) return html(event, 405, gonePage())
  const token = getRouterParam(event, 'token') ?? ''
  const found = /^[\w-]{20,64}$/.test(token) ? await linkOf(token) : null
  if (!found) return html(event, 404, gonePage())
  const { link } = found
  const word = await knowsWord(event, link)
  const query = getQuery(event)
  const isPulse = query.pulse !== undefined
  if (word !== 'yes') return html(event, word === 'ask' && !isPulse ? 200 : 403, wordPage(word === 'ask' ? '' : word))
  if (isPulse) {
    setResponseHeaders(event, { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' })
    return pulseOf(link, found)
  }
  try {
    const wanted = query.as
    const as = link.copying ? TAKEN_AS.find(kind => kind === wanted) : undefined
    if (wanted !== undefined && !as) return html(event, 404, gonePage())
    const made = await lookAt(link, found, as)
    if (!made) return html(event, 404, gonePage())
    // A page that follows what it shows was opened once.
    if (query.again === undefined) await countOpened(link.id)
    if (as) {
      setResponseHeaders(event, {
        'content-type': made.type,
        'content-disposition': saveAs(made.name),
        'cache-control': 'no-store',
        'x-robots-tag': 'noindex, nofollow',
      })
      return Buffer.from(made.bytes)
    }
    const take = link.copying
      ? `<p class="quiet">${TAKEN_AS.map(kind => `<a href="?as=${kind}" rel="nofollow">${escapeHtml(KINDS[kind].name)}</a>`).join(' · ')}</p>`
      : ''
    const page = Buffer.from(made.bytes)
      .toString()
      // Its own policy is for when it's a file; here the answer's own says more exactly what may run.
      .replace(/<meta http-equiv="content-security-policy"[^>]*>/i, '')
      .replace('</head>', link.listed ? '</head>' : '<meta name="robots" content="noindex,nofollow"></head>')
      .replace('</head>', `<meta name="pulse" content="${pulseOf(link, found)}"></head>`)
      .replace('</main>', `${take}</main>`)
      .replace('</body>', () => `<script>${PULSE_SCRIPT}</script></body>`)
    return html(event, 200, page, { listed: link.listed, follows: true })
  } catch (error) {
    if (error instanceof Fault && error.code === 'nothing') return html(event, 404, gonePage())
    if (error instanceof Fault) return html(event, 503, busyPage())
    throw error
  }
})
