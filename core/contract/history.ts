import type { Role } from '../access/roles'
import type { Happening } from '../history/happenings'
import type { Sitting } from '../history/sittings'
import type { EditSource } from './live'

/** Sittings of a tree, newest first. */
export interface SittingPage {
  readonly sittings: readonly Sitting[]
  /** The number before which older ones are asked for; null: these are the oldest. */
  readonly next: number | null
  /** The number of the newest edit. */
  readonly version: number
  /** One's own role now. */
  readonly role: Role
  /** Who is in them, by id; those too who have left. */
  readonly names: Readonly<Record<string, string>>
}

/** What was said between edits. */
export interface SaidThen {
  readonly number: number
  readonly by: string
  /** ISO 8601 instant. */
  readonly at: string
  readonly what: 'said' | 'settled' | 'opened again'
  /** The topic that it was said on; null in the talk of the tree. */
  readonly topic: { readonly id: string; readonly title: string } | null
  /** How it begins; empty where it was withdrawn. */
  readonly words: string
}

/** One edit in words. */
export interface ToldEdit {
  readonly number: number
  readonly by: string
  /** ISO 8601 instant. */
  readonly at: string
  readonly source?: EditSource
  readonly happenings: readonly Happening[]
  /** Happenings beyond those told. */
  readonly more: number
}
