import type { Wait } from '../tree/plan'
import { shorten } from '../tree/title'
import type { TopicId } from '../tree/topic'
import type { BrokenWait, NoPlan } from './compiled'
import type { Because, Planned } from './planned'

/* What the plan says, in words. */

export interface PlanSpeaker {
  titleOf(id: TopicId): string
  /** An ISO day as the person reads days. */
  day(iso: string): string
}

const KIND_WORDS: Record<Wait['kind'], readonly [waits: string, named: string]> = {
  FS: ['ends', 'begins when it has ended'],
  SS: ['begins', 'begins when it has begun'],
  FF: ['ends', 'ends when it has ended'],
  SF: ['begins', 'ends when it has begun'],
}
/** A kind of dependency as people say it: “begins when it has ended”. */
export const kindInWords = (kind: Wait['kind']): string => KIND_WORDS[kind][1]

/** Days as people say them: half a day, 2 working days. */
export function daysInWords(days: number, kind: 'working' | 'calendar' = 'working'): string {
  const rounded = Math.round(days * 100) / 100
  const word = kind === 'working' ? 'working day' : 'day'
  if (rounded === 0.5) return `half a ${word}`
  return `${rounded} ${rounded === 1 ? word : `${word}s`}`
}

/** A lag: “2 working days after”, “3 days before”; '' for none. */
export function lagInWords({ lag, days }: Pick<Wait, 'lag' | 'days'>): string {
  return lag === 0 ? '' : `${daysInWords(Math.abs(lag), days)} ${lag > 0 ? 'after' : 'before'}`
}

/** What a dependency is on, by its title; “Permit” of “Council” where that lies in another tree. */
export function waitedFor({ on, elsewhere }: Wait, { titleOf }: Pick<PlanSpeaker, 'titleOf'>): string {
  if (!elsewhere) return `“${titleOf(on)}”`
  const { title, treeTitle } = elsewhere
  if (title === '' && treeTitle === '') return 'something in another tree'
  return `“${shorten(title || 'untitled', 44)}” of “${shorten(treeTitle || 'untitled', 44)}”`
}

/** A dependency: “waits for “Permit”, 2 working days after”. */
export function waitInWords(wait: Wait, speaker: Pick<PlanSpeaker, 'titleOf'>): string {
  const { kind, lag, days } = wait
  const how = kind === 'FS' ? '' : ` (${kindInWords(kind)})`
  const after = lagInWords({ lag, days })
  return `waits for ${waitedFor(wait, speaker)}${how}${after ? `, ${after}` : ''}`
}

/** Why a task doesn't begin earlier. */
export function becauseInWords(because: Because, { start }: Pick<Planned, 'start'>, speaker: PlanSpeaker): string {
  switch (because.kind) {
    case 'waits':
      return waitInWords(because.wait, speaker)
    case 'not-before':
      return `not before ${speaker.day(start)}, as was typed`
    case 'fixed':
      return `fixed to ${speaker.day(start)}`
    case 'happened':
      return `begun on ${speaker.day(start)}`
    case 'status':
      return 'nothing holds it: it can begin now'
    case 'plan':
      return 'nothing holds it: it begins with the plan'
  }
}

/** What may slip: “3 working days of float”, “critical”, “2 working days too late already”. */
export function floatInWords({ totalFloat, state }: Pick<Planned, 'totalFloat' | 'state'>): string {
  if (state === 'done' || totalFloat === null) return 'done'
  if (totalFloat < 0) return `${daysInWords(-totalFloat)} too late already`
  return totalFloat === 0 ? 'critical: when it slips, the end does' : `may slip ${daysInWords(totalFloat)}`
}

/** What can't be kept to, and how it's mended. */
export function brokenInWords({ by, wait, why }: BrokenWait, speaker: Pick<PlanSpeaker, 'titleOf'>): string {
  const [one, other] = [`“${speaker.titleOf(by)}”`, waitedFor(wait, speaker)]
  switch (why) {
    case 'gone':
      return `${one} waits for something that isn’t there any more. Bring it back, or take the dependency away.`
    case 'within':
      return `${one} waits for ${other}, but one lies in the other. Take the dependency away, or move one out.`
    case 'loop':
      return `${one} and ${other} wait for one another. Take one of their dependencies away.`
    case 'fixed':
      return `${one} is fixed, though ${other} isn’t ready by then. Free its start, or take the dependency away.`
    case 'nothing':
      return `${one} waits for ${other}, in which nothing is a task yet. Give something there a length or a date.`
    case 'undated':
      return `${one} waits for ${other}, of which no date is known yet. Look again once it has one.`
  }
}

const NO_PLAN: Record<NoPlan, string> = {
  off: 'This tree has no plan yet: its dates are as they were typed.',
  'no-working-day': 'No day is worked on. Open a weekday of the working calendar, or an extra day.',
  'too-large':
    'Too many branches wait for one another as a whole to be reckoned with. Let single tasks wait instead of branches.',
}
export const noPlanInWords = (why: NoPlan): string => NO_PLAN[why]

/** By how much the whole slipped: “All is done 3 working days later than then, on 15 February 2027”. `day` says days. */
export function wholeSlipInWords(whole: number, finish: string | null, day: (iso: string) => string): string {
  if (finish === null) return 'Nothing is planned'
  if (whole === 0) return `All is done as early as then, on ${day(finish)}`
  return `All is done ${daysInWords(Math.abs(whole))} ${whole > 0 ? 'later' : 'sooner'} than then, on ${day(finish)}`
}
