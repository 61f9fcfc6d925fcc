import { strToU8, zipSync } from 'fflate'
import { writeNested } from '#core/formats/clipboard'
import type { Figures } from '#core/figures/figures'
import { figureMeets } from '#core/figures/meets'
import { figureColumns } from '#core/figures/columns'
import { LOCALES } from '#core/handing/words'
import { byLight } from '#core/scene/by-light'
import { figuresAt, figuresInWords } from '#core/figures/told'
import { type ComputedColumns, writeCsv } from '#core/formats/csv'
import { writeOpml } from '#core/formats/opml'
import type { Circumstances, LastChange } from '#core/find/evaluate'
import { planTest } from '#core/find/plan-test'
import type { Baseline } from '#core/schedule/baseline'
import { type Choice, type KeptTemplate, type Kind, KINDS, taken } from '#core/handing/choice'
import { type Cut, cutOut } from '#core/handing/cut'
import { everyTopic, type HandedChart, handedOf } from '#core/handing/handed'
import { treeAsPage } from '#core/handing/page'
import { picturesIn } from '#core/handing/pictures'
import { treeAsProse } from '#core/handing/prose'
import type { KeptThread } from '#core/talk/kept-talk'
import { planOf } from '#core/schedule/plan'
import { underTitles } from './under-titles'
import { planColumns } from '#core/formats/plan-columns'
import { topicOfPlace } from '#core/talk/saying'
import { signOf, type ThreadSign, topicSign } from '#core/talk/thread'
import {
  fileStem,
  fromSnapshot,
  inOrder,
  type OutlineItem,
  type Snapshot,
  topicOf,
  toOutline,
  type Tree,
} from '#core/tree'
import { HandedPictures } from './handed-pictures'
import { dayIn } from '#core/schedule/zone-day'
import type { Scene } from '#core/scene/shapes'
import { barsScene, treePng, treeScene, treeSvg } from './tree-picture'

/* A choice made into a file. It runs in a thread of its own, and knows no database: what it shows comes along. */

export interface HandOutInput {
  /** A whole tree as it's stored: a snapshot's bytes. */
  readonly snapshot: Uint8Array
  readonly choice: Choice
  /** Names of people, by id. */
  readonly people: Readonly<Record<string, string>>
  /** What was said, where the choice or its filter asks for it. */
  readonly talk: readonly KeptThread[]
  /** Who changed what last, where the filter asks for it. */
  readonly changes: readonly { readonly topic: string; readonly user: string; readonly at: string }[]
  /** What a filter asks for, else null: files that somebody has opened, and the plan as it was agreed last. */
  readonly opened: readonly string[] | null
  /** Who is in which group, by account. */
  readonly groups: Readonly<Record<string, readonly string[]>>
  readonly agreed: Baseline['tasks'] | null
  readonly author: string
  /** Templates of whoever asks, beside those of the tree. */
  readonly ownTemplates?: readonly KeptTemplate[]
  /** Pages: the word for what one may do to a topic, which leads to `?at=` and its id; none for a page of its own. */
  readonly act?: string
  /** Whoever asks: their id, their present day (ISO 8601) and their zone (IANA). */
  readonly me: string
  readonly today: string
  readonly zone: string
}
/** Pictures and files of the tree, by hash. */
export type Files = Readonly<Record<string, { readonly type: string; readonly bytes: Uint8Array }>>
export interface Made {
  readonly name: string
  /** Media type. */
  readonly type: string
  readonly bytes: Uint8Array
}

const nameOf =
  (people: HandOutInput['people']) =>
  (id: string): string =>
    people[id] ?? ''

/** Outlines show numbers before titles, as a reader without our fields sees them. */
function outline({ tree, numbers }: Cut): OutlineItem {
  return toOutline(tree, tree.centre, undefined, (topic, details) => ({
    title: [numbers.get(topic.id), topic.title].filter(Boolean).join(' '),
    details,
  }))
}

/** What the plan of the whole tree says of the part, where tasks go along. */
function computedIn(whole: Tree, { tree }: Cut, { choice, today }: HandOutInput): ComputedColumns | undefined {
  const plan = taken(choice).has('tasks') ? planOf(whole, today) : 'off'
  return typeof plan === 'string' ? undefined : planColumns(tree, tree.centre, plan)
}

/** Columns of two kinds side by side. */
function beside(a: ComputedColumns | undefined, b: ComputedColumns | null): ComputedColumns | undefined {
  if (!a || !b) return a ?? b ?? undefined
  return { headings: [...a.headings, ...b.headings], rows: a.rows.map((row, i) => [...row, ...b.rows[i]!]) }
}

/** What a filter needs to know besides the tree. */
function circumstancesOf({ me, today, zone, talk, changes, opened, agreed, groups }: HandOutInput): Circumstances {
  const by = new Map<string, LastChange[]>()
  for (const { topic, user, at } of changes) by.set(topic, [...(by.get(topic) ?? []), { user, at }])
  const said = new Map<string, ThreadSign[]>()
  for (const thread of talk) {
    const topic = topicOfPlace(thread.place)
    if (topic === null) continue
    const comments = thread.comments.map(comment => ({ ...comment, thread: thread.id, edited: null, number: 0 }))
    const settled = thread.settled ? { by: '', at: '' } : null
    said.set(topic, [...(said.get(topic) ?? []), signOf({ id: thread.id, place: thread.place, settled, comments })])
  }
  const days = new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short' })
  return {
    me,
    today,
    changesOf: id => by.get(id) ?? [],
    ...(agreed ? { agreed: id => agreed[id] ?? null } : {}),
    inGroup: id => groups[id] ?? [],
    ...(opened ? { isOpened: file => opened.includes(file) } : {}),
    talkOf: id => topicSign(said.get(id) ?? []),
    planTest,
    dayOf: instant => days.format(new Date(instant)),
  }
}

/** Documents that show charts. */
const CHARTED: ReadonlySet<Kind> = new Set<Kind>(['docx', 'pdf', 'html', 'pptx', 'markdown'])

/**
 * Makes the file. `need`: fetches files of the tree that it shows. `soFar`: hears how far it is, 0 to 1. Throws `NothingThere` for a part that isn't there, and `TooManyToDraw`
 * for a picture that nothing could open.
 */
export async function makeHandOut(
  input: HandOutInput,
  need: (files: readonly string[]) => Promise<Files>,
  soFar: (part: number) => void = () => {},
): Promise<Made> {
  const { choice, people, talk, author, today } = input
  const whole = fromSnapshot(JSON.parse(Buffer.from(input.snapshot).toString()) as Snapshot)
  // Asked for by a filter, or to go along, figures are those of the whole: what a part doesn't hold still counts in it.
  let held: Figures | null = null
  const reckoned = (): Figures => (held ??= figuresAt(whole, today))
  const circumstances: Circumstances = {
    ...circumstancesOf(input),
    figureMeets: (id, condition) => figureMeets(whole, reckoned(), id, condition),
  }
  soFar(0.05)
  const cut = cutOut(whole, choice, circumstances)
  soFar(0.1)
  const talkOf = taken(choice).has('comments') ? circumstances.talkOf : () => null
  const description = choice.part.kind === 'tree' ? whole.fields.description : ''
  const kind: Kind = choice.as
  const stem = fileStem(topicOf(cut.tree, cut.tree.centre).title)
  const made = (
    bytes: Uint8Array | string,
    extension: string = KINDS[kind].extension,
    type: string = KINDS[kind].type,
  ): Made => ({ name: `${stem}.${extension}`, type, bytes: typeof bytes === 'string' ? strToU8(bytes) : bytes })
  const file = (hash: string): { type: string; bytes: Uint8Array } | null => files[hash] ?? null
  const figures = taken(choice).has('figures') && whole.fields.measures.length > 0 ? reckoned() : null
  const tasks = taken(choice).has('tasks')
  const under = underTitles(whole, { figures, tasks, today, locale: LOCALES[choice.language] })
  const asked = { today, nameOf: nameOf(people), talkOf, file, under }
  let files: Files = {}
  /** Fetches what a picture shows. */
  const withPictures = async (): Promise<typeof cut> => {
    files = await need([...cut.tree.topics.values()].flatMap(({ picture }) => picture?.file ?? []))
    files = await asPng(files)
    return cut
  }
  /** What a picture shows: the tree, or the schedule of it. */
  const scene = async (): Promise<Scene> =>
    choice.shows === 'bars'
      ? barsScene(cut, whole, choice, {
          today: dayIn(whole.fields.zone) ?? today,
          nameOf: nameOf(people),
          agreed: input.agreed,
          tasks,
        })
      : treeScene(await withPictures(), choice, asked).then(made => {
          soFar(0.4)
          return made
        })
  switch (kind) {
    case 'text':
      return made(writeNested([outline(cut)]))
    case 'opml':
      return made(writeOpml(outline(cut)))
    case 'csv':
      return made(
        writeCsv(
          [outline(cut)],
          nameOf(people),
          beside(computedIn(whole, cut, input), figures && figureColumns(cut.tree, figures)),
        ),
      )
    case 'xlsx': {
      const { spreadsheetOf } = await import('#core/figures/spreadsheet')
      const { figuresAsXlsx } = await import('./tree-xlsx')
      const measures = inOrder(cut.tree.fields.measures)
      return made(
        await figuresAsXlsx({
          sheet: spreadsheetOf(cut.tree, whole, reckoned(), measures, today),
          topicOf: id => topicOf(cut.tree, id),
          numberOf: id => cut.numbers.get(id) ?? '',
          measures,
          author,
          today,
        }),
      )
    }
    case 'svg':
      return made(treeSvg(await scene(), choice.shapes ? 'shapes' : 'text', asked, { clear: choice.clear }))
    case 'png':
      return made(await treePng(await scene(), asked, choice))
    case 'sheet': {
      const { pictureAsPdf } = await import('./picture-pdf')
      return made(await pictureAsPdf(await scene(), asked, choice))
    }
  }
  const hasCharts =
    figures !== null && CHARTED.has(kind) && [...cut.tree.topics.values()].some(({ charts }) => charts.length > 0)
  const drawing = hasCharts ? await import('./chart-picture') : null
  const handed = handedOf(
    cut,
    choice,
    nameOf(people),
    talk,
    id => (figures ? figuresInWords(whole, figures, id, LOCALES[choice.language]) : ''),
    drawing?.chartsIn({ part: cut.tree, figures: figures!, language: choice.language, finishOf: under.finishOf }),
  )
  const attached =
    kind === 'markdown' ? [...everyTopic(handed.root)].flatMap(topic => topic.files.map(one => one.file)) : []
  files = await need([...picturesIn(handed), ...attached])
  soFar(0.2)
  if (kind === 'markdown') {
    const along: Record<string, Uint8Array> = {}
    const names = new Map<string, string>()
    const place = (hash: string, name: string): string | null => {
      const found = file(hash)
      if (!found) return null
      let at = names.get(hash)
      if (at === undefined) {
        at = `files/${freeName(along, name, found.type, hash)}`
        names.set(hash, at)
        along[at] = found.bytes
      }
      return address(at)
    }
    const charts = new Map<string, string>()
    const chart = ({ words, svg }: HandedChart): string => {
      let at = charts.get(svg)
      if (at === undefined) {
        charts.set(svg, (at = `files/${freeName(along, `${words}.png`, 'image/png', 'chart')}`))
        along[at] = new Uint8Array()
      }
      return address(at)
    }
    const text = treeAsProse(handed, choice, { description, file: place, chart })
    for (const [svg, at] of charts) along[at] = await drawing!.chartPng(svg)
    // By itself where nothing lies beside it.
    if (Object.keys(along).length === 0) return made(text)
    return made(zipSync({ [`${stem}.md`]: strToU8(text), ...along }, { level: 6 }), 'zip', 'application/zip')
  }
  if (kind === 'html') {
    const lit = async (dusk: boolean): Promise<string> =>
      treeSvg(await treeScene(cut, { ...choice, dusk }, asked), 'text', asked)
    // A page takes the light of whoever looks at it, and so does its picture.
    const drawn = !choice.drawn
      ? ''
      : choice.dusk
        ? await lit(true)
        : byLight(await lit(false), await lit(true), 'svg.drawn')
    const picture = (hash: string): string => {
      const found = file(hash)
      return found ? `data:${found.type};base64,${Buffer.from(found.bytes).toString('base64')}` : ''
    }
    return made(treeAsPage({ handed, choice, drawn, description, author, today, act: input.act ?? '', picture }))
  }
  const pictures = new HandedPictures(file)
  await pictures.prepare(picturesIn(handed))
  for (const { sketch, charts } of everyTopic(handed.root)) {
    if (sketch) await pictures.prepareSketch(sketch)
    for (const { svg } of charts) await pictures.prepareMade(svg, () => drawing!.chartPng(svg))
  }
  let drawn = null
  if (choice.drawn) {
    const inDots = await asPng(files)
    drawn = await picturePage(cut, choice, { ...asked, file: hash => inDots[hash] ?? null })
  }
  soFar(0.25)
  const all = [...everyTopic(handed.root)].length
  let done = 0
  // A Word document is packed after its topics are written, which takes as long again.
  const ofWriting = kind === 'docx' ? 0.35 : 0.7
  const written = (): void => soFar(0.25 + (ofWriting * ++done) / all)
  const document = { handed, choice, pictures, drawn, description, author, today, written }
  const templates = [...whole.fields.templates, ...(input.ownTemplates ?? [])]
  if (kind === 'docx') {
    const template = await (await import('./template')).templateOf(templates, choice.template, need)
    return made(await (await import('./tree-docx')).treeAsDocx({ ...document, template }))
  }
  if (kind === 'pdf') return made(await (await import('./tree-pdf')).treeAsPdf(document))
  const theme =
    choice.template === null ? null : await (await import('./template')).themeOf(templates, choice.template, need)
  return made(await (await import('./tree-slides')).treeAsSlides({ ...document, theme }, cut))
}

/** What reads drawings and draws on paper knows fewer kinds of pictures than a browser. */
async function asPng(files: Files): Promise<Files> {
  const pictures = new HandedPictures(hash => files[hash] ?? null)
  await pictures.prepare(Object.keys(files))
  return Object.fromEntries(
    Object.keys(files).flatMap(hash => {
      const made = pictures.of(hash)
      return made ? [[hash, { type: made.kind === 'jpg' ? 'image/jpeg' : 'image/png', bytes: made.bytes }]] : []
    }),
  )
}

/** The picture of the whole as a page of a document shows it: as fine as paper needs, as small as that allows. */
async function picturePage(cut: Cut, choice: Choice, asked: Parameters<typeof treeScene>[2]) {
  const scene = await treeScene(cut, choice, asked)
  const longest = Math.max(scene.bounds.width, scene.bounds.height)
  const scale = Math.max(1, Math.min(2, Math.floor(3600 / longest)))
  const bytes = await treePng(scene, asked, { ...choice, clear: false, scale })
  const pictures = new HandedPictures(() => ({ type: 'image/png', bytes }))
  await pictures.prepare(['drawn'])
  return pictures.of('drawn')
}

/** Where a file beside the text is, as an address. */
const address = (at: string): string => at.split('/').map(encodeURIComponent).join('/')

/** A file's name among others: as it's called, told apart where two are called the same. */
function freeName(taken: Readonly<Record<string, unknown>>, name: string, type: string, hash: string): string {
  const extension = /\.[a-z0-9]{1,8}$/i.exec(name)?.[0] ?? `.${type.split('/')[1]?.replace(/\+.*/, '') ?? 'bin'}`
  const stem = fileStem(name.replace(/\.[a-z0-9]{1,8}$/i, '')) || hash.slice(0, 8)
  for (let n = 1; ; n++) {
    const wanted = `${stem}${n > 1 ? ` ${n}` : ''}${extension}`
    if (!(`files/${wanted}` in taken)) return wanted
  }
}
