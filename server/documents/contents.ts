import { Unreadable } from '#core/capture/nested'
import type { FileContents, ShownPicture } from '#core/formats/contents'
import { contentsKindOf } from '#core/formats/contents'
import { decode } from '#core/formats/encoding'
import { blocksOfHtml } from '#core/formats/html-blocks'
import { ShownPictures } from './shown-picture'
import { isZip } from './unpack'

/* What a file holds, as it can be shown in place. Runs in a thread; what reads a kind of file is loaded when the first of it comes. */

/** Throws `Unreadable` with words for whoever wants to see it. */
export async function readContents(bytes: Uint8Array, type: string, name: string): Promise<FileContents> {
  switch (contentsKindOf({ type, name })) {
    case 'sheets':
      return { kind: 'sheets', sheets: await (await import('./read-table')).readTables(bytes, name) }
    case 'slides':
      return (await import('./read-pptx')).readPptx(bytes)
    case 'document':
      return isZip(bytes) ? wordDocument(bytes) : page(bytes)
    case null:
      throw new Unreadable('A file of this kind can’t be shown here.')
  }
}

const TOO_LONG = 'It goes on: the rest is in the file itself.'

function page(bytes: Uint8Array): FileContents {
  const { blocks, cut } = blocksOfHtml(decode(bytes).text)
  return { kind: 'document', blocks, left: cut ? [TOO_LONG] : [] }
}

async function wordDocument(bytes: Uint8Array): Promise<FileContents> {
  const { docxAsHtml } = await import('./read-docx')
  const drawing = new ShownPictures()
  // Addresses of our own for what was drawn: the page names them.
  const drawn = new Map<string, ShownPicture>()
  const { html, macros } = await docxAsHtml(
    bytes,
    async image => {
      const picture = await drawing.draw(await image.readAsBuffer(), '')
      const src = `picture-${drawn.size}`
      if (picture) drawn.set(src, picture)
      return { src: picture ? src : '' }
    },
    () => new Unreadable('This document can’t be read. Save it anew as .docx.'),
  )
  const { blocks, cut } = blocksOfHtml(html, (src, words) => {
    const picture = drawn.get(src)
    return picture ? { ...picture, words } : null
  })
  return {
    kind: 'document',
    blocks,
    left: [...(macros ? ['Its macros were left out.'] : []), ...drawing.said(), ...(cut ? [TOO_LONG] : [])],
  }
}
