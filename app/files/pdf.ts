import type { PDFDocumentProxy } from 'pdfjs-dist'

/*
 * PDF files are drawn page by page onto a canvas, parts of the file being fetched as they are needed. Nothing in them
 * is run: no scripts, no forms, no links.
 */

const open = new Map<string, Promise<PDFDocumentProxy>>()
/** Documents kept open at a time. */
const MOST = 6

export async function openPdf(address: string): Promise<PDFDocumentProxy> {
  const known = open.get(address)
  if (known) return known
  const opening = (async () => {
    const pdf = await import('pdfjs-dist')
    pdf.GlobalWorkerOptions.workerSrc = (await import('pdfjs-dist/build/pdf.worker.min.mjs?url')).default
    return pdf.getDocument({
      url: address,
      isEvalSupported: false,
      enableXfa: false,
      disableAutoFetch: true,
      disableStream: true,
      rangeChunkSize: 256 * 1024,
      useWasm: false,
      useWorkerFetch: false,
    }).promise
  })()
  open.set(address, opening)
  opening.catch(() => open.delete(address))
  if (open.size > MOST) {
    const [oldest, document] = open.entries().next().value!
    open.delete(oldest)
    document.then(
      one => one.destroy(),
      () => {},
    )
  }
  return opening
}

/** Draws a page as wide as given, in CSS pixels. */
export async function drawPage(
  document: PDFDocumentProxy,
  number: number,
  canvas: HTMLCanvasElement,
  width: number,
): Promise<void> {
  const page = await document.getPage(number)
  const ratio = window.devicePixelRatio || 1
  const natural = page.getViewport({ scale: 1 })
  const viewport = page.getViewport({ scale: (width / natural.width) * ratio })
  canvas.width = Math.floor(viewport.width)
  canvas.height = Math.floor(viewport.height)
  canvas.style.width = `${width}px`
  canvas.style.height = `${viewport.height / ratio}px`
  await page.render({ canvas, viewport, annotationMode: 0 }).promise
}
