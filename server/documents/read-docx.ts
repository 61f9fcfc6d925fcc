import { zipSync } from 'fflate'
import mammoth from 'mammoth'
import { Unreadable } from '#core/capture/nested'
import { readHtmlDocument, type ReadDocument } from '#core/formats/html-document'
import { isCompound, unpack } from './unpack'

/*
 * A word processor's document (ISO/IEC 29500, WordprocessingML), read by mammoth, which follows styles: headings, lists, tables, emphasis
 * and links. Runs in a thread.
 */

/** Parts that hold text and what it looks like; pictures, macros and what is embedded stay packed. */
const TEXT_PART = /^(?:\[Content_Types\]\.xml|_rels\/\.rels|word\/[\w-]+\.xml|word\/_rels\/[\w-]+\.xml\.rels)$/

/** Throws `Unreadable` with words for whoever sent it. */
export async function readDocx(bytes: Uint8Array): Promise<ReadDocument> {
  if (isCompound(bytes))
    throw new Unreadable('This is a document of the old kind (.doc), or one with a password. Save it as .docx.')
  const { parts, macros } = textParts(bytes)
  let html: string
  try {
    const read = await mammoth.convertToHtml(
      { buffer: Buffer.from(zipSync(parts, { level: 0 })) },
      {
        styleMap: ["p[style-name='Title'] => h1.title:fresh"],
        // Named where it stands, and never read.
        convertImage: mammoth.images.imgElement(() => Promise.resolve({ src: '' })),
      },
    )
    html = read.value
  } catch {
    throw broken()
  }
  const document = readHtmlDocument(html)
  return macros ? { ...document, left: [...document.left, { what: 'macro', count: 1 }] } : document
}

const broken = (): Unreadable =>
  new Unreadable('This document can’t be read. Save it anew as .docx, or as HTML. Nothing was changed.')

function textParts(bytes: Uint8Array): { parts: Record<string, Uint8Array>; macros: boolean } {
  const { parts, names } = unpack(bytes, name => TEXT_PART.test(name))
  if (!parts['word/document.xml']) throw broken()
  return { parts, macros: names.some(name => /vbaProject\.bin$/i.test(name)) }
}
