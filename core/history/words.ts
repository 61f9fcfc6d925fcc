import type { Happening } from './happenings'

/** What words of a happening need to know of people, markers and days. */
export interface Speaker {
  nameOf(person: string): string
  markerOf(id: string): string
  /** An ISO day as the person reads days. */
  day(iso: string): string
}

/** And of the tree's measures, which only its own history speaks of. */
export interface Teller extends Speaker {
  measureOf(id: string): string
  /** A figure as it's stored, as the person reads it. */
  figure(measure: string, text: string): string
}

const quoted = (title: string): string => `“${title || 'untitled'}”`
const ISO_DAY = /^\d{4}-\d{2}-\d{2}/

/** A happening in words, without who did it: “moved “Lift” under “Fit-out””. */
export function inWords(told: Happening, speaker: Teller): string {
  const title = quoted(told.title)
  switch (told.kind) {
    case 'added':
      return told.under === null ? `added ${title} by itself` : `added ${title} under ${quoted(told.under ?? '')}`
    case 'removed':
      return told.along ? `took away ${title} with ${told.along} below` : `took away ${title}`
    case 'restored':
      return `brought back ${title}`
    case 'moved':
      if (told.what === 'hand') return `put ${title} elsewhere on the canvas`
      if (told.what === 'order') return `moved ${title} among its siblings`
      return told.under === null ? `let ${title} stand alone` : `moved ${title} under ${quoted(told.under ?? '')}`
    case 'renamed':
      return told.was ? `renamed ${quoted(told.was)} to ${title}` : `named ${title}`
    case 'people':
      return told.what === 'take'
        ? `took ${title} from ${speaker.nameOf(String(told.value))}`
        : `gave ${title} to ${speaker.nameOf(String(told.value))}`
    case 'markers':
      return `${told.what === 'take' ? 'took the marker' : 'marked'} ${
        told.what === 'take'
          ? `${speaker.markerOf(String(told.value))} from ${title}`
          : `${title} ${speaker.markerOf(String(told.value))}`
      }`
    case 'note':
      return `wrote in the note of ${title}`
    case 'figures':
      return figureInWords(told, title, speaker)
    case 'files':
      return told.value === null ? `took a file from ${title}` : `put a file on ${title}`
    case 'look':
      return `changed the look of ${title}`
    case 'tree':
      return `changed the tree’s ${told.what ?? ''}`
    case 'task':
      if (told.what === 'turn')
        return told.value === null
          ? `took back a turn of ${title}`
          : `did ${title} for ${speaker.day(String(told.value))}`
      return told.value === null
        ? `cleared the ${told.what ?? ''} of ${title}`
        : `set the ${told.what ?? ''} of ${title} to ${valueInWords(told, speaker)}`
    default:
      return told.value === null
        ? `cleared the ${told.what ?? ''} of ${title}`
        : `changed the ${told.what ?? ''} of ${title}`
  }
}

function figureInWords({ measure = '', value, before, whatIf }: Happening, title: string, speaker: Teller): string {
  const of = `${speaker.measureOf(measure)} of ${title}${whatIf ? ' in a what-if' : ''}`
  const say = (text: string): string => (text === '' ? 'nothing' : speaker.figure(measure, text))
  if (value === null || value === undefined) return `took away the ${of}`
  if (before === value) return `changed the target, range or years of the ${of}`
  return before
    ? `changed the ${of} from ${say(before)} to ${say(String(value))}`
    : `set the ${of} to ${say(String(value))}`
}

function valueInWords({ value, what }: Happening, speaker: Speaker): string {
  if (typeof value === 'string' && ISO_DAY.test(value)) return speaker.day(value.slice(0, 10))
  return what === 'progress' ? `${value} %` : what === 'length' ? `${value} d` : String(value)
}
