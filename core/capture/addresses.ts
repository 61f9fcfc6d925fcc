import { z } from 'zod'

/** An address as people write it: "Rana Tahiri <rana@porch.example>" or alone. */
export interface Addressee {
  readonly mail: string
  readonly name: string
}
export interface Addresses {
  readonly good: readonly Addressee[]
  /** What can't be an address, as it was written. */ readonly wrong: readonly string[]
}

const mailSchema = z.email().max(254)
/** Names in quotes or plain before <…>; alone what has no white space, comma or semicolon. */
const PIECE = /(?:"([^"]*)"|([^<>,;\n"]*?))\s*<([^<>\n]*)>|[^\s,;]+/g

/**
 * Reads many addresses at once, parted by commas, semicolons, white space or lines, with or without names (the display
 * names of RFC 5322, section 3.4). Each address comes once, in lower case.
 */
export function readAddresses(text: string): Addresses {
  const good = new Map<string, Addressee>()
  const wrong = new Set<string>()
  for (const [whole, quoted, plain, bracketed] of text.matchAll(PIECE)) {
    const mail = (bracketed ?? whole).trim().toLowerCase()
    const read = mailSchema.safeParse(mail)
    if (!read.success) wrong.add(whole.trim())
    else if (!good.has(mail))
      good.set(mail, { mail, name: (quoted ?? plain ?? '').trim().toWellFormed().slice(0, 120) })
  }
  return { good: [...good.values()], wrong: [...wrong] }
}
