import { z } from 'zod'
import { email, password, name, operation } from '../operation'

/** An account, what is one's own across trees, and the app itself. */
export const PERSON = {
  health: operation('GET', '/api/health', 'nobody', 'Says that the app lives.'),
  ready: operation('GET', '/api/ready', 'nobody', 'Says whether the app and its database can work.'),
  openapi: operation('GET', '/api/openapi.json', 'nobody', 'This document.'),
  signUp: operation('POST', '/api/sign-up', 'nobody', 'Makes an account and signs in.', {
    body: z.strictObject({ email, name, password }),
  }),
  signIn: operation('POST', '/api/sign-in', 'nobody', 'Signs in. Slowed after failures, per account and per address.', {
    body: z.strictObject({ email, password: z.string().max(200), code: z.string().trim().max(20).optional() }),
  }),
  signOut: operation('POST', '/api/sign-out', 'nobody', 'Ends this session.'),
  signOutEverywhere: operation(
    'POST',
    '/api/sign-out-everywhere',
    'person',
    'Ends all sessions of this person and cuts their live connections.',
  ),
  me: operation('GET', '/api/me', 'person', 'Who is signed in.'),
  home: operation(
    'GET',
    '/api/home',
    'person',
    'One’s next meetings, sections to fill in and open tasks, and the trees changed since one last looked.',
  ),
  work: operation(
    'GET',
    '/api/work',
    'person',
    'What one owes, what others owe because one asked them, and sections to fill in, across all trees.',
  ),
  workPlan: operation(
    'GET',
    '/api/work/plan',
    'person',
    'What the plans of their trees say of the tasks that one owes: whether each can begin now, else when and what it waits for. Of trees with a plan, the first twenty by due date.',
    { query: z.object({ today: z.iso.date().optional() }) },
  ),
  makeCalendar: operation(
    'POST',
    '/api/work/calendar',
    'person',
    'Makes one’s private calendar address. The one before stops working.',
  ),
  withdrawCalendar: operation('DELETE', '/api/work/calendar', 'person', 'Withdraws one’s calendar address.'),
  readCalendar: operation('GET', '/api/calendars/{token}', 'nobody', 'One’s meetings and due tasks as iCalendar.', {
    params: z.object({ token: z.string().min(20).max(104) }),
  }),
} as const
