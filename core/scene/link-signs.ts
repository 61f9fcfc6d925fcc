import { type Target, targetOf } from '../tree/links'
import type { Attachment, Link } from '../tree/substance'

/* Signs that tell what is behind a link or a file before it's opened. */

/** What one link leads to: its sign, and words for it. */
const LINKS: Record<Target['kind'], { readonly icon: string; readonly to: string }> = {
  web: { icon: 'lucide:globe', to: 'to the web' },
  mail: { icon: 'lucide:mail', to: 'for a mail' },
  file: { icon: 'lucide:paperclip', to: 'to a file' },
  topic: { icon: 'lucide:milestone', to: 'to a topic' },
  tree: { icon: 'lucide:network', to: 'to another tree' },
  place: { icon: 'lucide:map-pinned', to: 'to a place' },
}

/** What kinds of files there are for the eye, by their media type (IANA). */
const FILES: readonly (readonly [RegExp, string, string])[] = [
  [/^image\//, 'lucide:file-image', 'a picture'],
  [/^audio\//, 'lucide:file-music', 'a recording'],
  [/^video\//, 'lucide:file-play', 'a film'],
  [/spreadsheet|ms-excel|\/csv$/, 'lucide:file-spreadsheet', 'a table'],
  [/presentation|ms-powerpoint/, 'lucide:presentation', 'slides'],
  [/\/pdf$|wordprocessing|msword|^text\//, 'lucide:file-text', 'a document'],
  [/zip|compressed|x-tar/, 'lucide:file-archive', 'an archive'],
]

export const linkIcon = ({ url }: Pick<Link, 'url'>): string => LINKS[targetOf(url)?.kind ?? 'web'].icon
const fileSign = ({ type }: Pick<Attachment, 'type'>) => FILES.find(([pattern]) => pattern.test(type))
export const fileIcon = (file: Pick<Attachment, 'type'>): string => fileSign(file)?.[1] ?? 'lucide:paperclip'

/** The one sign of several: theirs where all have the same, else what any has. */
function common(icons: readonly string[], any: string): string {
  return icons.every(icon => icon === icons[0]) ? icons[0]! : any
}

/** The sign of a topic's links and its name; there is one at least. */
export function linksSign(links: readonly Link[]): { readonly icon: string; readonly name: string } {
  return {
    icon: common(links.map(linkIcon), 'lucide:link'),
    name:
      links.length === 1
        ? `has a link ${LINKS[targetOf(links[0]!.url)?.kind ?? 'web'].to}`
        : `has ${links.length} links`,
  }
}

/** The sign of a topic's files and its name; there is one at least. */
export function filesSign(files: readonly Attachment[]): { readonly icon: string; readonly name: string } {
  const kind = fileSign(files[0]!)?.[2]
  return {
    icon: common(files.map(fileIcon), 'lucide:paperclip'),
    name: files.length === 1 ? `has a file${kind ? `, ${kind}` : ''}` : `has ${files.length} files`,
  }
}
