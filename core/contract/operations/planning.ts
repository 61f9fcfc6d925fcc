import { z } from 'zod'
import { words, zoneName } from '../../tree/atoms'
import { idSchema, operation, tree } from '../operation'

const day = z.iso.date().optional()
const moment = z.object({ id: idSchema, number: z.coerce.number().int().min(0) })

/** What is computed of a tree's plan. */
export const PLANNING = {
  readSchedule: operation(
    'GET',
    '/api/trees/{id}/schedule',
    'viewer',
    'The plan: of each task its days, float, whether it’s critical, and why it begins when it does; branches; dependencies that can’t be kept to. `status`: the day up to which the work is known, where the tree doesn’t say it itself; today without, in the tree’s zone or in UTC. `baseline`: the number of an edit; the plan as it was after it stands beside, with what ends later and sooner now.',
    { params: tree, query: z.object({ status: day, baseline: z.coerce.number().int().min(0).optional() }) },
  ),
  readPlanCalendar: operation(
    'GET',
    '/api/trees/{id}/plan-calendar',
    'viewer',
    'The plan as iCalendar (RFC 5545): tasks as to-dos with their planned days, milestones as events, and what waits for what (RFC 9253).',
    { params: tree, query: z.object({ status: day }) },
  ),
  readTopicDays: operation(
    'GET',
    '/api/trees/{id}/topics/{topic}/days',
    'viewer',
    'When a topic begins and ends, by the plan of its tree where that has one, else as it was typed; with what it and its tree are called, and when that was so. It’s what a dependency on a topic of another tree is kept with (`elsewhere` of a member of `waits`).',
    { params: z.object({ id: idSchema, topic: idSchema }) },
  ),
  finishTask: operation(
    'POST',
    '/api/trees/{id}/topics/{topic}/finish',
    'editor',
    'Finishes a task. One that comes again (`again`) stands there open for its next turn, which `next` names; any other is done. `today`: the day where one is; the day in the tree’s zone, or in UTC, without. `due`: the turn that is meant; refused when another is open. The answer’s `number` is that of the edit, by which it can be taken back.',
    {
      params: z.object({ id: idSchema, topic: idSchema }),
      body: z.strictObject({ today: day, due: z.iso.date().optional() }),
    },
  ),
  keepBaseline: operation(
    'PUT',
    '/api/trees/{id}/moments/{number}/baseline',
    'editor',
    'Keeps the plan as it was after an edit as a baseline, with its date and who kept it.',
    { params: moment, body: z.strictObject({ name: words(200) }) },
  ),
  letBaselineGo: operation(
    'DELETE',
    '/api/trees/{id}/moments/{number}/baseline',
    'editor',
    'Lets a baseline go. What happened stays.',
    { params: moment },
  ),
  readClosedDays: operation(
    'POST',
    '/api/trees/{id}/closed-days',
    'editor',
    'The days that the all-day events of a calendar file (RFC 5545) name, from a year before today to five years after it, for the working calendar of the tree. Nothing is changed by it.',
    { params: tree, body: z.strictObject({ text: z.string() }) },
  ),
  readRunSheet: operation(
    'GET',
    '/api/trees/{id}/run-sheet',
    'viewer',
    'The run-sheet of a day: what happens at which time, by whom and where, one after the other, who would have to be in two places, and what stands on the day without a time. `zone`: whose wall the times of meetings are told on (IANA), where the tree has none of its own; UTC without.',
    { params: tree, query: z.object({ day: z.iso.date(), zone: zoneName.optional() }) },
  ),
  readLoad: operation(
    'GET',
    '/api/trees/{id}/load',
    'viewer',
    'Hours that are planned, of those that each person can do, week by week, with what makes them up.',
    { params: tree, query: z.object({ status: day }) },
  ),
  readChances: operation(
    'GET',
    '/api/trees/{id}/chances',
    'viewer',
    'How sure the plan’s end is, from its three estimates: the days by which 50, 80 and 95 % of the rounds had ended, the curve, what drives it, and the classical sum. The same seed gives the same answer.',
    {
      params: tree,
      query: z.object({
        rounds: z.coerce.number().int().min(100).max(100_000).default(10_000),
        seed: z.coerce.number().int().min(0).max(2_147_483_647).default(1),
        shape: z.enum(['beta', 'triangle']).default('beta'),
        status: day,
      }),
    },
  ),
} as const
