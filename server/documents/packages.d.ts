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
