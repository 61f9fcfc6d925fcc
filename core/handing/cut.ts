import { compile, type Circumstances } from '../find/evaluate'
import { Dressing } from '../dress/dressing'
import { hasWords } from '../find/search'
import { fold } from '../find/text'
import type { Query } from '../tree/query'
import type { Wait } from '../tree/plan'
import type { SavedView } from '../tree/view'
import { originalOf } from '../formats/readable'
import { schemeNumbers } from '../tree/numbering'
import { BLANK, type Content, type Topic, type TopicId } from '../tree/topic'
import { childrenOf, isLive, topicOf, type Tree } from '../tree/tree'
import { CannotMake } from '../scene/cannot-make'
import { allTopics, looseOf, numbering, topmost } from '../tree/walk'
import { type Choice, KINDS, type Part, type Taken, taken } from './choice'

/** A part of a tree as it's handed out: a tree by itself, which holds what was chosen and nothing else. */
export interface Cut {
  readonly tree: Tree
  /** What topics are called by, as they stand in the whole: "2.4". Empty where numbers don't go along. */
  readonly numbers: ReadonlyMap<TopicId, string>
  /** Topics of the part that stay behind, because they stand too deep. */
  readonly deeper: number
}

/** Why a part can't be handed out: it was removed, or the filter leaves nothing. */
export class NothingThere extends CannotMake {
  constructor(message: string) {
    super('nothing', message)
  }
}

/** What goes when a kind of thing doesn't go along. */
const FIELDS: Readonly<Partial<Record<Taken, readonly (keyof Content)[]>>> = {
  notes: ['note'],
  tasks: [
    'start',
    'due',
    'startTime',
    'dueTime',
    'duration',
    'done',
    'priority',
    'people',
    'effort',
    'estimate',
    'began',
    'ended',
    'left',
    'spent',
    'waits',
    'again',
    'turns',
    'checks',
    'entry',
    'meeting',
    'item',
    'votes',
  ],
  markers: ['markers'],
  links: ['links', 'place'],
  files: ['files'],
  pictures: ['picture', 'sketch'],
  'cross-links': ['ties'],
  numbers: ['numbering'],
  figures: ['figures', 'charts', 'choice'],
}

/** What of the tree itself is for those who have it. */
const PRIVATE: Pick<Tree['fields'], 'views' | 'handOuts' | 'templates' | 'tags' | 'capacities' | 'groups' | 'steps'> = {
  views: [],
  handOuts: [],
  templates: [],
  tags: [],
  capacities: [],
  groups: [],
  steps: [],
}

/** The topics that a part begins with, and which of those below go along. */
interface Extent {
  readonly tops: readonly TopicId[]
  readonly keep: ReadonlySet<TopicId> | null
}

function withWay(tree: Tree, ids: Iterable<TopicId>): Set<TopicId> {
  const keep = new Set<TopicId>()
  for (const id of ids)
    for (let at: TopicId | null = id; at !== null && !keep.has(at); at = tree.topics.get(at)?.parent ?? null)
      keep.add(at)
  return keep
}

function viewOf(tree: Tree, id: string): SavedView {
  const view = tree.fields.views.find(one => one.id === id)
  if (!view) throw new NothingThere('The tree doesn’t keep that view any more.')
  return view
}

/** What a choice's filter asks, its own or that of the view it names; null for none. */
export function queryOf(tree: Tree, part: Part): Query | null {
  if (part.kind === 'filter') return part.query
  return part.kind === 'view' ? (tree.fields.views.find(({ id }) => id === part.view)?.query ?? null) : null
}

function extentOf(tree: Tree, part: Part, circumstances: Circumstances | null): Extent {
  const live = (id: TopicId): boolean => tree.topics.has(id) && isLive(tree, id)
  const way = (ids: readonly TopicId[]): Extent => {
    if (ids.length === 0) throw new NothingThere('The filter leaves nothing to hand out.')
    const keep = withWay(tree, ids)
    return { tops: [tree.centre, ...looseOf(tree).filter(id => keep.has(id))], keep: keep.add(tree.centre) }
  }
  const filtered = (query: Query | null, text: string): Extent => {
    if (!circumstances) throw new RangeError('a filter needs to know who asks, and when')
    const test = query === null ? () => true : compile(query, tree, circumstances)
    const words = fold(text).split(/\s+/).filter(Boolean)
    return way(Array.from(allTopics(tree)).flatMap(topic => (hasWords(topic, words) && test(topic) ? [topic.id] : [])))
  }
  switch (part.kind) {
    case 'tree':
      return { tops: [tree.centre, ...looseOf(tree)], keep: null }
    case 'branch':
      if (!live(part.topic)) throw new NothingThere('That branch isn’t in the tree any more.')
      return { tops: [part.topic], keep: null }
    case 'topics': {
      const there = part.topics.filter(live)
      if (there.length === 0) throw new NothingThere('None of those topics is in the tree any more.')
      return part.way ? way(there) : { tops: topmost(tree, there), keep: null }
    }
    case 'filter':
      return filtered(part.query, '')
    case 'view': {
      const view = viewOf(tree, part.view)
      if (view.query === null && view.text.trim() === '') return { tops: [tree.centre, ...looseOf(tree)], keep: null }
      return filtered(view.query, view.text)
    }
  }
}

/**
 * The part of a tree that a choice means, without what it leaves out, as a tree by itself: what isn't chosen isn't in it. Its centre is
 * the branch's topic, or the tree's own centre; references say what their originals say. Topics keep their ids, numbers and
 * colours. Throws `NothingThere` where nothing is left.
 */
export function cutOut(tree: Tree, choice: Choice, circumstances: Circumstances | null = null): Cut {
  const { tops, keep } = extentOf(tree, choice.part, circumstances)
  const along = taken(choice)
  const hidden = (Object.keys(FIELDS) as Taken[]).flatMap(what => (along.has(what) ? [] : FIELDS[what]!))
  const blank = Object.fromEntries(hidden.map(field => [field, BLANK[field]])) as Partial<Topic>
  const dressing = new Dressing(
    () => tree,
    () => false,
  )
  dressing.refresh()
  const topics = new Map<TopicId, Topic>()
  const children = new Map<TopicId | '', TopicId[]>()
  let deeper = 0
  const depth = choice.depth ?? (choice.part.kind === 'view' ? viewOf(tree, choice.part.view).depth : null)

  /** What a filter found is seen, wherever it stands: not folded away, nor behind the door of an annex. */
  const open: Partial<Topic> = keep === null ? {} : { folded: false, annex: false }
  const lean = (topic: Topic, changed: Partial<Topic> = {}): Topic => {
    const original = originalOf(tree, topic)
    const said =
      original === topic
        ? {}
        : {
            title: original.title,
            start: original.start,
            due: original.due,
            startTime: original.startTime,
            dueTime: original.dueTime,
            duration: original.duration,
            done: original.done,
            priority: original.priority,
            people: original.people,
            markers: original.markers,
          }
    return { ...topic, ...said, reference: null, ...blank, ...open, ...changed }
  }
  const walk = (id: TopicId, level: number): void => {
    const below = childrenOf(tree, id).filter(child => keep === null || keep.has(child))
    if (depth !== null && level >= depth) {
      const left = [...below]
      for (let at = left.pop(); at; at = left.pop()) {
        deeper++
        left.push(...childrenOf(tree, at).filter(child => keep === null || keep.has(child)))
      }
      return
    }
    if (below.length > 0) children.set(id, below)
    for (const child of below) {
      topics.set(child, lean(topicOf(tree, child)))
      walk(child, level + 1)
    }
  }

  const isWhole = tops[0] === tree.centre
  const alone = tops.length === 1
  const centre = isWhole || !alone ? tree.centre : tops[0]!
  const root = topicOf(tree, centre)
  if (isWhole || alone) {
    topics.set(centre, lean(root, { parent: null, removed: false, x: null, y: null, tray: false }))
    walk(centre, 0)
  } else topics.set(centre, { ...topicOf(tree, centre), ...BLANK, title: root.title, arrangement: root.arrangement })
  for (const top of isWhole ? tops.slice(1) : alone ? [] : tops) {
    // What stands loose stays so; topics that were picked hang on the centre, which names them.
    const parent = isWhole ? null : centre
    topics.set(top, lean(topicOf(tree, top), { parent, ...(isWhole ? {} : { x: null, y: null, tray: false }) }))
    const list = children.get(parent ?? '')
    if (list) list.push(top)
    else children.set(parent ?? '', [top])
    walk(top, 1)
  }
  // What was a branch of the whole keeps its colour, wherever it stands now.
  if (centre !== tree.centre || !isWhole)
    for (const main of children.get(centre) ?? []) {
      const topic = topics.get(main)!
      if (topic.hue === null) topics.set(main, { ...topic, hue: dressing.chosenHueOf(main) })
    }
  /** What lies in another tree holds as before, but isn't named to whoever may not see that tree. */
  const waitInCut = (wait: Wait): Wait[] => {
    const { elsewhere } = wait
    if (elsewhere) return [{ ...wait, elsewhere: { ...elsewhere, title: '', treeTitle: '' } }]
    return topics.has(wait.on) ? [wait] : []
  }
  const cut: Tree = {
    centre,
    topics,
    children,
    fields: {
      ...tree.fields,
      ...PRIVATE,
      ...(along.has('figures') ? {} : { measures: [], namedValues: [], whatIfs: [] }),
      ...(choice.part.kind === 'tree' ? {} : { description: '' }),
    },
  }
  for (const [id, topic] of topics)
    if (topic.ties.length > 0 || topic.waits.length > 0)
      topics.set(id, {
        ...topic,
        ties: topic.ties.filter(({ to }) => topics.has(to)),
        waits: topic.waits.flatMap(waitInCut),
      })
  return {
    tree: cut,
    numbers: along.has('numbers') ? numbersOf(tree, topics, KINDS[choice.as].group === 'picture') : new Map(),
    deeper,
  }
}

/**
 * The numbers that topics show in the tree, or, where it shows none, those they're called by aloud. `shown`: those that are shown
 * alone, since a picture is what the screen shows.
 */
function numbersOf(tree: Tree, topics: ReadonlyMap<TopicId, Topic>, shown: boolean): Map<TopicId, string> {
  const scheme = schemeNumbers(tree)
  const numbers = shown || scheme.size > 0 ? scheme : numbering(tree)
  return new Map([...numbers].filter(([id]) => topics.has(id)))
}
