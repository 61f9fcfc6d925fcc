import type { Intent } from '../tree/meeting'
import type { Arrangement } from '../tree/fields'

/**
 * What a new tree can begin from. `lines`: nested by two spaces; after `//` plain words give details, dates counted
 * from the day it's used.
 */
export interface Starter {
  readonly id: string
  readonly name: string
  readonly purpose: string
  readonly arrangement: Arrangement
  readonly look: string
  readonly lines: string
  /** Branches that are meetings, by title; null for the centre. */
  readonly meetings?: readonly StarterMeeting[]
  readonly measures?: StarterMeasures
}

/** What its figures are measured in. */
export interface StarterMeasures {
  readonly of: readonly { readonly name: string; readonly decimals: number; readonly rollUp: 'sum' | 'none' }[]
  /** The centre's figure in the first measure: main branches by title, added or taken off. */
  readonly centre?: readonly { readonly sign: '+' | '−'; readonly of: string }[]
  /** The main branch whose topics are chosen among, by all the measures. */
  readonly choice?: string
}

export interface StarterMeeting {
  readonly title: string | null
  readonly musts: readonly string[]
  /** Agenda items among its branches, by title. `serves`: which of the musts, from 0. */
  readonly items: readonly {
    readonly title: string
    readonly intent: Intent
    readonly minutes: number
    readonly serves: readonly number[]
    readonly pattern: readonly string[]
  }[]
}
