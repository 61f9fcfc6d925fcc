import { createHash } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import type { AddressState, CheckedAddress, LinkedPage, LinkedPages } from '#core/contract'
import { webAddresses } from '#core/formats/web-addresses'
import { Fault } from '../access/fault'
import { mustSpend } from '../access/tries'
import { database } from '../database/connect'
import { linkedPages, trees } from '../database/schema'
import { inTransaction } from '../database/transaction'
import { runJob } from '../jobs/runner'
import { readTree } from '../trees/held'
import { fetchPicture, MOST_PAGE_BYTES } from './fetch-picture'
import { fetchGuarded, NotFetched } from './guarded-fetch'
import { keepPicture } from './keep-picture'

/* Pages behind a tree's links, where its owners let them be asked. Only what a link of the tree leads to is ever asked. */

/** Pages and addresses that one person may have asked in an hour. */
const AN_HOUR = { pages: 300, addresses: 2000 } as const
/** Pages that a tree keeps. */
const MOST_PAGES = 2000
/** How long a page that had nothing to say, or didn't answer, is taken for that, ms: then it's asked once more. */
const SILENT_MS = 86_400_000
/** How long an address that is checked may take to begin, ms. */
const CHECK_PATIENCE_MS = 8000
const SIDE_BY_SIDE = 6

const digest = (address: string): string => createHash('sha256').update(address).digest('hex')

async function isOn(treeId: string): Promise<boolean> {
  const [row] = await database().select({ on: trees.pages }).from(trees).where(eq(trees.id, treeId))
  return row?.on === true
}

const shown = ({ address, title, summary, picture, at }: typeof linkedPages.$inferSelect): LinkedPage => ({
  address,
  title,
  summary,
  picture,
  at: at.toISOString(),
})

/** Whether what is kept of a page is to be gone by still. */
const counts = ({ title, summary, picture, at }: typeof linkedPages.$inferSelect): boolean =>
  title !== '' || summary !== '' || picture !== null || Date.now() - at.getTime() < SILENT_MS

export async function readPages(treeId: string): Promise<LinkedPages> {
  if (!(await isOn(treeId))) return { on: false, pages: [] }
  const rows = await database().select().from(linkedPages).where(eq(linkedPages.treeId, treeId)).limit(MOST_PAGES)
  return { on: true, pages: rows.filter(row => counts(row)).map(shown) }
}

export async function letPages(treeId: string, on: boolean): Promise<void> {
  await database().update(trees).set({ pages: on }).where(eq(trees.id, treeId))
  if (!on) await database().delete(linkedPages).where(eq(linkedPages.treeId, treeId))
}

/** The tree's web addresses. Throws `pages-off` where nobody lets them be asked. */
async function addressesOf(treeId: string, version: number, epoch: string): Promise<ReadonlySet<string>> {
  if (!(await isOn(treeId)))
    throw new Fault(403, 'pages-off', 'The owners of this tree haven’t let pages behind its links be asked.')
  const item = await readTree(treeId, version, epoch)
  return new Set(item ? webAddresses(item.tree).map(({ address }) => address) : [])
}

const asking = new Map<string, Promise<LinkedPage>>()

/** What a page says of itself: as it's kept, else asked, once for all who want it at that moment. Throws `pages-off` or `no-link`. */
export async function lookAtPage(
  at: { readonly treeId: string; readonly version: number; readonly epoch: string },
  person: string,
  address: string,
  again: boolean,
): Promise<LinkedPage> {
  const { treeId } = at
  const before = again ? null : await keptPage(treeId, address)
  if (before) return before
  const addresses = await addressesOf(treeId, at.version, at.epoch)
  if (!addresses.has(address)) throw new Fault(404, 'no-link', 'No link of this tree leads there.')
  const key = `${treeId} ${address}`
  let under = asking.get(key)
  if (!under) {
    // Nothing is awaited between the look and this: of many at once one asks.
    under = askOnce(treeId, person, address, again).finally(() => asking.delete(key))
    asking.set(key, under)
  }
  return under
}

async function keptPage(treeId: string, address: string): Promise<LinkedPage | null> {
  const [kept] = await database()
    .select()
    .from(linkedPages)
    .where(and(eq(linkedPages.treeId, treeId), eq(linkedPages.id, digest(address))))
  return kept && counts(kept) ? shown(kept) : null
}

async function askOnce(treeId: string, person: string, address: string, again: boolean): Promise<LinkedPage> {
  // Somebody may have asked between this one's look and its turn.
  const kept = again ? null : await keptPage(treeId, address)
  if (kept) return kept
  await mustSpend('pages', person, AN_HOUR.pages, 3600)
  return ask(treeId, person, address)
}

async function ask(treeId: string, person: string, address: string): Promise<LinkedPage> {
  const said = await headOf(person, address)
  const picture = said?.picture ? await pictureOf(treeId, person, said.picture) : null
  const row = {
    treeId,
    id: digest(address),
    address,
    title: said?.title ?? '',
    summary: said?.summary ?? '',
    picture,
    at: new Date(),
  }
  // The owners may have turned it off while the page was on its way.
  if (await isOn(treeId)) {
    const { treeId: _, id: __, ...set } = row
    await inTransaction(tx => tx.insert(linkedPages).values(row).onDuplicateKeyUpdate({ set }))
  }
  return shown(row)
}

/** Null where there is no page to be had. */
async function headOf(person: string, address: string) {
  try {
    const {
      data,
      type,
      address: end,
    } = await fetchGuarded(address, { accept: 'text/html', mostBytes: MOST_PAGE_BYTES, cut: true, redirects: 4 })
    if (!/^(?:text\/html|application\/xhtml\+xml)\b/.test(type)) return null
    return await runJob('pageHead', { bytes: data, type, address: end }, { person })
  } catch (error) {
    if (error instanceof NotFetched || (error instanceof Fault && error.status < 500 && error.status !== 429))
      return null
    // That too much is asked at once says nothing of the page: it isn't kept.
    throw error
  }
}

/** The picture as a file of the tree, drawn anew; null where it can't be had. */
async function pictureOf(treeId: string, person: string, address: string): Promise<string | null> {
  try {
    return (await keepPicture(treeId, person, await fetchPicture(address, person))).id
  } catch (error) {
    if (error instanceof Fault && error.status < 500) return null
    throw error
  }
}

/** Whether addresses of the tree answer. Throws `pages-off`, `no-link` or `slowed`. */
export async function checkAddresses(
  at: { readonly treeId: string; readonly version: number; readonly epoch: string },
  person: string,
  wanted: readonly string[],
): Promise<CheckedAddress[]> {
  const addresses = await addressesOf(at.treeId, at.version, at.epoch)
  const asked = [...new Set(wanted)]
  if (asked.some(address => !addresses.has(address)))
    throw new Fault(404, 'no-link', 'No link of this tree leads there.')
  const checked: CheckedAddress[] = []
  const left = asked.values()
  const work = async (): Promise<void> => {
    for (const address of left) {
      await mustSpend('addresses', person, AN_HOUR.addresses, 3600)
      checked.push({ address, ...(await stateOf(address)) })
    }
  }
  await Promise.all(Array.from({ length: SIDE_BY_SIDE }, work))
  return checked.sort((a, b) => asked.indexOf(a.address) - asked.indexOf(b.address))
}

async function stateOf(address: string): Promise<{ is: AddressState; status: number | null }> {
  try {
    await fetchGuarded(address, {
      ...{ accept: '*/*', mostBytes: 1024, cut: true, redirects: 8, plain: true, patienceMs: CHECK_PATIENCE_MS },
    })
    return { is: 'there', status: 200 }
  } catch (error) {
    if (!(error instanceof NotFetched)) throw error
    const { why, status } = error
    if (why === 'status') {
      // Not found and gone (RFC 9110, 15.5.5 and 15.5.11) are gone; other answers are of somebody who is there.
      if (status === 404 || status === 410) return { is: 'gone', status }
      if (status !== null && status >= 400 && status < 500) return { is: 'closed', status }
      return { is: status !== null && status < 300 ? 'there' : 'silent', status }
    }
    if (why === 'redirects') return { is: 'elsewhere', status }
    return { is: why === 'inward' || why === 'scheme' ? 'closed' : 'silent', status }
  }
}
