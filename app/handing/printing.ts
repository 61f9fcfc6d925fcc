import type { Choice } from '#core/handing/choice'
import type { MadeFile } from './making'

export const PAPERS = ['A4', 'Letter'] as const
export type Paper = (typeof PAPERS)[number]
export interface PrintAsked {
  readonly paper: Paper
  /** Without colours: what they say is said by words and lines too. */
  readonly grey: boolean
}

/** What is made to be printed of a choice: a picture stays one, whatever else is a page with everything open. */
export function printable(choice: Choice, isPicture: boolean): Choice {
  // A printer that lacks the fonts gets the letters as shapes; paper is white.
  return isPicture
    ? { ...choice, as: 'svg', dusk: false, clear: true, shapes: true }
    : { ...choice, as: 'html', with: choice.with.filter(what => what !== 'files') }
}

const NORTH_AMERICA = /-(?:US|CA|MX|PH|CO|CL|VE)$/
/** The paper that lies in printers where somebody is. */
export const paperOf = (locale: string): Paper => (NORTH_AMERICA.test(locale) ? 'Letter' : 'A4')

const style = ({ paper, grey }: PrintAsked, landscape: boolean): string =>
  `<style>@page{size:${paper === 'A4' ? 'A4' : 'letter'} ${landscape ? 'landscape' : 'portrait'};margin:14mm}` +
  `${grey ? 'html{filter:grayscale(1) contrast(1.25)}*{color:#000!important;border-color:#000!important}' : ''}</style>`

/** A document to be printed, of what was made: on the paper that was asked for, a picture as large as it goes on one sheet. */
export async function printDocument({ blob }: MadeFile, asked: PrintAsked): Promise<string> {
  const text = await blob.text()
  if (!blob.type.startsWith('image/')) return text.replace('</head>', () => `${style(asked, false)}</head>`)
  const [, width, height] = /<svg[^>]*\bwidth="([\d.]+)"[^>]*\bheight="([\d.]+)"/.exec(text) ?? []
  const wide = Number(width ?? 1) > Number(height ?? 1)
  const address = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`
  return (
    `<!doctype html><html><head><meta charset="utf-8">${style(asked, wide)}` +
    `<style>html,body{margin:0;height:100%}img{display:block;width:100%;height:100vh;object-fit:contain}</style></head>` +
    `<body><img alt="" src="${address}"></body></html>`
  )
}

/** How long a frame is kept for a browser that doesn't say when it has printed, ms. */
const KEPT_MS = 120_000

/** Hands a document to the browser's own printing, which shows it first. Nothing in it runs. */
export function printInFrame(html: string): Promise<void> {
  return new Promise((done, failed) => {
    const frame = document.createElement('iframe')
    frame.className = 'visually-hidden'
    frame.title = 'What is printed'
    frame.tabIndex = -1
    frame.setAttribute('aria-hidden', 'true')
    frame.setAttribute('sandbox', 'allow-same-origin allow-modals')
    frame.addEventListener('load', () => {
      const inner = frame.contentWindow
      if (!inner) return
      inner.addEventListener('afterprint', () => frame.remove())
      setTimeout(() => frame.remove(), KEPT_MS)
      try {
        inner.print()
        done()
      } catch {
        failed(new Error('This browser doesn’t let the page print. Save it as a PDF instead.'))
      }
    })
    frame.srcdoc = html
    document.body.append(frame)
  })
}
