import type { z } from 'zod'
import { MOST_TURNS, turnSchema } from './again'
import { id } from './atoms'
import { chartSchema, MOST_CHARTS } from './chart'
import { choiceSchema, figureSchema } from './figure'
import { entriesOf, set, type SetSpec } from './field-spec'
import { LIMITS } from './limits'
import { type BriefPart, briefPart, itemPart } from './meeting'
import { waitSchema } from './plan'
import { attachmentSchema, checkSchema, linkSchema, tieSchema } from './substance'
import { voteSchema } from './vote'

/** A copy of a meeting is another meeting: it was neither sent to anybody nor is it being held. */
function meetingInCopies(parts: readonly BriefPart[]): BriefPart[] {
  const ended = parts.some(part => part.kind === 'stage' && part.stage === 'ended')
  return parts.filter(
    ({ kind }) =>
      kind !== 'invitation' &&
      (ended || (kind !== 'run' && kind !== 'stage' && kind !== 'answer' && kind !== 'attendance')),
  )
}

/** The sets of a topic; members merge when two people add at once. A new set is one entry here. */
export const SETS = {
  markers: set({
    schema: id,
    most: LIMITS.members,
    name: 'markers',
    about: 'Ids of markers.',
    column: 'rows',
    opml: 'words',
    examples: ['risk', 'question', 'decision'],
  }),
  people: set({
    schema: id,
    most: LIMITS.members,
    name: 'people',
    about: 'Ids of the people who are to do it.',
    column: 'rows',
    examples: ['ines', 'rana'],
  }),
  links: set({
    schema: linkSchema,
    most: LIMITS.members,
    name: 'links',
    about: 'Addresses, each with a title.',
    column: 'json',
    opml: 'json',
    examples: [
      { id: 'l1', url: 'https://lift.example/', title: '' },
      { id: 'l1', url: 'https://lift.example/', title: 'The lift' },
      { id: 'l2', url: 'mailto:a@lift.example', title: '' },
    ],
  }),
  files: set({
    schema: attachmentSchema,
    most: LIMITS.members,
    name: 'files',
    about: 'Files of the tree that hang on it.',
    examples: [{ id: 'f1', file: 'a'.repeat(64), name: 'offer.pdf', type: 'application/pdf', size: 3, preview: null }],
  }),
  checks: set({
    schema: checkSchema,
    most: LIMITS.members,
    name: 'checklist',
    about: 'Lines of a checklist.',
    opml: 'json',
    examples: [
      { id: 'k1', order: 'a0', text: 'Measure', done: false, due: null, priority: null },
      { id: 'k1', order: 'a0', text: 'Measure', done: true, due: null, priority: null },
      { id: 'k2', order: 'a1', text: 'Order', done: false, due: '2027-03-03', priority: 1 },
    ],
  }),
  /** Cross-links that start here. */
  ties: set({
    schema: tieSchema,
    most: LIMITS.members,
    name: 'cross-links',
    about: 'Cross-links that start here.',
    examples: [
      { id: 't1', to: 'elsewhere', label: '', ends: 'to', bend: null, hue: null },
      { id: 't1', to: 'elsewhere', label: 'pays', ends: 'both', bend: { x: 1, y: 2 }, hue: '2' },
    ],
  }),
  /** What it waits for in the plan. */
  waits: set({
    schema: waitSchema,
    most: LIMITS.members,
    name: 'dependencies',
    about: 'Topics that it waits for in the plan.',
    examples: [
      { id: 'w1', on: 'permit', kind: 'FS', lag: 0, days: 'working' },
      { id: 'w1', on: 'permit', kind: 'FS', lag: 2, days: 'working' },
      { id: 'w2', on: 'plaster', kind: 'SS', lag: -3, days: 'calendar' },
      {
        id: 'w3',
        on: 'grant',
        elsewhere: {
          tree: 'council',
          title: 'Grant',
          treeTitle: 'Council',
          start: null,
          finish: '2027-03-01',
          state: 'open',
          asked: 1_780_000_000_000,
        },
        kind: 'FS',
        lag: 0,
        days: 'working',
      },
    ],
  }),
  /** Turns that were done of a task that comes again. */
  turns: set({
    schema: turnSchema,
    most: MOST_TURNS,
    name: 'turns',
    about: 'Turns that were done of a task that comes again: the day each was due, when it was done, and by whom.',
    inCopies: () => [],
    examples: [
      { id: '2027-03-01', on: '2027-03-01', by: 'ines' },
      { id: '2027-03-01', on: '2027-03-02', by: null },
      { id: '2027-03-08', on: '2027-03-08', by: 'rana' },
    ],
  }),
  /** The parts of a meeting's brief and of its running; a topic that has any is a meeting. */
  meeting: set({
    schema: briefPart,
    most: LIMITS.meetingParts,
    name: 'brief',
    about: 'The parts of a meeting’s brief and of its running.',
    inCopies: meetingInCopies,
    examples: [
      { id: 'why', kind: 'why', text: 'Settle the lift.' },
      { id: 'why', kind: 'why', text: 'Settle the lamps.' },
      { id: 'm1', kind: 'must', order: 'a0', text: 'Which firm' },
      { id: 'p1', kind: 'person', user: 'ines', mail: null, name: '', needed: true, role: null },
    ],
  }),
  /** The parts of an agenda item; a topic that has any is one. */
  item: set({
    schema: itemPart,
    most: LIMITS.members,
    name: 'agenda',
    about: 'The parts of an agenda item.',
    examples: [
      { id: 'minutes', kind: 'minutes', minutes: 10 },
      { id: 'minutes', kind: 'minutes', minutes: 20 },
      { id: 'wish', kind: 'wish', name: 'Oskar' },
      { id: 'm1', kind: 'serves' },
    ],
  }),
  figures: set({
    schema: figureSchema,
    most: 500,
    name: 'figures',
    about: 'What it has in the tree’s measures: a number, or a formula; the id is the measure’s, and a what-if’s.',
    examples: [
      { id: 'cost', measure: 'cost', whatIf: null, text: '1250.5', target: null, range: null },
      { id: 'cost', measure: 'cost', whatIf: null, text: '={m:seats} × 3', target: '4000', range: null },
      {
        id: 'rent',
        measure: 'rent',
        whatIf: null,
        text: '',
        target: null,
        range: null,
        series: { from: '2027-05', each: 'month', count: 12, start: '900', goesOn: 'rate', by: '0.02', typed: [] },
      },
      { id: 'cost-b', measure: 'cost', whatIf: 'b', text: '', target: null, range: { low: '900', high: '1800' } },
    ],
  }),
  charts: set({
    schema: chartSchema,
    most: MOST_CHARTS,
    name: 'charts',
    about: 'Charts that hang on it, of the branch below it: what kind, of which measure.',
    examples: [
      { id: 'c1', order: 'a0', kind: 'bars', measure: 'cost', each: 'year' },
      { id: 'c1', order: 'a0', kind: 'rings', measure: 'cost', each: 'year' },
      { id: 'c2', order: 'a1', kind: 'years', measure: 'rent', each: 'quarter' },
    ],
  }),
  choice: set({
    schema: choiceSchema,
    most: LIMITS.members,
    name: 'criteria',
    about: 'By what one chooses among its children: measures with weights, and how they weigh against one another.',
    examples: [
      { id: 'cost', kind: 'criterion', order: 'a0', weight: 40, better: 'less' },
      { id: 'cost', kind: 'criterion', order: 'a0', weight: 55, better: 'less' },
      { id: 'cost-mark', kind: 'pair', a: 'cost', b: 'mark', ratio: 3 },
    ],
  }),
  /** Votes that were taken on it, each with what it came to. */
  votes: set({
    schema: voteSchema,
    most: LIMITS.members,
    name: 'votes',
    about: 'Votes that were taken on it, each with what it came to.',
    inCopies: () => [],
    examples: [
      {
        id: 'v1',
        question: 'Carpet?',
        kind: 'yes-no',
        secret: true,
        choices: ['Yes', 'No', 'Abstain'],
        counts: [3, 1, 0],
        pairs: null,
        voters: ['ines', 'rana', 'oskar', 'lev'],
        casts: null,
        by: 'ines',
        at: 1,
      },
      {
        id: 'v2',
        question: '',
        kind: 'order',
        secret: false,
        choices: ['Cork', 'Carpet'],
        counts: [1, 0],
        pairs: [
          [0, 1],
          [0, 0],
        ],
        voters: ['ines'],
        casts: [[1, 2]],
        by: 'ines',
        at: 2,
      },
    ],
  }),
} as const
export type SetName = keyof typeof SETS
export const SET_NAMES = Object.keys(SETS) as readonly SetName[]
/** The sets with their names, for whatever treats them all alike. */
export const SET_ENTRIES: readonly (readonly [SetName, SetSpec])[] = entriesOf<Readonly<Record<SetName, SetSpec>>>(SETS)
/** What a table of sets gives: each name with its members. */
export type SetValues = { [S in SetName]: readonly z.output<(typeof SETS)[S]['schema']>[] }
export type Member = SetValues[SetName][number]

/** The key by which a member is known in its set. */
export function memberKey(member: Member): string {
  return typeof member === 'string' ? member : member.id
}
