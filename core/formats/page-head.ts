import { Parser } from 'htmlparser2'

/*
 * What a web page says of itself in its head: its title and description (HTML Living Standard, 4.2.2 and 4.2.5.1), and what
 * pages say for cards about them (the Open Graph protocol's `og:title`, `og:description`, `og:image`; from memory).
 */

export interface PageHead {
  readonly title: string
  readonly summary: string
  /** The address of its picture, whole; null for none. */
  readonly picture: string | null
}

const MOST = { title: 300, summary: 600 } as const
/** Where a page's own words are looked for, the first that says something. */
const TITLES = ['og:title', 'twitter:title'] as const
const SUMMARIES = ['og:description', 'description', 'twitter:description'] as const
const PICTURES = ['og:image:secure_url', 'og:image', 'og:image:url', 'twitter:image'] as const

const IN_HEAD = new Set('html head title meta link script style base noscript template'.split(' '))

/** Reads a page's head; nothing behind it is looked at. `address`: where the page is, for addresses it gives in part. */
export function readPageHead(html: string, address: string): PageHead {
  const metas = new Map<string, string>()
  let base = address
  let title = ''
  let inTitle = false
  let over = false
  const parser = new Parser(
    {
      onopentag(name, attributes) {
        if (over) return
        // Anything else than a head holds begins the body (HTML Living Standard, 13.2.6.4.4).
        if (!IN_HEAD.has(name)) over = true
        else if (name === 'title') inTitle = title === ''
        else if (name === 'base' && attributes.href) base = whole(attributes.href, address) ?? address
        else if (name === 'meta') {
          const key = (attributes.property ?? attributes.name ?? '').toLowerCase()
          if (key && attributes.content && !metas.has(key)) metas.set(key, attributes.content)
        }
      },
      ontext(text) {
        if (inTitle && title.length < 4000) title += text
      },
      onclosetag(name) {
        if (name === 'title') inTitle = false
        if (name === 'head') over = true
      },
    },
    { decodeEntities: true, lowerCaseTags: true },
  )
  for (let at = 0; at < html.length && !over; at += 4096) parser.write(html.slice(at, at + 4096))
  const said = (names: readonly string[]): string => names.map(name => tidy(metas.get(name) ?? '')).find(Boolean) ?? ''
  const picture = PICTURES.map(name => metas.get(name)).find(Boolean)
  return {
    title: cut(said(TITLES) || tidy(title), MOST.title),
    summary: cut(said(SUMMARIES), MOST.summary),
    picture: picture === undefined ? null : whole(picture.trim(), base),
  }
}

const tidy = (text: string): string =>
  text
    // eslint-disable-next-line no-control-regex
    .replace(/[\u0000-\u001f\u007f\s]+/g, ' ')
    .trim()
    .toWellFormed()

function cut(text: string, most: number): string {
  if (text.length <= most) return text
  return `${text
    .slice(0, most - 1)
    .replace(/[\uD800-\uDBFF]$/, '')
    .trimEnd()}…`
}

/** A whole https address, or null. */
function whole(address: string, base: string): string | null {
  try {
    const url = new URL(address, base)
    return url.protocol === 'https:' && url.href.length <= 4000 ? url.href : null
  } catch {
    return null
  }
}
