import { z } from 'zod'
import { ANSWERS } from '../../tree/meeting'
import { idSchema, tree, meeting, token, MINUTES_FORMATS, operation } from '../operation'

/** Meetings: when, who, sections, minutes, series, answers. */
export const MEETINGS = {
  listMeetings: operation(
    'GET',
    '/api/meetings',
    'person',
    'Meetings in all trees open to one, with how ready they are. `from`: only what runs or is planned from this day on (ISO 8601).',
    { query: z.object({ from: z.iso.date().optional() }) },
  ),
  lookAtMeeting: operation(
    'GET',
    '/api/trees/{id}/meetings/{topic}',
    'viewer',
    'What the tree itself can’t say of a meeting: who is in another one then, which documents don’t open, and who has read what beforehand.',
    { params: meeting },
  ),
  moveMeeting: operation(
    'POST',
    '/api/trees/{id}/meetings/{topic}/moves',
    'editor',
    'Begins a meeting, moves it to another item, pauses, ends or reopens it. Time is counted here. `from`: the step one had before one; a move from an older step does nothing.',
    {
      params: meeting,
      body: z.strictObject({
        to: z.enum(['begin', 'next', 'back', 'item', 'pause', 'go-on', 'end', 'reopen']),
        item: idSchema.optional(),
        from: z.int().min(0).nullable().default(null),
      }),
    },
  ),
  invitePeople: operation(
    'POST',
    '/api/trees/{id}/meetings/{topic}/invitation',
    'editor',
    'Mails everybody of a meeting an invitation, its change, or that it’s cancelled (RFC 5546).',
    { params: meeting, body: z.strictObject({ cancel: z.boolean().default(false) }) },
  ),
  answerMeeting: operation('POST', '/api/trees/{id}/meetings/{topic}/answer', 'viewer', 'Says whether one comes.', {
    params: meeting,
    body: z.strictObject({ answer: z.enum(ANSWERS), comment: z.string().max(1000).default('') }),
  }),
  requestSections: operation(
    'POST',
    '/api/trees/{id}/meetings/{topic}/requests',
    'editor',
    'Asks the owner of each item to fill it in by a day.',
    { params: meeting, body: z.strictObject({ by: z.iso.date() }) },
  ),
  readItem: operation(
    'POST',
    '/api/trees/{id}/meetings/{topic}/reading',
    'viewer',
    'Says that one has an item of a planned meeting open, as it stands now. Answers with how far its readers are.',
    { params: meeting, body: z.strictObject({ item: idSchema }) },
  ),
  remindToRead: operation(
    'POST',
    '/api/trees/{id}/meetings/{topic}/reading/letters',
    'editor',
    'Mails those others who haven’t read an item as it stands; nobody twice within 20 hours.',
    { params: meeting, body: z.strictObject({ item: idSchema }) },
  ),
  minutes: operation(
    'GET',
    '/api/trees/{id}/meetings/{topic}/minutes/{format}',
    'viewer',
    'The minutes as a file; `tasks`: its actions as iCalendar.',
    {
      params: z.object({ id: idSchema, topic: idSchema, format: z.enum(MINUTES_FORMATS) }),
      /** A Word document: the tree's template that it's written into. */
      query: z.object({ template: idSchema.optional() }),
    },
  ),
  previewMinutes: operation(
    'GET',
    '/api/trees/{id}/meetings/{topic}/letters',
    'editor',
    'Who would get the minutes by mail, and one’s own letter; nothing is sent.',
    { params: meeting },
  ),
  mailMinutes: operation(
    'POST',
    '/api/trees/{id}/meetings/{topic}/letters',
    'editor',
    'Mails the minutes to everybody of the meeting, each with their own actions first.',
    { params: meeting },
  ),
  changedSinceMeeting: operation(
    'GET',
    '/api/trees/{id}/meetings/{topic}/since',
    'viewer',
    'What has changed in the tree since the meeting began, topic by topic.',
    { params: meeting },
  ),
  seriesLog: operation(
    'GET',
    '/api/trees/{id}/meetings/{topic}/series',
    'viewer',
    'When the actions of a meeting’s series were done.',
    { params: meeting },
  ),
  takeReplies: operation(
    'POST',
    '/api/trees/{id}/replies',
    'editor',
    'Takes the answers in a calendar file (RFC 5546, REPLY).',
    { params: tree, body: z.strictObject({ text: z.string() }) },
  ),
  readAnswer: operation(
    'GET',
    '/api/answers/{token}',
    'nobody',
    'What a guest sees of a meeting by the link in their letter.',
    { params: token },
  ),
  giveAnswer: operation('POST', '/api/answers/{token}', 'nobody', 'A guest’s answer.', {
    params: token,
    body: z.strictObject({
      answer: z.enum(['accepted', 'declined', 'tentative']),
      comment: z.string().max(1000).default(''),
    }),
  }),
} as const
