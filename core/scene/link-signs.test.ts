import lucide from '@iconify-json/lucide/icons.json'
import { describe, expect, it } from 'vitest'
import { fileIcon, filesSign, linkIcon, linksSign } from './link-signs'

const link = (url: string) => ({ id: url, url, title: '' })
const file = (type: string) => ({ id: type, file: 'a'.repeat(64), name: 'x', type, size: 1, preview: null })
const ALL = [
  'https://x.example',
  'mailto:a@b.example',
  `attachment:${'a'.repeat(64)}`,
  'topic:t',
  'tree:t/u',
  'geo:1,2',
]
// Media types as IANA has them registered.
const TYPES = [
  'image/webp',
  'audio/mpeg',
  'video/mp4',
  'text/csv',
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  'application/pdf',
  'application/zip',
  'application/octet-stream',
]

describe('what is behind a link or a file', () => {
  it('has a sign of its own, each another, that the icons have', () => {
    const signs = ALL.map(url => linkIcon({ url }))
    expect(new Set(signs).size).toBe(ALL.length)
    for (const sign of [...signs, ...TYPES.map(type => fileIcon({ type }))])
      expect(lucide.icons).toHaveProperty(sign.replace('lucide:', ''))
  })
  it('is that of all where they are of one kind, and a plain one where they differ', () => {
    expect(linksSign([link('mailto:a@b.example')])).toEqual({ icon: 'lucide:mail', name: 'has a link for a mail' })
    expect(linksSign([link('topic:a'), link('topic:b')])).toEqual({ icon: 'lucide:milestone', name: 'has 2 links' })
    expect(linksSign([link('topic:a'), link('https://x.example')]).icon).toBe('lucide:link')
    // What leads nowhere safe isn't opened; it looks like the web.
    expect(linkIcon({ url: 'javascript:alert(1)' })).toBe('lucide:globe')
  })
  it('tells a table, a document, slides, a picture, a recording from each other', () => {
    expect(TYPES.map(type => filesSign([file(type)]).name)).toEqual([
      'has a file, a picture',
      'has a file, a recording',
      'has a file, a film',
      'has a file, a table',
      'has a file, a table',
      'has a file, slides',
      'has a file, a document',
      'has a file, a document',
      'has a file, an archive',
      'has a file',
    ])
    expect(filesSign([file('application/pdf'), file('application/msword')])).toEqual({
      icon: 'lucide:file-text',
      name: 'has 2 files',
    })
    expect(filesSign([file('application/pdf'), file('image/png')]).icon).toBe('lucide:paperclip')
  })
})
