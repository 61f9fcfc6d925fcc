import { isSafeAddress } from './address'
import type { Link } from './substance'

/*
 * Addresses that a link may lead to: web, mail (RFC 6068), a file of the tree, a topic of it, another tree or a topic
 * in that one, a place.
 */

export type Target =
  | { readonly kind: 'web'; readonly url: string }
  | { readonly kind: 'mail'; readonly to: string; readonly subject: string }
  /** `passage`: which one of it, from 0; null for all of it. */
  | { readonly kind: 'file'; readonly file: string; readonly passage: number | null }
  | { readonly kind: 'topic'; readonly topic: string }
  | { readonly kind: 'tree'; readonly tree: string; readonly topic: string | null }
  | { readonly kind: 'place'; readonly geo: string }

const ID = /^[\w-]{1,40}$/

/** Where an address leads; null when it leads nowhere safe. */
export function targetOf(url: string): Target | null {
  if (!isSafeAddress(url)) return null
  const [, scheme, rest] = /^([a-z]+):(.*)$/is.exec(url.trim())!
  switch (scheme!.toLowerCase()) {
    case 'mailto': {
      const at = new URL(url)
      return { kind: 'mail', to: decoded(at.pathname), subject: at.searchParams.get('subject') ?? '' }
    }
    case 'attachment':
      return fileTarget(rest!)
    case 'topic':
      return ID.test(rest!) ? { kind: 'topic', topic: rest! } : null
    case 'tree': {
      const [tree, topic, ...more] = rest!.split('/')
      if (!ID.test(tree!) || more.length > 0 || (topic !== undefined && !ID.test(topic))) return null
      return { kind: 'tree', tree: tree!, topic: topic ?? null }
    }
    case 'geo':
      return { kind: 'place', geo: url.trim() }
    default:
      return { kind: 'web', url }
  }
}

function fileTarget(rest: string): Target | null {
  const [, file, passage] = /^([0-9a-f]{64})(?:#p(\d{1,6}))?$/.exec(rest) ?? []
  return file === undefined ? null : { kind: 'file', file, passage: passage === undefined ? null : Number(passage) }
}
/** The address of a passage of a file of the tree. */
export const passageAddress = (file: string, at: number): string => `attachment:${file}#p${at}`
/** Which passage of a file an address leads to; null for anything else. */
export function linkPassage(url: string, file: string): number | null {
  if (!url.startsWith(`attachment:${file}#`)) return null
  const target = targetOf(url)
  return target?.kind === 'file' ? target.passage : null
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text)
  } catch {
    return text
  }
}

/** A mail address with a subject (RFC 6068: spaces as %20, never +). */
export function mailAddress(to: string, subject: string): string {
  return `mailto:${encodeURIComponent(to).replaceAll('%40', '@')}${subject.trim() ? `?subject=${encodeURIComponent(subject.trim())}` : ''}`
}

/** An address of this house, as it stands in the browser, becomes a link to a tree or a topic. */
const OWN = /^https?:\/\/[^/]+\/trees\/([\w-]{1,40})(?:\?(?:.*&)?topic=([\w-]{1,40}))?/

/**
 * What somebody typed or pasted as an address, made whole: "tannery.example/plans", "ines@porch.example", an address of
 * a tree here.
 * `origin`: where this app is served. Null when it isn't an address, or not a safe one.
 */
export function readAddress(text: string, origin = ''): string | null {
  const said = text.trim()
  if (said === '' || /\s/.test(said)) return null
  const own = OWN.exec(said)
  if (own && said.startsWith(`${origin}/`) && origin !== '')
    return own[2] ? `tree:${own[1]}/${own[2]}` : `tree:${own[1]}`
  if (/^[a-z][a-z0-9+.-]*:/i.test(said) && !/^[\w.-]+:\d+(?:\/|$)/.test(said)) return targetOf(said) ? said : null
  if (/^[^\s@/:?#]+@[^\s@/:?#]+\.[^\s@/:?#]{2,}$/.test(said)) return `mailto:${said}`
  if (!/^[^\s/?#]+\.[^\s/?#.]{2,}(?::\d+)?(?:[/?#]|$)/.test(said)) return null
  const url = `https://${said}`
  return targetOf(url) ? url : null
}

/** What a link is called when nobody gave it a name. */
export function linkInWords({ url, title }: Pick<Link, 'url' | 'title'>): string {
  if (title) return title
  const target = targetOf(url)
  if (target?.kind === 'mail') return target.subject ? `${target.to}: ${target.subject}` : target.to
  return url
    .replace(/^https?:\/\//, '')
    .replace(/[?#].*$/, '')
    .replace(/\/$/, '')
}

const ADDRESS = /(?:https?:\/\/|mailto:|www\.)[^\s<>"]+[^\s<>".,;:!?)\]]/gi

/** Addresses that stand in a text, as they are. */
export function addressesIn(text: string): string[] {
  return [...text.matchAll(ADDRESS)]
    .map(match => match[0])
    .map(one => (one.startsWith('www.') ? `https://${one}` : one))
    .filter(one => targetOf(one) !== null)
}
