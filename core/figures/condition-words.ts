import { calendarDay } from '../tree/atoms'
import type { Condition, Query } from '../tree/query'
import { Scanner } from './scanner'

/** An id in place of a name, as formulas are stored: `{m:cost}`. */
export const REFERENCE = /\{([mvtkp]):([\w-]{1,40})\}/y
export const DAY = /\d{4}-\d{2}-\d{2}(?!\d)/y
const CONDITION_WORDS = [
  'marked',
  'not',
  'of',
  'with',
  'late',
  'open',
  'done',
  'under way',
  'a task',
  'due',
  'nobody’s',
  "nobody's",
]
const turned = (query: Query): Query => ({ ...query, not: !query.not })

/** Conditions of lists, in the words of the filter. */
export class ConditionReader extends Scanner {
  protected startsCondition(): boolean {
    return CONDITION_WORDS.some(word => this.stands(word)) || this.text[this.at] === '('
  }
  protected anyOf(): Query {
    const first = this.allOf()
    const of = [first]
    while (this.word('or')) of.push(this.allOf())
    return of.length === 1 ? first : { join: 'any', of }
  }
  protected allOf(): Query {
    const first = this.one()
    const of = [first]
    while (this.word('and')) of.push(this.one())
    return of.length === 1 ? first : { join: 'all', of }
  }
  protected one(): Query {
    const from = this.at
    if (!this.stands('not begun') && this.word('not')) return this.inside(() => turned(this.one()))
    if (this.text[from] === '(') {
      this.at++
      this.space()
      const it = this.inside(() => this.anyOf())
      this.close(from)
      this.space()
      return it
    }
    const it = this.phrase()
    this.piece('word', from)
    this.space()
    return it
  }
  protected phrase(): Condition {
    const from = this.at
    if (this.word('marked')) return { about: 'marker', marker: this.someone('k', 'marker') }
    if (this.word('nobody’s') || this.word("nobody's")) return { about: 'person', person: 'nobody' }
    if (this.word('of')) return { about: 'person', person: this.someone('p', 'person') }
    if (this.word('late')) return { about: 'due', is: 'late' }
    if (this.word('open')) return { about: 'state', is: 'open' }
    if (this.word('done')) return { about: 'state', is: 'done' }
    if (this.word('not begun')) return { about: 'state', is: 'not-begun' }
    if (this.word('under way')) return { about: 'state', is: 'under-way' }
    if (this.word('a task')) return { about: 'kind', is: 'task' }
    if (this.word('with nothing under it')) return { about: 'kind', is: 'leaf' }
    if (this.word('with')) {
      if (!/["“]/.test(this.text[this.at] ?? '')) this.fail('After “with” come words in quotes.', this.rest())
      return { about: 'text', words: this.quoted('"', '”').slice(0, 200), where: 'title' }
    }
    for (const is of ['before', 'after', 'on'] as const)
      if (this.word(`due ${is}`)) {
        const day = this.match(DAY)
        if (!day || !calendarDay.safeParse(day[0]).success)
          this.fail('A day is written as year, month, day: 2027-05-12.', this.rest())
        return { about: 'due', is, day: day[0] }
      }
    this.fail('This is no condition. “marked Decision”, “late”, “done” and “of Ines” are.', {
      from,
      to: this.rest().to,
    })
  }
  /** A marker or a person by name; quoted, or the longest name that fits. */
  protected someone(kind: 'k' | 'p', what: 'marker' | 'person'): string {
    const from = this.at
    if (this.names === null) {
      const reference = this.match(REFERENCE)
      if (reference?.[1] !== kind) this.fail(`A ${what} is meant here.`, this.rest())
      this.piece(what, from, reference[2])
      return reference[2]!
    }
    const all = [...(kind === 'k' ? this.names.markers : this.names.people)].sort(
      (a, b) => b.name.length - a.name.length,
    )
    const said = /["“]/.test(this.text[from] ?? '') ? this.quoted('"', '”').toLowerCase() : null
    const found = all.find(({ name }) =>
      said === null ? this.stands(name.toLowerCase()) : name.toLowerCase() === said,
    )
    if (!found)
      this.fail(`There is no ${what} “${said ?? this.text.slice(this.rest().from, this.rest().to)}”.`, this.rest())
    if (said === null) this.at += found.name.length
    this.piece(what, from, found.id)
    this.swap(from, `{${kind}:${found.id}}`)
    return found.id
  }
}
