import type { Choice } from '#core/handing/choice'
import type { Handed } from '#core/handing/handed'
import type { SlideTheme } from '#core/handing/slide-theme'
import type { HandedPictures, PagePicture } from './handed-pictures'
import type { Template } from './template'

/** What a document is made of. */
export interface DocumentAsked {
  readonly handed: Handed
  readonly choice: Choice
  readonly pictures: HandedPictures
  /** The picture of the whole, where one is wanted. */
  readonly drawn: PagePicture | null
  readonly description: string
  readonly author: string
  /** The present day, ISO 8601. */
  readonly today: string
  /** Hears of each topic that has been written. */
  readonly written?: () => void
}
export interface SlidesAsked extends DocumentAsked {
  /** What they wear; null: the tree's look. */
  readonly theme: SlideTheme | null
}
export interface WordDocumentAsked extends DocumentAsked {
  /** A document of one's own that it's written into; null: as it looks by itself. */
  readonly template: Template | null
}
