import { z } from 'zod'
import { savedView } from '../tree/view'
import { editSchema } from '../tree/change'
import { ANSWERS } from '../tree/meeting'
import { ARRANGEMENTS } from '../tree/fields'
import { ROLES, type Role } from '../access/roles'

/*
 * Every REST operation: what it takes and who may call it. The server checks requests against these schemas and
 * the OpenAPI document is made from them.
 */

export const idSchema = z.string().regex(/^[\w-]{1,40}$/)
const email = z
  .email()
  .max(254)
  .transform(text => text.toLowerCase())
const password = z.string().min(10, 'A password needs at least 10 characters.').max(200)
const name = z.string().trim().min(1, 'Please give a name.').max(120)
const title = z.string().max(10_000)
const role = z.enum(ROLES)
const tree = z.object({ id: idSchema })
const meeting = z.object({ id: idSchema, topic: idSchema })
const token = z.object({ token: z.string().min(20).max(104) })
const none = z.object({})

export const EXPORT_FORMATS = ['json', 'markdown', 'opml', 'csv', 'text'] as const
export const MINUTES_FORMATS = ['docx', 'pdf', 'markdown', 'tasks'] as const
export const IMPORT_FORMATS = ['json', 'markdown', 'opml', 'csv', 'text', 'html'] as const

/** 'nobody': no sign-in needed. 'person': signed in. A role: that role, or more, on the tree in the path. */
export type Access = 'nobody' | 'person' | Role

export interface Operation<
  P extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  A extends Access = Access,
> {
  readonly method: 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE'
  readonly path: string
  readonly summary: string
  readonly access: A
  readonly params: P
  readonly query: Q
  readonly body: B
}

function operation<
  A extends Access,
  P extends z.ZodType = typeof none,
  Q extends z.ZodType = typeof none,
  B extends z.ZodType = typeof none,
>(
  method: Operation['method'],
  path: string,
  access: A,
  summary: string,
  parts: { params?: P; query?: Q; body?: B } = {},
): Operation<P, Q, B, A> {
  return {
    method,
    path,
    access,
    summary,
    params: parts.params ?? (none as unknown as P),
    query: parts.query ?? (none as unknown as Q),
    body: parts.body ?? (none as unknown as B),
  }
}

export const OPERATIONS = {
  health: operation('GET', '/api/health', 'nobody', 'Says whether the app and its database answer.'),
  openapi: operation('GET', '/api/openapi.json', 'nobody', 'This document.'),
  signUp: operation('POST', '/api/sign-up', 'nobody', 'Makes an account and signs in.', {
    body: z.strictObject({ email, name, password }),
  }),
  signIn: operation('POST', '/api/sign-in', 'nobody', 'Signs in. Slowed after failures, per account and per address.', {
    body: z.strictObject({ email, password: z.string().max(200) }),
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
  listTrees: operation(
    'GET',
    '/api/trees',
    'person',
    'Trees one has a role in. `text` is looked for in titles, descriptions, tags and topics.',
    {
      query: z.object({
        scope: z.enum(['all', 'mine', 'shared', 'trash', 'starters']).default('all'),
        text: z.string().max(200).optional(),
        tag: z.string().max(60).optional(),
      }),
    },
  ),
  newTree: operation('POST', '/api/trees', 'person', 'Makes a tree: its centre alone, or what a starter has.', {
    body: z.strictObject({
      title: title.optional(),
      arrangement: z.enum(ARRANGEMENTS).optional(),
      starter: idSchema.optional(),
    }),
  }),
  listStarters: operation(
    'GET',
    '/api/starters',
    'person',
    'The starters that come with the app. One’s own are trees in the scope `starters`.',
  ),
  importTree: operation(
    'POST',
    '/api/trees/import',
    'person',
    'Makes a tree from a file. A file that can’t be read makes nothing.',
    {
      // `parents`: which row of a CSV file is meant, where several have the title that another names as its parent.
      body: z.strictObject({
        format: z.enum(IMPORT_FORMATS),
        name: z.string().max(300),
        text: z.string(),
        parents: z.record(z.string(), z.int()).optional(),
      }),
    },
  ),
  openTree: operation('GET', '/api/trees/{id}', 'viewer', 'A whole tree with its number, one’s role and its people.', {
    params: tree,
  }),
  renameTree: operation('PATCH', '/api/trees/{id}', 'editor', 'Renames a tree, which is its centre’s title.', {
    params: tree,
    body: z.strictObject({ title }),
  }),
  duplicateTree: operation(
    'POST',
    '/api/trees/{id}/duplicate',
    'viewer',
    'Copies a tree, as a new one or as a starter.',
    {
      params: tree,
      body: z.strictObject({
        notes: z.boolean(),
        people: z.boolean(),
        dates: z.boolean(),
        progress: z.boolean(),
        shift: z.int().min(-3650).max(3650),
        starter: z.boolean().default(false),
        title: title.optional(),
      }),
    },
  ),
  treePicture: operation('GET', '/api/trees/{id}/picture.svg', 'viewer', 'A small picture of the tree.', {
    params: tree,
    query: z.object({ theme: z.enum(['light', 'dusk']).optional() }),
  }),
  addPicture: operation(
    'POST',
    '/api/trees/{id}/pictures',
    'editor',
    'Stores a picture, sent as it is. It’s drawn anew; what isn’t a picture is refused.',
    { params: tree },
  ),
  addPictureFrom: operation(
    'POST',
    '/api/trees/{id}/pictures/from-address',
    'editor',
    'Stores a picture from a public web address.',
    { params: tree, body: z.strictObject({ address: z.string().max(4000) }) },
  ),
  openFile: operation(
    'GET',
    '/api/trees/{id}/files/{file}',
    'viewer',
    'A file of the tree, or the part of it that a Range header asks for. Pictures that were drawn here may be shown; anything else is a download.',
    {
      params: z.object({ id: idSchema, file: z.string().regex(/^[0-9a-f]{64}$/) }),
      query: z.object({ name: z.string().max(200).optional() }),
    },
  ),
  bringFiles: operation(
    'POST',
    '/api/trees/{id}/files/from-tree',
    'editor',
    'Gives this tree files of another one that one may see.',
    {
      params: tree,
      body: z.strictObject({ tree: idSchema, files: z.array(z.string().regex(/^[0-9a-f]{64}$/)).max(2000) }),
    },
  ),
  attach: operation(
    'POST',
    '/api/trees/{id}/attachments',
    'editor',
    'Stores a file, sent as it is. What comes back can be put on a topic with a `put` change of the set `files`.',
    { params: tree, query: z.object({ name: z.string().min(1).max(400) }) },
  ),
  listRollUps: operation(
    'GET',
    '/api/trees/{id}/roll-ups',
    'viewer',
    'What each branch with tasks below comes to: how many are done, percent, earliest and latest day.',
    { params: tree },
  ),
  listChanges: operation('GET', '/api/trees/{id}/changes', 'viewer', 'When each person last changed each topic.', {
    params: tree,
  }),
  listViews: operation(
    'GET',
    '/api/trees/{id}/views',
    'viewer',
    'The views of a tree that one keeps for oneself. Shared ones are in the tree’s fields.',
    { params: tree },
  ),
  keepView: operation('PUT', '/api/trees/{id}/views/{view}', 'viewer', 'Keeps a view for oneself.', {
    params: z.object({ id: idSchema, view: idSchema }),
    body: savedView.omit({ id: true }),
  }),
  dropView: operation('DELETE', '/api/trees/{id}/views/{view}', 'viewer', 'Drops one of one’s own views.', {
    params: z.object({ id: idSchema, view: idSchema }),
  }),
  listShown: operation(
    'GET',
    '/api/trees/{id}/shown',
    'viewer',
    'What this tree’s references to other trees show, as far as one may see it.',
    { params: tree },
  ),
  findPlaces: operation('GET', '/api/places', 'person', 'Towns by name, with their coordinates (WGS 84).', {
    query: z.object({ text: z.string().max(120) }),
  }),
  trashTree: operation('DELETE', '/api/trees/{id}', 'owner', 'Moves a tree to the trash. It can be brought back.', {
    params: tree,
  }),
  restoreTree: operation('POST', '/api/trees/{id}/restore', 'owner', 'Brings a tree back from the trash.', {
    params: tree,
  }),
  seenTree: operation('POST', '/api/trees/{id}/seen', 'viewer', 'Notes that one has seen the tree up to a number.', {
    params: tree,
    body: z.strictObject({ version: z.int().min(0) }),
  }),
  listEdits: operation(
    'GET',
    '/api/trees/{id}/edits',
    'viewer',
    'Edits after a number, 500 at most; of one topic only, if it’s named.',
    { params: tree, query: z.object({ since: z.coerce.number().int().min(0).default(0), topic: idSchema.optional() }) },
  ),
  edit: operation(
    'POST',
    '/api/trees/{id}/edits',
    'viewer',
    'Makes an edit: any, as an editor; one’s own answer to a meeting, as anybody. The same id sent twice counts once.',
    { params: tree, body: editSchema },
  ),
  takeBack: operation(
    'POST',
    '/api/trees/{id}/edits/{number}/take-back',
    'editor',
    'Takes an edit back as one, over whatever has been done since; says what stays because others worked on it.',
    { params: z.object({ id: idSchema, number: z.coerce.number().int().min(1) }) },
  ),
  bringBack: operation(
    'POST',
    '/api/trees/{id}/moments/{number}/return',
    'editor',
    'Makes the tree, or one branch, what it was after an edit, as one edit that can be taken back.',
    {
      params: z.object({ id: idSchema, number: z.coerce.number().int().min(0) }),
      body: z.strictObject({ branch: idSchema.nullable().optional() }),
    },
  ),
  exportTree: operation('GET', '/api/trees/{id}/export/{format}', 'viewer', 'The tree as a file.', {
    params: z.object({ id: idSchema, format: z.enum(EXPORT_FORMATS) }),
  }),
  listMembers: operation('GET', '/api/trees/{id}/members', 'viewer', 'Who has which role.', { params: tree }),
  setRole: operation(
    'PUT',
    '/api/trees/{id}/members/{user}',
    'owner',
    'Changes somebody’s role. A tree keeps at least one owner.',
    { params: z.object({ id: idSchema, user: idSchema }), body: z.strictObject({ role }) },
  ),
  removeMember: operation(
    'DELETE',
    '/api/trees/{id}/members/{user}',
    'viewer',
    'Takes somebody’s role away (owners), or leaves the tree (oneself).',
    { params: z.object({ id: idSchema, user: idSchema }) },
  ),
  invite: operation(
    'POST',
    '/api/trees/{id}/invitations',
    'owner',
    'Invites people by mail, one or many; whoever has a role already keeps it and gets no letter.',
    {
      params: tree,
      body: z
        .strictObject({
          email: email.optional(),
          emails: z.array(email).max(100).optional(),
          role: z.enum(['viewer', 'commenter', 'editor']),
        })
        .refine(body => body.email !== undefined || (body.emails?.length ?? 0) > 0, 'Give an address.'),
    },
  ),
  listInvitations: operation(
    'GET',
    '/api/trees/{id}/invitations',
    'owner',
    'Invitations that nobody has taken up yet, and who asked.',
    { params: tree },
  ),
  withdrawInvitation: operation(
    'DELETE',
    '/api/trees/{id}/invitations/{invitation}',
    'owner',
    'Withdraws an invitation; its letter leads nowhere from then on.',
    { params: z.object({ id: idSchema, invitation: idSchema }) },
  ),
  acceptInvitation: operation('POST', '/api/invitations/{token}', 'person', 'Takes an invitation up.', {
    params: z.object({ token: z.string().min(20).max(100) }),
  }),
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
    'What the tree itself can’t say of a meeting: who is in another one then, and which documents don’t open.',
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
  minutes: operation(
    'GET',
    '/api/trees/{id}/meetings/{topic}/minutes/{format}',
    'viewer',
    'The minutes as a file; `tasks`: its actions as iCalendar.',
    { params: z.object({ id: idSchema, topic: idSchema, format: z.enum(MINUTES_FORMATS) }) },
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
  countLetters: operation('GET', '/api/letters/unread', 'person', 'How many letters one hasn’t read.'),
  listLetters: operation(
    'GET',
    '/api/letters',
    'person',
    'Letters to one’s mail address, or those one has sent, newest first.',
    { query: z.object({ box: z.enum(['in', 'sent']).default('in') }) },
  ),
  openLetterFile: operation('GET', '/api/letters/{id}/files/{number}', 'person', 'A file that came with a letter.', {
    params: z.object({ id: idSchema, number: z.coerce.number().int().min(0).max(20) }),
  }),
  readLetter: operation('POST', '/api/letters/{id}/read', 'person', 'Marks a letter as read.', {
    params: z.object({ id: idSchema }),
  }),
} as const

/** The OpenAPI 3.1 description of all operations. */
export function openApi(): object {
  const paths: Record<string, Record<string, unknown>> = {}
  for (const [id, op] of Object.entries<Operation>(OPERATIONS)) {
    const schema = (part: z.ZodType): Record<string, unknown> =>
      z.toJSONSchema(part, { unrepresentable: 'any', io: 'input' })
    const parameters = [
      ['path', op.params],
      ['query', op.query],
    ].flatMap(([where, part]) => {
      const { properties = {}, required = [] } = schema(part as z.ZodType) as {
        properties?: Record<string, object>
        required?: string[]
      }
      return Object.entries(properties).map(([name, value]) => ({
        name,
        in: where,
        required: required.includes(name),
        schema: value,
      }))
    })
    const hasBody = op.method !== 'GET' && op.body !== none
    paths[op.path] = {
      ...paths[op.path],
      [op.method.toLowerCase()]: {
        operationId: id,
        summary: op.summary,
        description:
          op.access === 'nobody'
            ? 'Needs no sign-in.'
            : op.access === 'person'
              ? 'Needs a sign-in.'
              : `Needs the role ${op.access} or more on the tree.`,
        ...(parameters.length > 0 ? { parameters } : {}),
        ...(hasBody
          ? { requestBody: { required: true, content: { 'application/json': { schema: schema(op.body) } } } }
          : {}),
        responses: {
          200: { description: 'Done.' },
          default: {
            description: 'An error.',
            content: { 'application/json': { schema: { $ref: '#/components/schemas/Error' } } },
          },
        },
      },
    }
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Sun Porch',
      version: '1',
      description:
        'Topic trees that a team keeps together. Sign in to get a session cookie. Live changes: docs/api/live.md.',
    },
    paths,
    components: {
      schemas: {
        Error: z.toJSONSchema(
          z.object({ error: z.object({ code: z.string(), message: z.string(), details: z.unknown().optional() }) }),
        ),
      },
    },
  }
}
