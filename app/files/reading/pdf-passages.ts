import { type Passage, passagesOfPages, type PrintedLine } from '#core/formats/passages'
import { openPdf } from '../pdf'

/** Pages that are read at most. */
const MOST_PAGES = 400

/** A PDF's passages. `told` hears which page is read. Throws when the file can't be opened, or `signal` says so. */
export async function passagesOfPdf(
  address: string,
  told: (words: string) => void,
  signal: AbortSignal,
): Promise<Passage[]> {
  const document = await openPdf(address)
  const pages: PrintedLine[][] = []
  const count = Math.min(document.numPages, MOST_PAGES)
  for (let number = 1; number <= count; number++) {
    signal.throwIfAborted()
    told(`Reading page ${number} of ${count} …`)
    const page = await document.getPage(number)
    const [, , , top = 0] = page.view
    const lines: PrintedLine[] = []
    let [text, y, size] = ['', 0, 0]
    const end = (): void => {
      if (text.trim() !== '') lines.push({ text, y, size })
      text = ''
    }
    for (const item of (await page.getTextContent()).items) {
      if (!('str' in item)) continue
      const foot = top - Number(item.transform[5])
      // Pieces of one line share its foot.
      if (text !== '' && Math.abs(foot - y) > Math.max(size, item.height) * 0.5) end()
      if (text === '') [y, size] = [foot, item.height]
      else size = Math.max(size, item.height)
      text += item.str
      if (item.hasEOL) end()
    }
    end()
    pages.push(lines)
  }
  return passagesOfPages(pages)
}
