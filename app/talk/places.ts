import { fixedOf, numeralOf } from '#core/figures/fixed'
import { sayFigure } from '#core/figures/numbers'
import type { Place } from '#core/talk/saying'
import type { TopicId } from '#core/tree'
import { figuresOf, measuresOf } from '~/figures/figuring'
import { planNow } from '~/schedule/planning'
import type { Desk } from '~/desk/desk'

/* What of a topic a comment may hang on: the topic itself, its bar in the plan, each of its figures. */

/** A place, and its name as it's chosen by. */
export interface NamedPlace {
  readonly key: string
  readonly name: string
  readonly place: Place
}

export const keyOf = (place: Place): string => (place.on === 'figure' ? `figure ${place.measure}` : place.on)

const days = (from: string, to: string): string =>
  from === to ? dayInWords(from) : `${dayInWords(from)} to ${dayInWords(to)}`

export function placesOf(desk: Desk, topic: TopicId): NamedPlace[] {
  const found: Place[] = [{ on: 'topic', topic }]
  const plan = planNow(desk)
  const planned = plan?.tasks.get(topic) ?? plan?.branches.get(topic)
  if (planned) found.push({ on: 'bar', topic, from: planned.start, to: planned.finish })
  const measures = measuresOf(desk)
  if (measures.length > 0) {
    const figures = figuresOf(desk)
    for (const { id } of measures) {
      const { value, own } = figures.of(topic, id)
      if (own || value !== null)
        found.push({ on: 'figure', topic, measure: id, value: value === null ? null : numeralOf(value) })
    }
  }
  return found.map(place => ({ key: keyOf(place), name: nameOf(desk, place), place }))
}

function nameOf(desk: Desk, place: Place): string {
  if (place.on === 'bar') return `Its plan, ${days(place.from, place.to)}`
  if (place.on !== 'figure') return 'The whole topic'
  const measure = measuresOf(desk).find(({ id }) => id === place.measure)!
  const { value } = figuresOf(desk).of(place.topic, measure.id)
  return value === null ? measure.name : `${measure.name}, ${sayFigure(value, measure, ownLocale())}`
}

/** What a thread hangs on beside its topic, as it was when it was begun; null for the topic itself, words and the talk. */
export function placeInWords(desk: Desk, place: Place): string | null {
  if (place.on === 'bar') return `On its plan, then ${days(place.from, place.to)}`
  if (place.on !== 'figure') return null
  const measure = measuresOf(desk).find(({ id }) => id === place.measure)
  if (!measure) return 'On a measure that is gone'
  const value = place.value === null ? null : fixedOf(place.value)
  return `On ${measure.name}${value === null ? '' : `, then ${sayFigure(value, measure, ownLocale())}`}`
}
