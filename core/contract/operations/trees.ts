import { z } from 'zod'
import { HAPPENING_KINDS } from '../../history/happenings'
import { ARRANGEMENTS, FIELD_ENTRIES } from '../../tree/fields'
import { SET_NAMES } from '../../tree/sets'
import { editSchema } from '../../tree/change'
import { words } from '../../tree/atoms'
import { savedView } from '../../tree/view'
import { idSchema, title, tree, EXPORT_FORMATS, IMPORT_FORMATS, operation } from '../operation'

/** What a tree is compared with. */
const otherSide = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('moment'), number: z.int().min(0) }),
  z.strictObject({ kind: z.literal('tree'), tree: idSchema, number: z.int().min(0).optional() }),
  z.strictObject({ kind: z.literal('file'), text: z.string() }),
])
export type OtherSide = z.infer<typeof otherSide>

/** Trees: made, opened, changed, brought back, taken along; their files, pictures and views. */
export const TREES = {
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
      // `text` of formats that aren't text (docx, xlsx) is Base64. `preview`: makes nothing, and says what would come out.
      // `parents`: which row of a CSV file is meant, where several have the title that another names as its parent.
      body: z.strictObject({
        format: z.enum(IMPORT_FORMATS),
        name: z.string().max(300),
        text: z.string(),
        parents: z.record(z.string(), z.int()).optional(),
        preview: z.boolean().default(false),
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
        links: z.boolean().default(true),
        files: z.boolean().default(true),
        figures: z.boolean().default(true),
        record: z.boolean().default(true),
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
  readContents: operation(
    'GET',
    '/api/trees/{id}/files/{file}/contents',
    'viewer',
    'What a document of the tree holds, as it’s shown in place: words, tables and pictures of .docx and HTML, rows of .xlsx, CSV and TSV, slides of .pptx, with what of it isn’t shown in words.',
    {
      params: z.object({ id: idSchema, file: z.string().regex(/^[0-9a-f]{64}$/) }),
      query: z.object({ name: z.string().max(300).default('') }),
    },
  ),
  openedFile: operation(
    'POST',
    '/api/trees/{id}/files/{file}/opened',
    'viewer',
    'Says that one has opened a document. Those in the tree are shown who has read what a meeting is about.',
    { params: z.object({ id: idSchema, file: z.string().regex(/^[0-9a-f]{64}$/) }) },
  ),
  listOpened: operation(
    'GET',
    '/api/trees/{id}/opened',
    'viewer',
    'Files of a tree that somebody has opened, by whomever.',
    { params: tree },
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
    'Makes the tree, one branch, one topic or one part of a topic what it was after an edit, as one edit that can be taken back. Says where a branch hangs whose parent is gone.',
    {
      params: z.object({ id: idSchema, number: z.coerce.number().int().min(0) }),
      body: z.strictObject({
        branch: idSchema.nullable().optional(),
        topic: idSchema.optional(),
        part: z.enum(['whole', 'note', ...FIELD_ENTRIES.map(([name]) => name), ...SET_NAMES]).optional(),
      }),
    },
  ),
  touchedByOthers: operation(
    'GET',
    '/api/trees/{id}/touched',
    'viewer',
    'The topics that others than oneself changed after an edit.',
    { params: tree, query: z.object({ since: z.coerce.number().int().min(0) }) },
  ),
  openMoment: operation('GET', '/api/trees/{id}/moments/{number}', 'viewer', 'The tree as it was after an edit.', {
    params: z.object({ id: idSchema, number: z.coerce.number().int().min(0) }),
  }),
  copyMoment: operation(
    'POST',
    '/api/trees/{id}/moments/{number}/copy',
    'viewer',
    'A new tree of one’s own, as this one was after an edit.',
    {
      params: z.object({ id: idSchema, number: z.coerce.number().int().min(0) }),
      body: z.strictObject({ title: title.optional() }),
    },
  ),
  listMoments: operation(
    'GET',
    '/api/trees/{id}/moments',
    'viewer',
    'Moments that are kept, by name or by themselves.',
    { params: tree },
  ),
  nameMoment: operation('PUT', '/api/trees/{id}/moments/{number}/name', 'editor', 'Keeps a moment under a name.', {
    params: z.object({ id: idSchema, number: z.coerce.number().int().min(0) }),
    body: z.strictObject({ name: words(200).refine(name => name.trim() !== '', 'Please give a name.') }),
  }),
  letMomentGo: operation(
    'DELETE',
    '/api/trees/{id}/moments/{number}/name',
    'editor',
    'Lets the name of a moment go. What happened stays.',
    { params: z.object({ id: idSchema, number: z.coerce.number().int().min(0) }) },
  ),
  listHistory: operation(
    'GET',
    '/api/trees/{id}/history',
    'viewer',
    'The sittings of a tree, newest first: work without a pause of half an hour. `before`: a number to go on from. By person, kind of change, topic with all that hangs below it, and period (ISO 8601 instants).',
    {
      params: tree,
      query: z.object({
        before: z.coerce.number().int().min(1).optional(),
        person: idSchema.optional(),
        kind: z.enum(HAPPENING_KINDS).optional(),
        branch: idSchema.optional(),
        since: z.iso.datetime().optional(),
        until: z.iso.datetime().optional(),
      }),
    },
  ),
  listHappenings: operation(
    'GET',
    '/api/trees/{id}/history/{from}/{to}',
    'viewer',
    'What the edits from one number to another did, 300 edits at most, and what was said meanwhile.',
    { params: z.object({ id: idSchema, from: z.coerce.number().int().min(1), to: z.coerce.number().int().min(1) }) },
  ),
  listDifferences: operation(
    'GET',
    '/api/trees/{id}/differences',
    'viewer',
    'What is different between two moments of a tree, topic by topic. `to` is now where it isn’t said.',
    {
      params: tree,
      query: z.object({ from: z.coerce.number().int().min(0), to: z.coerce.number().int().min(0).optional() }),
    },
  ),
  listKin: operation(
    'GET',
    '/api/trees/{id}/kin',
    'viewer',
    'Trees one may see that come from one copy with this one, those changed last first.',
    { params: tree },
  ),
  compareTree: operation(
    'POST',
    '/api/trees/{id}/compare',
    'viewer',
    'What is different between this tree and a moment of it, another tree, or a file of ours: both states with their common moment, where there is one, and every piece that is different, with who changed it.',
    { params: tree, body: z.strictObject({ with: otherSide, here: z.int().min(0).optional() }) },
  ),
  mergeTree: operation(
    'POST',
    '/api/trees/{id}/merge',
    'editor',
    'Takes pieces of a comparison over, by their keys, as one edit that can be taken back. `at`: the number at which the tree was compared; what has been changed since is not written over. `join`: notes that keep what both sides have typed.',
    {
      params: tree,
      body: z.strictObject({
        with: otherSide,
        at: z.int().min(0),
        take: z.array(z.string().max(160)).max(500_000),
        join: z.array(z.string().max(160)).max(50_000).default([]),
      }),
    },
  ),
  exportTree: operation('GET', '/api/trees/{id}/export/{format}', 'viewer', 'The tree as a file.', {
    params: z.object({ id: idSchema, format: z.enum(EXPORT_FORMATS) }),
  }),
} as const
