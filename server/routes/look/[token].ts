import type { H3Event } from 'h3'
import { KINDS, type Kind } from '#core/handing/choice'
import { escapeHtml } from '#core/formats/clipboard'
import { showsTopic } from '#core/access/by-link'
import { addressOf } from '../../access/address'
import { rawBody } from '../../access/answer'
import { Fault } from '../../access/fault'
import { countOpened, type FoundLink, type GuestLink, linkOf } from '../../access/guest-links'
import { isSealed, sealed } from '../../access/hashed'
import { spend } from '../../access/tries'
import { saveAs } from '../../files/disposition'
import { type Deed, deedSchema, doDeed, guestOf, treeOf, wordsIn } from '../../guests/deeds'
import { type DeedAsked, deedPage } from '../../guests/deed-page'
import { FRAME_HASH, framed } from '../../guests/frame'
import { actOf, lookAt } from '../../guests/look'
import { nameGuest, namedGuest } from '../../guests/named'
import { PULSE_HASH, PULSE_SCRIPT, pulseOf } from '../../guests/pulse'
import { busyPage, gonePage, missingPage, wordPage } from '../../guests/look-page'

/*
 * Where a link without an account leads. The page is written here and needs no script; what isn't allowed isn't sent. A word is asked
 * for before anything of the tree is read.
 */

const TAKEN_AS: readonly Kind[] = ['docx', 'pdf', 'markdown', 'png']
/** Words that one address may try at one link in an hour, and all addresses together. */
const TRIES = 10
const TRIES_OF_ALL = 200
/** Bytes of a form, and what one address may do at one link in ten minutes. */
const MOST_FORM = 200_000
const DEEDS = 200
const COOKIE = 'sun-porch-look'

/** What is sealed into the cookie: another word, or another address, asks again. */
const proof = ({ id, tokenHash, wordHash }: GuestLink): string => `${id} ${tokenHash} ${wordHash ?? ''}`

interface How {
  /** Whether others may list the page. */
  readonly listed?: boolean
  /** The one script that may run, by its hash. */
  readonly script?: string
  /** Sites that may show it in a frame. */
  readonly hosts?: readonly string[]
}

function html(event: H3Event, status: number, text: string, { listed = false, script, hosts = [] }: How = {}): string {
  setResponseStatus(event, status)
  setResponseHeaders(event, {
    'content-type': 'text/html; charset=utf-8',
    'cache-control': 'no-store',
    // The address is the key: it goes nowhere but here. Without it, a form would come from nowhere, and be refused.
    'referrer-policy': 'same-origin',
    'content-security-policy': [
      `default-src 'none'; img-src data:; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors ${hosts.length > 0 ? hosts.join(' ') : "'none'"}; base-uri 'none'`,
      ...(script ? [`script-src ${script}; connect-src 'self'`] : []),
    ].join('; '),
    ...(listed ? {} : { 'x-robots-tag': 'noindex, nofollow' }),
  })
  if (hosts.length > 0) {
    // Older than `frame-ancestors`, and knows no list.
    removeResponseHeader(event, 'x-frame-options')
    setResponseHeader(event, 'cross-origin-resource-policy', 'cross-origin')
  }
  return text
}

/** What was sent by a form; nothing but short fields is read. */
async function formOf(event: H3Event): Promise<Record<string, string>> {
  if (event.method !== 'POST') return {}
  return Object.fromEntries(new URLSearchParams((await rawBody(event, MOST_FORM)).toString('utf8')))
}

async function knowsWord(
  event: H3Event,
  link: GuestLink,
  form: Record<string, string>,
): Promise<'yes' | 'ask' | string> {
  if (link.wordHash === null || isSealed('look', proof(link), getCookie(event, COOKIE) ?? '')) return 'yes'
  if (form.word === undefined) return 'ask'
  const word = form.word.slice(0, 200)
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

/** What was said of the last thing that was done, and the way to undo it: in sight wherever the page begins. */
function strip({ did, said, t }: Record<string, unknown>): string {
  if (said === undefined && did === undefined) return ''
  const undo =
    /^\d{1,9}$/.test(String(did)) && /^[\w-]{1,40}$/.test(String(t))
      ? `<form method="post" action="?at=${t}"><input type="hidden" name="do" value="undo"><input type="hidden" name="edit" value="${did}"><button>Undo</button></form>`
      : ''
  return `<div class="strip"><p role="status">${said === undefined ? 'Kept.' : 'It was said.'}</p>${undo}</div>`
}

const STRIP_STYLE = `<style>
.strip{position:sticky;top:0;display:flex;gap:1rem;align-items:center;background:var(--plank);border-left:4px solid #f0b43c;box-shadow:0 1px 4px #0003;padding:.2rem .9rem}
.strip p{margin:.4rem 0}
.strip button{font:inherit;font-weight:600;min-height:44px;padding:0 1rem;border:1px solid var(--line);background:none;color:var(--porch);cursor:pointer}
.topic{scroll-margin-top:5rem}
</style>`

/** The page of one topic, where a guest acts. */
async function deedAnswer(
  event: H3Event,
  found: FoundLink,
  at: string,
  form: Record<string, string>,
): Promise<string | null> {
  const { link } = found
  if (link.may === 'look') return html(event, 404, gonePage())
  const named = await namedGuest(event, link)
  const guest = await guestOf(found, named ?? { id: '', name: '' })
  const show = async (status: number, more: Pick<DeedAsked, 'deed' | 'wrong'> = {}): Promise<string> => {
    const now = await treeOf(found)
    // What isn't on the page isn't there for a guest, whatever they ask for.
    if (!showsTopic(guest, at, now))
      return html(event, 404, missingPage(more.wrong ?? 'This topic isn’t shown here.', wordsIn(more.deed ?? {})))
    return html(event, status, deedPage({ tree: now, at, guest, name: named?.name ?? '', ...more }))
  }
  // Whoever was asked for the word just now has sent that and nothing else.
  if (event.method !== 'POST' || form.word !== undefined) return show(200)
  const read = deedSchema.safeParse(form)
  if (!read.success) return show(422, { wrong: 'That couldn’t be read. Nothing was changed.' })
  try {
    if (!(await spend('deed', `${link.id} ${addressOf(event)}`, DEEDS, 600)))
      throw new Fault(429, 'slowed', 'That was much at once. Wait a minute, then send it again.')
    const who = named ?? (await nameGuest(event, link, read.data.name))
    const came = await doDeed(found, { ...guest, id: who.id }, at, read.data)
    const query = came.edit === null ? (came.said ? 'said' : 'did') : `did=${came.edit}&t=${came.at}`
    setResponseHeader(event, 'location', `?${query}#t-${came.at}`)
    return html(event, 303, '')
  } catch (error) {
    if (!(error instanceof Fault)) throw error
    if (error.code === 'no-tree' || error.code === 'no-link') return html(event, 404, gonePage(wordsIn(read.data)))
    // The form comes anew with what others wrote as its beginning, and one's own still in the field.
    const isRest = (error.details as { rest?: string } | undefined)?.rest === 'kept'
    return show(error.status, { deed: isRest ? { do: 'keep', text: read.data.text } : read.data, wrong: error.message })
  }
}

export default defineEventHandler(async event => {
  if (!['GET', 'HEAD', 'POST'].includes(event.method)) return html(event, 405, gonePage())
  let form: Record<string, string>
  try {
    form = await formOf(event)
  } catch (error) {
    if (error instanceof Fault) return html(event, error.status, busyPage())
    throw error
  }
  const token = getRouterParam(event, 'token') ?? ''
  const found = /^[\w-]{20,64}$/.test(token) ? await linkOf(token) : null
  const written = wordsIn(form as Partial<Deed>)
  if (!found) return html(event, 404, gonePage(written))
  const { link } = found
  const word = await knowsWord(event, link, form)
  const query = getQuery(event)
  const isPulse = query.pulse !== undefined
  if (word !== 'yes')
    return html(event, word === 'ask' && !isPulse ? 200 : 403, wordPage(word === 'ask' ? '' : word, written))
  if (isPulse) {
    setResponseHeaders(event, { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' })
    return pulseOf(link, found)
  }
  try {
    if (typeof query.at === 'string') return await deedAnswer(event, found, query.at, form)
    const wanted = query.as
    const as = link.copying ? TAKEN_AS.find(kind => kind === wanted) : undefined
    if (wanted !== undefined && !as) return html(event, 404, gonePage())
    const inFrame = query.frame !== undefined
    if (inFrame && link.hosts.length === 0) return html(event, 404, gonePage())
    const act = inFrame ? '' : actOf(link)
    const made = await lookAt(found, as, act)
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
    const page = Buffer.from(made.bytes)
      .toString()
      // Its own policy is for when it's a file; here the answer's own says more exactly what may run.
      .replace(/<meta http-equiv="content-security-policy"[^>]*>/i, '')
      .replace('</head>', link.listed ? '</head>' : '<meta name="robots" content="noindex,nofollow"></head>')
      .replace('</head>', `<meta name="pulse" content="${pulseOf(link, found)}"></head>`)
    if (inFrame) return html(event, 200, framed(page), { script: FRAME_HASH, hosts: link.hosts, listed: link.listed })
    const take = link.copying
      ? `<p class="quiet">${TAKEN_AS.map(kind => `<a href="?as=${kind}" rel="nofollow">${escapeHtml(KINDS[kind].name)}</a>`).join(' · ')}</p>`
      : ''
    const told = strip(query)
    const whole = page
      .replace('<main>', () => (told ? `${STRIP_STYLE}<main>${told}` : '<main>'))
      .replace('</main>', `${take}</main>`)
      .replace('</body>', () => `<script>${PULSE_SCRIPT}</script></body>`)
    return html(event, 200, whole, { listed: link.listed, script: PULSE_HASH })
  } catch (error) {
    if (error instanceof Fault && error.code === 'nothing') return html(event, 404, gonePage(written))
    if (error instanceof Fault) return html(event, 503, busyPage(written))
    throw error
  }
})
