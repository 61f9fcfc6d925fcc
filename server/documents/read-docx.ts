import { zipSync } from 'fflate'
import mammoth from 'mammoth'
import { Unreadable } from '#core/capture/nested'
import { readHtmlDocument, type ReadDocument } from '#core/formats/html-document'
import { type DrawnFile, DrawnPictures } from './drawn-pictures'
import { isCompound, unpack } from './unpack'

/*
 * A word processor's document (ISO/IEC 29500, WordprocessingML), read by mammoth, which follows styles: headings, lists, tables, emphasis
 * and links. Runs in a thread.
 */

/** Parts that hold text and what it looks like, and pictures; macros and what is embedded stay packed. */
const WANTED =
  /^(?:\[Content_Types\]\.xml|_rels\/\.rels|word\/[\w-]+\.xml|word\/_rels\/[\w-]+\.xml\.rels|word\/media\/[\w.-]+)$/
/** Throws `Unreadable` with words for whoever sent it. */
export async function readDocx(bytes: Uint8Array): Promise<ReadDocument & { readonly pictures: readonly DrawnFile[] }> {
  if (isCompound(bytes))
    throw new Unreadable('This is a document of the old kind (.doc), or one with a password. Save it as .docx.')
  const pictures = new DrawnPictures()
  let count = 0
  const draw = async (image: InDocument): Promise<{ src: string }> => {
    const src = `picture-${count++}`
    return { src: (await pictures.draw(src, () => image.readAsBuffer())) ? src : '' }
  }
  const { html, macros } = await docxAsHtml(bytes, draw, broken)
  const document = readHtmlDocument(html, pictures.of)
  return {
    ...document,
    left: macros ? [...document.left, { what: 'macro', count: 1 }] : document.left,
    pictures: pictures.all,
  }
}

const broken = (): Unreadable =>
  new Unreadable('This document can’t be read. Save it anew as .docx, or as HTML. Nothing was changed.')

/** What mammoth hands over of a picture in a document. */
interface InDocument {
  readAsBuffer(): Promise<Buffer>
}
/**
 * A document as the page that mammoth makes of it, following styles, and whether it has macros, which stay packed. `draw` gives the address
 * that the page names for a picture, '' for none. Throws what `broken` makes.
 */
export async function docxAsHtml(
  bytes: Uint8Array,
  draw: (image: InDocument) => Promise<{ src: string }>,
  broken: () => Error,
): Promise<{ readonly html: string; readonly macros: boolean }> {
  const { parts, names } = unpack(bytes, name => WANTED.test(name))
  if (!parts['word/document.xml']) throw broken()
  try {
    const { value } = await mammoth.convertToHtml(
      { buffer: Buffer.from(zipSync(parts, { level: 0 })) },
      {
        styleMap: ["p[style-name='Title'] => h1.title:fresh"],
        // Drawn anew here: nothing but pixels comes through.
        convertImage: mammoth.images.imgElement(draw),
      },
    )
    return { html: value, macros: names.some(name => /vbaProject\.bin$/i.test(name)) }
  } catch {
    throw broken()
  }
}
