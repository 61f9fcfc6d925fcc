import { momentInWords } from '../schedule/times'
import type { Choice } from './choice'
import type { HandedTask, HandedTopic } from './handed'
import { LOCALES, WORDS } from './words'

/** What a document says in words of its own, in the language that was chosen for it. */
export class Telling {
  readonly words: (typeof WORDS)[Choice['language']]
  readonly locale: string

  constructor({ language }: Pick<Choice, 'language'>) {
    this.words = WORDS[language]
    this.locale = LOCALES[language]
  }

  /** A day, with its time of day where it has one. */
  day(day: string | null, time: string | null = null): string {
    return day === null ? '' : momentInWords(day, time, this.locale)
  }

  bytes(size: number): string {
    return this.words.bytes(size.toLocaleString(this.locale))
  }

  /** "2.4 Lift", or "untitled" for a topic without words. */
  titled({ number, title }: Pick<HandedTopic, 'number' | 'title'>): string {
    return [number, title || this.words.untitled].filter(Boolean).join(' ')
  }

  /** A task in a line: who, from when, by when, how far. */
  task({ people, start, due, startTime, dueTime, duration, done, priority }: HandedTask): string {
    const { words } = this
    return [
      people.join(', '),
      start && `${words.start} ${this.day(start, startTime)}`,
      due && `${words.due} ${this.day(due, dueTime)}`,
      duration !== null && words.days(duration),
      done !== null && `${words.done} ${done} %`,
      priority !== null && `${words.priority} ${priority}`,
    ]
      .filter(Boolean)
      .join(' · ')
  }

  /** What a topic is by its markers, and what it asks: "Decision · Ines, due 3 Mar". '' for neither. */
  about({ markers, task, figures }: Pick<HandedTopic, 'markers' | 'task' | 'figures'>): string {
    return [markers.join(', '), task ? this.task(task) : '', figures].filter(Boolean).join(' · ')
  }

  /** The other end of a cross-link: "same lorry: see 2.4 Crates". */
  tie({ label, number, title }: HandedTopic['ties'][number]): string {
    return `${label ? `${label}: ` : ''}${this.words.see} ${this.titled({ number, title })}`
  }

  /** The columns of a list of tasks, and one line of it. */
  get taskHead(): readonly string[] {
    const { what, who, start, due, done } = this.words
    return [what, who, start, due, done]
  }
  taskRow(topic: HandedTopic): readonly string[] {
    const { people, start, due, startTime, dueTime, done } = topic.task!
    return [
      this.titled(topic),
      people.join(', '),
      this.day(start, startTime),
      this.day(due, dueTime),
      done === null ? '' : `${done} %`,
    ]
  }
}
