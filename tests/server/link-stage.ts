import { expect, inject } from 'vitest'
import { noteFromMarkdown } from '../../core/formats/note-text'
import { type Caller, signUp } from '../caller'

/* What stands behind a link: a tree, and ways to look at it as somebody without an account does. */

export const url = inject('url')
let ines: Caller
let tree: string

export interface Looked {
  readonly status: number
  readonly text: string
  readonly headers: Headers
  readonly bytes: Buffer
}
export async function look(address: string, init: RequestInit & { cookie?: string } = {}): Promise<Looked> {
  const response = await fetch(url + address, {
    redirect: 'manual',
    ...init,
    headers: { ...(init.cookie ? { cookie: init.cookie } : {}), ...(init.headers as Record<string, string>) },
  })
  const bytes = Buffer.from(await response.arrayBuffer())
  return { status: response.status, text: bytes.toString(), headers: response.headers, bytes }
}
export const say = (address: string, word: string, more: Record<string, string> = {}): Promise<Looked> =>
  look(address, { method: 'POST', body: new URLSearchParams({ word }), headers: { origin: url, ...more } })
export const settings = { part: { kind: 'branch', topic: 'lift' }, with: ['notes', 'tasks', 'numbers'] }
/** A link to the lift of the tree, or of another. */
export async function link(more: object = {}, caller = ines, at = tree): Promise<{ id: string; address: string }> {
  const { status, data } = await caller.call<{ id: string; address: string }>('POST', `/api/trees/${at}/links`, {
    ...settings,
    ...more,
  })
  expect(status).toBe(200)
  return data
}

/** One tree with a lift, and something that nobody outside is to see. */
export async function laidOut(): Promise<{ ines: Caller; tree: string }> {
  ines = await signUp(url, 'Ines Brandt')
  tree = await ines.makeTree('Move to the tannery')
  const { centre } = (await ines.open(tree)).snapshot
  const add = (topic: string, parent: string, order: string, more: object) => ({
    op: 'add' as const,
    topic,
    parent,
    order,
    with: more,
  })
  await ines.edit(tree, [
    add('fitout', centre, 'a0', { title: 'Fit-out' }),
    add('lift', 'fitout', 'a0', {
      title: 'Lift <script>alert(1)</script>',
      note: noteFromMarkdown('Measured twice'),
      people: [ines.id],
      due: '2027-05-12',
      links: [{ id: 'l', url: 'https://secret.example/', title: 'Hidden away' }],
    }),
    add('bolts', 'lift', 'a0', { title: 'Bolts' }),
    add('sizes', 'bolts', 'a0', { title: 'M8 and M10' }),
    add('salary', centre, 'a1', { title: 'What we pay the caretaker' }),
  ] as never)
  return { ines, tree }
}

/** Sends a form of a page, as a browser does. */
export async function form(
  address: string,
  fields: Record<string, string>,
  { at = 'bolts', cookie }: { at?: string; cookie?: string } = {},
): Promise<Looked & { readonly location: string; readonly cookie: string }> {
  const sent = await look(`${address}?at=${at}`, {
    method: 'POST',
    body: new URLSearchParams(fields),
    headers: { origin: url },
    ...(cookie ? { cookie } : {}),
  })
  const kept = sent.headers.getSetCookie().find(one => one.startsWith('sun-porch-guest='))
  return { ...sent, location: sent.headers.get('location') ?? '', cookie: kept?.split(';')[0] ?? '' }
}
export interface Sitting {
  readonly people: readonly { readonly by: string }[]
}
/** The branch “Lift” with “Bolts” and “Sizes” under it, anew for each test. */
export async function branch(more: object = {}): Promise<{ id: string; address: string; tree: string }> {
  const id = await ines.makeTree('Move to the tannery')
  const { centre } = (await ines.open(id)).snapshot
  const add = (topic: string, parent: string, order: string, title: string, rest: object = {}) =>
    ({ op: 'add', topic, parent, order, with: { title, ...rest } }) as const
  await ines.edit(id, [
    add('lift', centre, 'a0', 'Lift'),
    add('bolts', 'lift', 'a0', 'Bolts', { done: 0 }),
    add('sizes', 'lift', 'a1', 'Sizes'),
    add('salary', centre, 'a1', 'What we pay the caretaker'),
  ] as never)
  return { ...(await link(more, ines, id)), tree: id }
}
export const titles = async (id: string): Promise<string[]> =>
  (await ines.open(id)).snapshot.topics.flatMap(({ title, removed }) => (removed ? [] : [title ?? '']))
