/** What a notice offers besides its words. `holds`: whether it can be done still; the offer goes away when not. */
export interface Offer {
  readonly name: string
  readonly run: () => void
  readonly holds?: () => boolean
  /** Another way out, beside it. */
  readonly also?: Offer | null
}
