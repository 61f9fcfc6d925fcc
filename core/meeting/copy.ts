import type { BriefPart, Entry, ItemPart } from '../tree/meeting'

/** What a copy of a meeting takes along. */
export interface MeetingChoice {
  readonly people: boolean
  readonly progress: boolean
  /** Where a day goes in the copy; null leaves days behind. */
  readonly moved: (day: string) => string | null
}

/**
 * The parts of a brief in a copy. Nobody was invited to it; without progress it's a plan, without people nobody is
 * asked.
 */
export function briefInCopy(parts: readonly BriefPart[], { people, progress, moved }: MeetingChoice): BriefPart[] {
  return parts.flatMap((part): BriefPart[] => {
    switch (part.kind) {
      case 'invitation':
        return []
      case 'outcome':
        return progress ? [part] : []
      case 'run':
      case 'stage':
        return progress ? [part] : part.kind === 'stage' ? [{ ...part, stage: 'planned' }] : []
      case 'answer':
      case 'attendance':
        return progress && people ? [part] : []
      case 'person':
        return people ? [part] : []
      case 'line':
        return [people ? part : { ...part, owner: null }]
      case 'begins': {
        const day = moved(part.day)
        return day === null ? [] : [{ ...part, day }]
      }
      case 'rule':
        return [{ ...part, closed: part.closed.flatMap(day => moved(day) ?? []) }]
      default:
        return [part]
    }
  })
}

/** The parts of an item in a copy. */
export function itemInCopy(parts: readonly ItemPart[], { progress, moved }: MeetingChoice): ItemPart[] {
  return parts.flatMap((part): ItemPart[] => {
    switch (part.kind) {
      case 'spent':
      case 'closed':
      case 'ready':
      case 'cut':
        return progress ? [part] : []
      case 'asked': {
        const by = progress ? moved(part.by) : null
        return by === null ? [] : [{ ...part, by }]
      }
      default:
        return [part]
    }
  })
}

/** A line of the record in a copy: without people, nobody said it. */
export function entryInCopy(entry: Entry | null, { people }: MeetingChoice): Entry | null {
  return entry === null || people ? entry : { ...entry, by: null, name: '' }
}
