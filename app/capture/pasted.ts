import { readNested, Unreadable } from '#core/capture/nested'
import { fromElsewhere, type OutlineItem } from '#core/tree'

/** What a clipboard held, and the tree it's put into. */
export interface Pasted {
  /** Branches of ours, as JSON; empty where there are none. */
  readonly own: string
  readonly html: string
  readonly text: string
  readonly tree: string
}

/** Branches that were pasted. `from`: the other tree of ours that they come from. `plain`: their words may hold details. */
export interface Branches {
  readonly items: readonly OutlineItem[]
  readonly from: string | null
  readonly plain: boolean
}

export interface Copied {
  readonly tree: string
  readonly items: readonly OutlineItem[]
}

/** Reads HTML lists; null where there are none. */
export type HtmlReader = (html: string) => readonly OutlineItem[] | null

/** Reads what was pasted: branches of ours whole, else lists of HTML, else the plain text. Throws `Unreadable`. */
export function readPasted({ own, html, text, tree }: Pasted, readHtml: HtmlReader | null): Branches {
  if (!own) return { items: (html ? readHtml?.(html) : null) ?? readNested(text), from: null, plain: true }
  try {
    const { tree: from, items } = JSON.parse(own) as Copied
    // What led inside the other tree still leads there.
    return from === tree
      ? { items, from: null, plain: false }
      : { items: fromElsewhere(items, from), from, plain: false }
  } catch (error) {
    if (error instanceof SyntaxError) throw new Unreadable('What was copied can’t be read. Nothing was changed.')
    throw error
  }
}
