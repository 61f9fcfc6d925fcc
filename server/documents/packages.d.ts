declare module 'bidi-js' {
  export interface EmbeddingLevels {
    readonly levels: Uint8Array
    readonly paragraphs: readonly { readonly start: number; readonly end: number; readonly level: number }[]
  }
  export interface Bidi {
    getEmbeddingLevels(text: string, direction?: 'ltr' | 'rtl' | 'auto'): EmbeddingLevels
    getMirroredCharacter(character: string): string | null
  }
  export default function bidiFactory(): Bidi
}
declare module 'linebreak' {
  export default class LineBreaker {
    constructor(text: string)
    nextBreak(): { readonly position: number; readonly required: boolean } | null
  }
}

declare module 'svg-to-pdfkit' {
  /** Draws an SVG on the open page of a document. */
  export default function drawSvg(
    doc: PDFKit.PDFDocument,
    svg: string,
    x: number,
    y: number,
    options: {
      readonly width?: number
      readonly height?: number
      readonly preserveAspectRatio?: string
      readonly assumePt?: boolean
      readonly fontCallback?: (family: string, bold: boolean, italic: boolean) => string
      readonly imageCallback?: (address: string) => string
      readonly warningCallback?: (text: string) => void
    },
  ): void
}
