import { z } from 'zod'
import { colour, fileId, id, whole, words } from './atoms'
import { orderKey } from './order-key'
import { isSafeAddress } from './address'

/*
 * What hangs on a topic besides its words: links, files, a checklist, a place, a sketch, cross-links to other topics,
 * and what it may be: a branch with an annex, or a reference to another topic.
 */

export const linkSchema = z.strictObject({
  id,
  url: words(4000).refine(isSafeAddress, 'must be a web, mail, file, topic or tree address'),
  title: words(500),
})
export type Link = Readonly<z.infer<typeof linkSchema>>

/** A name that can't lead out of a folder: no slash either way, no control character, and not dots alone. */
export function isPlainFileName(name: string): boolean {
  return (
    name.trim() !== '' && name.length <= 200 && !/[/\\\p{Cc}\p{Cf}]/u.test(name) && !/^\.+$/.test(name) && whole(name)
  )
}

/**
 * A file of the tree as it hangs on a topic. `preview`: a picture of it that was drawn here, with its height over its
 * width.
 */
export const attachmentSchema = z.strictObject({
  id,
  file: fileId,
  name: z.string().refine(isPlainFileName, 'must be a file name of 200 characters at most, without slashes'),
  /** Media type as its bytes say, not as its name does. */
  type: z.string().regex(/^[\w.+-]{1,60}\/[\w.+-]{1,80}$/),
  /** Bytes. */
  size: z.int().min(0),
  preview: z.strictObject({ file: fileId, ratio: z.number().min(0.01).max(100) }).nullable(),
})
export type Attachment = Readonly<z.infer<typeof attachmentSchema>>

/** One line of a topic's checklist. */
export const checkSchema = z.strictObject({
  id,
  order: orderKey,
  text: words(1000),
  done: z.boolean(),
  due: z.iso.date().nullable(),
  /** 1 (most urgent) to 5. */
  priority: z.int().min(1).max(5).nullable(),
})
export type Check = Readonly<z.infer<typeof checkSchema>>

export const TIE_ENDS = ['none', 'to', 'from', 'both'] as const

/**
 * A cross-link, kept with the topic it starts from. `bend`: how far its middle stands from halfway between the two, in
 * canvas units.
 */
export const tieSchema = z.strictObject({
  id,
  to: id,
  label: words(200),
  ends: z.enum(TIE_ENDS),
  bend: z.strictObject({ x: z.number().min(-1e5).max(1e5), y: z.number().min(-1e5).max(1e5) }).nullable(),
  hue: colour.nullable(),
})
export type Tie = Readonly<z.infer<typeof tieSchema>>

/** A place by name, by coordinates (WGS 84, degrees), or both. */
export const placeSchema = z
  .strictObject({
    name: words(200),
    lat: z.number().min(-90).max(90).nullable(),
    lon: z.number().min(-180).max(180).nullable(),
  })
  .refine(place => (place.lat === null) === (place.lon === null), 'must have both coordinates or none')
  .refine(place => place.name.trim() !== '' || place.lat !== null, 'must have a name or coordinates')
export type Place = Readonly<z.infer<typeof placeSchema>>

/** The topic that is shown instead of this one's own words; `tree` is null when it's in the same tree. */
export const referenceSchema = z.strictObject({ tree: id.nullable(), topic: id })
export type Reference = Readonly<z.infer<typeof referenceSchema>>

export const NUMBER_SCHEMES = ['figures', 'letters', 'roman'] as const
export type NumberScheme = (typeof NUMBER_SCHEMES)[number]

/** How what hangs from a topic is numbered, and how many levels of it. */
export const numberingSchema = z.strictObject({ scheme: z.enum(NUMBER_SCHEMES), levels: z.int().min(1).max(9) })
export type Numbering = Readonly<z.infer<typeof numberingSchema>>

/** Members that have an order, such as the lines of a checklist, in it; equal keys are ordered by id. */
export function inOrder<T extends { readonly order: string; readonly id: string }>(members: readonly T[]): T[] {
  return [...members].sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1))
}
