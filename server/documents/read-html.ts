import { readHtmlDocument, type ReadDocument } from '#core/formats/html-document'
import { type DrawnFile, DrawnPictures } from './drawn-pictures'

/** A picture that a page holds itself (RFC 2397, in Base64): nothing else is a page's own, and nothing is fetched. */
const HELD = /\bsrc\s*=\s*(?:"(data:image\/[^"]*)"|'(data:image\/[^']*)')/gi

/** A page with the pictures that it holds itself. Throws `Unreadable` with words for whoever sent it. */
export async function readHtmlPage(html: string): Promise<ReadDocument & { readonly pictures: readonly DrawnFile[] }> {
  const pictures = new DrawnPictures()
  const seen = new Set<string>()
  for (const [, double, single] of html.matchAll(HELD)) {
    const address = (double ?? single)!
    const data = /^data:image\/[\w.+-]+(?:;[\w=-]+)*;base64,(.*)$/is.exec(address)?.[1]
    // Where the same stands twice it's one picture.
    if (data === undefined || seen.has(address)) continue
    seen.add(address)
    await pictures.draw(address, () => Promise.resolve(Buffer.from(data.replace(/\s+/g, ''), 'base64')))
  }
  return { ...readHtmlDocument(html, pictures.of), pictures: pictures.all }
}
