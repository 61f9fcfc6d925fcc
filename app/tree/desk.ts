import type { InjectionKey } from 'vue'
import type { Layout } from '#core/arrange/layout'
import { type Plank, plankOf } from '#core/arrange/plank'
import { detailChanges, type Known, readDetails } from '#core/capture/quick-details'
import type { OutlineShape } from '#core/tree/view'
import {
  addressesIn,
  type Attachment,
  branch,
  type Change,
  childrenOf,
  countTopics,
  type Field,
  type Fields,
  indent,
  isLive,
  isWithin,
  depthOf,
  markerSetsOf,
  markersOf,
  outdent,
  pathTo,
  rivalsOf,
  setAll,
  shorten,
  type Step,
  type Style,
  toggleMember,
  topicOf,
  type Topic,
  type TopicId,
  type Touched,
  type Tree,
} from '#core/tree'
import type { Present, Role } from '#core/contract'
import { expectField } from '~/focus/typeahead'
import { Dressing } from './dressing'
import { Changes } from './changes'
import { contentOf, type SmallPrint, smallPrintOf } from './face'
import { Elsewhere } from './elsewhere'
import { Finding } from './finding'
import { Folds } from './folds'
import { type Guise, Guises } from './guises'
import { Journey } from './journey'
import { newId } from './new-id'
import { browserRuler } from './ruler'
import { type LineState, type TreePerson, TreeSession, type Turned } from '../session/session'
import { Ties } from './ties'
import { Uploads } from './uploads'

/** `meeting`: the brief, the running and the minutes of a meeting, in place of the tree. */
export type View = 'canvas' | 'outline' | 'meeting'

/** What a view of the tree does for the desk while it is shown. */
export interface ShownView {
  reveal(id: TopicId): void
  neighbour(id: TopicId, direction: 'up' | 'down' | 'left' | 'right'): TopicId | null
  fit?(): void
  readonly layout?: Layout
}
const NO_VIEW: ShownView = { reveal() {}, neighbour: () => null }

/** What a notice offers besides its words. `holds`: whether it can be done still; the offer goes away when not. */
export interface Offer {
  readonly name: string
  readonly run: () => void
  readonly holds?: () => boolean
}

export interface Drawn {
  readonly topic: Topic
  /** What is shown: the topic's own words, or those of the one it refers to. */
  readonly guise: Guise
  readonly level: number
  readonly style: Style
  readonly plank: Plank
  readonly smallPrint: readonly SmallPrint[]
}

export const DESK: InjectionKey<Desk> = Symbol('desk')

/**
 * What one person has in hand in one open tree: the selection, the title being typed, folds and the view, and
 * everything they can do. The tree itself stays plain data in the session; only what is on the screen is reactive.
 */
export class Desk {
  readonly session: TreeSession
  readonly dressing: Dressing
  readonly finding: Finding
  readonly guises: Guises
  readonly changes: Changes
  readonly uploads: Uploads
  readonly ties: Ties
  readonly journey: Journey
  private readonly elsewhere: Elsewhere
  /** What the outline shows beside titles, and in which order. */
  readonly outline = ref<OutlineShape>({
    columns: ['number', 'people', 'due', 'done', 'signs'],
    sort: null,
    group: null,
  })
  /** The file that is open over the tree. */
  readonly viewing = shallowRef<{ readonly topic: TopicId; readonly file: Attachment } | null>(null)
  /** The topic whose substance is previewed; pinned, it stays until Esc. */
  readonly previewed = shallowRef<{ readonly topic: TopicId; readonly pinned: boolean } | null>(null)
  /** The cross-link that is selected. */
  readonly tie = shallowRef<{ readonly topic: TopicId; readonly id: string } | null>(null)
  /** The one branch that is shown; null for the whole tree. */
  readonly only = ref<TopicId | null>(null)
  /** Counts up whenever topics changed; views that show tree data read it. */
  readonly tick = ref(0)
  /** The same, a frame later: for what may follow the planks, like the side sheet and the counts. */
  readonly lateTick = ref(0)
  readonly selection = shallowRef<ReadonlySet<TopicId>>(new Set())
  readonly focus = ref<TopicId>('')
  readonly editing = shallowRef<{ readonly id: TopicId; readonly fresh: boolean } | null>(null)
  readonly draft = ref('')
  readonly view = ref<View>('canvas')
  readonly sheetOpen = ref(true)
  /** How many topics there are; counted when a pause comes, since in a large tree it takes longer than a frame. */
  readonly topicCount = ref(0)
  /** The depth last opened to: 0 for all, null when folds have been set one by one since. */
  readonly depth = ref<number | null>(null)
  readonly status = shallowReactive({
    ready: false,
    state: 'opening' as LineState,
    goneWhy: '',
    role: 'viewer' as Role,
    waiting: 0,
    canUndo: false,
    canRedo: false,
    people: [] as readonly TreePerson[],
    present: [] as readonly Present[],
  })
  /** Lines of the tray that are being dragged. */
  carried: readonly TopicId[] = []
  /** The view that is shown, as long as it is: what it knows is never asked for after it has gone. */
  private shown: ShownView = NO_VIEW
  private readonly listeners = new Set<(touched: Touched | 'all') => void>()
  private readonly folds: Folds
  private readonly drawn = new Map<TopicId, Drawn>()
  private draftDrawn: Drawn | null = null
  private anchor: TopicId = ''
  /** Where the focus was before a new topic was begun. */
  private cameFrom: TopicId = ''
  private now = today()
  private readonly stopDays = onNewDay(() => this.dayBegins())
  private lateTimer = 0
  private countTimer = 0
  private statusQueued = false

  /**
   * Says something in a notice. With `true` it offers to take back the very action that it's about, as long as that can
   * be done; with an offer of its own, that.
   */
  say(message: string, offer: boolean | Offer = false): void {
    const made = offer === true ? this.session.lastMade : null
    this.notify(
      message,
      typeof offer === 'object'
        ? offer
        : made && {
            name: 'Undo',
            run: () => this.after(this.session.takeBack(made), 'That can’t be taken back any more.'),
            holds: () => this.session.canTakeBack(made),
          },
    )
  }

  constructor(
    treeId: string,
    readonly userId: string,
    private readonly notify: (message: string, offer: Offer | null) => void,
  ) {
    this.folds = new Folds(() => this.tree, treeId, userId)
    this.session = new TreeSession(treeId, userId, {
      touched: touched => this.onTouched(touched),
      replaced: () => this.onReplaced(),
      status: () => this.onStatus(),
      said: message => this.say(message),
      news: edits => {
        this.changes.hear(edits)
        // What was changed just now counts at once.
        if (this.finding.asksForChanges) this.find()
      },
      elsewhere: () => this.elsewhere.ask(),
      caughtUp: () => this.elsewhere.ask(0),
    })
    this.guises = new Guises(() => this.tree)
    this.changes = new Changes(treeId)
    this.uploads = new Uploads(this)
    this.ties = new Ties(() => this.tree)
    this.journey = new Journey(this)
    this.elsewhere = new Elsewhere(this, ids => {
      for (const id of ids) this.drawn.delete(id)
      this.tell(new Set(ids))
    })
    this.dressing = new Dressing(() => this.tree)
    this.finding = new Finding(
      () => this.tree,
      () => ({ me: userId, today: this.now, changesOf: this.changes.of, dayOf: instant => isoDay(new Date(instant)) }),
    )
    watch([this.selection, this.editing], () => this.showPresence())
    watch([this.finding.text, this.finding.marker, this.finding.query, this.finding.rest], () => this.find())
  }

  /** Looks for what is wanted; where the log has to be asked, first that. */
  private find(): void {
    const hid = this.hiding
    if (this.finding.asksForChanges && !this.changes.ready) {
      this.changes.load().then(
        () => this.find(),
        (error: Error) => this.say(error.message),
      )
      return
    }
    this.finding.run()
    this.hiding = this.finding.active && this.finding.rest.value === 'hide'
    if (this.hiding && this.finding.isHidden(this.focus.value)) this.select(this.tree.centre, { quiet: true })
    this.tell(hid || this.hiding ? 'all' : new Set())
  }

  /** Whether a filter leaves topics out of the views just now. */
  hiding = false
  get tree(): Tree {
    return this.session.tree
  }

  /** A topic that is being made isn't there for the others yet: they see its maker at its parent. */
  private showPresence(): void {
    const open = this.editing.value
    const known = (id: TopicId): TopicId | null =>
      open?.fresh && open.id === id ? (this.tree.topics.get(id)?.parent ?? null) : id
    this.session.showPresence(
      [...this.selection.value].flatMap(id => known(id) ?? []),
      open ? known(open.id) : null,
    )
  }

  async open(): Promise<void> {
    await this.session.open()
    this.focus.value = this.anchor = this.tree.centre
    this.selection.value = new Set([this.tree.centre])
    this.topicCount.value = countTopics(this.tree)
    this.dressing.refresh()
    this.guises.refresh()
    this.elsewhere.ask(0)
    this.status.ready = true
    this.takeStatus()
  }

  close(): void {
    this.stopDays()
    this.elsewhere.close()
    this.uploads.stopAll()
    this.folds.close()
    this.session.close()
  }

  /** Hears of every change; 'all' when nothing of before may be relied on. */
  onChange(listener: (touched: Touched | 'all') => void): () => void {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  private tell(touched: Touched | 'all'): void {
    this.ties?.changed(touched)
    this.tick.value++
    for (const listener of this.listeners) listener(touched)
    if (!this.lateTimer) this.follow()
    clearTimeout(this.countTimer)
    this.countTimer = window.setTimeout(
      () => {
        this.topicCount.value = countTopics(this.tree)
      },
      this.tree.topics.size > 5000 ? 400 : 0,
    )
  }

  private follow(): void {
    // After the frame that shows the planks, so that typing never waits for a form to be drawn.
    this.lateTimer = requestAnimationFrame(() => {
      setTimeout(() => {
        this.lateTimer = 0
        this.lateTick.value++
      })
    })
  }

  /** A view is shown from now on; call back when it goes. */
  show(view: ShownView): () => void {
    this.shown = view
    return () => {
      if (this.shown === view) this.shown = NO_VIEW
    }
  }

  reveal(id: TopicId): void {
    this.shown.reveal(id)
  }

  fitSoon(): void {
    this.shown.fit?.()
  }

  /** Where planks stand, while the canvas is shown. */
  get layout(): Layout | null {
    return this.shown.layout ?? null
  }

  private onTouched(touched: Touched): void {
    // A main branch's rank shows in its plank, so topics that moved are measured anew; those below keep theirs, unless
    // levels have a style.
    const deeper: TopicId[] = []
    let moved = false
    for (const id of touched) {
      if (id === null) continue
      const before = this.drawn.get(id)
      this.drawn.delete(id)
      const topic = this.tree.topics.get(id)
      moved ||=
        !before ||
        !topic ||
        before.topic.parent !== topic.parent ||
        before.topic.order !== topic.order ||
        before.topic.removed !== topic.removed
      if (!this.dressing.levelled || !before || !topic || before.level === depthOf(this.tree, topic.id)) continue
      for (const below of branch(this.tree, id)) {
        this.drawn.delete(below.id)
        deeper.push(below.id)
      }
    }
    for (const id of this.guises.changed(touched, moved)) {
      this.drawn.delete(id)
      deeper.push(id)
    }
    this.elsewhere.askOfNew()
    this.mendSelection()
    if (touched.has(null)) this.redress()
    else if (touched.has(this.tree.centre)) this.dressing.refresh()
    this.finding.changed()
    this.tell(touched.has(null) || this.hiding ? 'all' : deeper.length > 0 ? new Set([...touched, ...deeper]) : touched)
  }

  private onReplaced(): void {
    this.guises.refresh()
    this.mendSelection()
    this.redress()
    this.finding.changed()
    this.tell('all')
  }

  /** After the theme or a field of the tree changed: every plank is measured and coloured anew. */
  redress(): void {
    this.drawn.clear()
    this.dressing.refresh()
  }

  /** Past midnight what is due today is another. */
  private dayBegins(): void {
    this.now = today()
    if (!this.status.ready) return
    this.redress()
    this.find()
    this.tell('all')
  }

  /** What words after `//` are read with. */
  known(): Known {
    return { people: this.session.people, markers: markersOf(this.tree.fields), ...daySense() }
  }

  private onStatus(): void {
    if (this.statusQueued) return
    this.statusQueued = true
    setTimeout(() => {
      this.statusQueued = false
      this.takeStatus()
    })
  }

  private takeStatus(): void {
    const { session, status } = this
    Object.assign(status, {
      state: session.state,
      goneWhy: session.goneWhy,
      role: session.role,
      waiting: session.waitingCount,
      canUndo: session.canUndo && session.canEdit,
      canRedo: session.canRedo && session.canEdit,
    })
    if (status.people !== session.people) {
      status.people = session.people
      this.drawn.clear()
      if (status.ready) this.tell('all')
    }
    status.present = [...session.present.values()]
  }

  /** A selection never holds what isn't there any more. */
  private mendSelection(): void {
    if (!this.focus.value) return
    const gone = [...this.selection.value].filter(id => !isLive(this.tree, id))
    if (gone.length === 0 && isLive(this.tree, this.focus.value)) return
    const left = [...this.selection.value].filter(id => isLive(this.tree, id))
    if (!isLive(this.tree, this.focus.value)) {
      let at: TopicId | null = this.tree.topics.get(this.focus.value)?.parent ?? null
      while (at !== null && !isLive(this.tree, at)) at = this.tree.topics.get(at)?.parent ?? null
      this.focus.value = at ?? this.tree.centre
    }
    this.selection.value = new Set(left.length > 0 ? left : [this.focus.value])
    if (this.only.value !== null && !isLive(this.tree, this.only.value)) this.showOnly(null)
    if (this.editing.value && !isLive(this.tree, this.editing.value.id)) {
      this.editing.value = null
      this.say('Somebody removed the topic you were typing in.')
    }
  }

  // — What is seen

  nameOf = (id: string): string => this.session.people.find(person => person.id === id)?.name ?? 'Somebody'

  /** The topic with its measured plank; measured once until it changes. */
  drawnOf(id: TopicId): Drawn {
    if (this.editing.value?.id === id && this.draftDrawn) return this.draftDrawn
    const topic = topicOf(this.tree, id)
    const known = this.drawn.get(id)
    if (known?.topic === topic) return known
    const made = this.measure(topic, topic.title)
    this.drawn.set(id, made)
    return made
  }

  private measure(topic: Topic, title: string): Drawn {
    const guise = this.guises.of(topic)
    const smallPrint = smallPrintOf(guise, this.nameOf, this.now)
    const style = this.dressing.styleOf(topic)
    const level = this.dressing.levelled ? depthOf(this.tree, topic.id) : 0
    const words = guise.reference === null ? title : guise.topic.title
    return {
      topic,
      guise,
      level,
      style,
      smallPrint,
      plank: plankOf(
        contentOf(this.tree, guise.topic, style, guise.number ? `${guise.number} ${words}` : words, smallPrint),
        browserRuler,
      ),
    }
  }

  /**
   * A branch with a page of its own shows its plank alone everywhere but on that page. While a filter leaves out the
   * rest, folds don't hide what it found.
   */
  isFolded(id: TopicId): boolean {
    if (topicOf(this.tree, id).page && id !== this.tree.centre) return id !== this.only.value
    return this.folds.isFolded(id) && !(this.hiding && this.finding.leadsOn(id))
  }

  /** The page that a topic stands on: the nearest above it that has one, or the whole tree. */
  pageOf(id: TopicId): TopicId | null {
    for (
      let at = topicOf(this.tree, id).parent;
      at !== null && at !== this.tree.centre;
      at = topicOf(this.tree, at).parent
    )
      if (topicOf(this.tree, at).page) return at
    return null
  }

  selected(): TopicId[] {
    return [...this.selection.value].filter(id => this.tree.topics.has(id))
  }

  // — Going about

  select(id: TopicId, how: { add?: boolean; range?: boolean; quiet?: boolean } = {}): void {
    if (how.range) {
      this.selection.value = new Set([
        ...(how.add ? this.selection.value : []),
        ...this.between(this.anchor || this.focus.value, id),
      ])
    } else if (how.add) {
      const next = new Set(this.selection.value)
      if (next.has(id) && next.size > 1) next.delete(id)
      else next.add(id)
      this.selection.value = next
      this.anchor = id
    } else {
      this.selection.value = new Set([id])
      this.anchor = id
    }
    this.focus.value = id
    if (!how.quiet) this.reveal(id)
  }

  /** Siblings from one to the other, or the two alone when they have different parents. */
  private between(from: TopicId, to: TopicId): TopicId[] {
    const parent = this.tree.topics.get(from)?.parent
    if (parent === undefined || parent !== topicOf(this.tree, to).parent || from === this.tree.centre)
      return [...this.selection.value, to]
    const siblings = childrenOf(this.tree, parent)
    const [a, b] = [siblings.indexOf(from), siblings.indexOf(to)].sort((x, y) => x - y)
    return siblings.slice(a, b! + 1)
  }

  go(direction: 'up' | 'down' | 'left' | 'right', extend = false): void {
    const next = this.shown.neighbour(this.focus.value, direction)
    if (next) this.select(next, extend ? { range: true } : {})
  }

  goEnd(end: 'first' | 'last'): void {
    const { parent } = topicOf(this.tree, this.focus.value)
    const siblings = this.focus.value === this.tree.centre ? [] : childrenOf(this.tree, parent)
    const target = end === 'first' ? siblings[0] : siblings.at(-1)
    if (target) this.select(target)
  }

  /** Goes to a topic wherever it is, unfolding what hides it. */
  visit(id: TopicId): void {
    const page = this.pageOf(id)
    const here = this.only.value
    // On to the page it stands on; a branch that is shown alone stays when it holds the topic without a page between.
    if (
      page !== null
        ? here === null || !isWithin(this.tree, here, page) || !isWithin(this.tree, id, here)
        : here !== null && !isWithin(this.tree, id, here)
    )
      this.showOnly(page, id)
    this.unfoldTo(id)
    this.select(id)
  }

  /** Opens, for oneself, whatever hides a topic; the selection stays. */
  unfoldTo(id: TopicId): void {
    const hiding = pathTo(this.tree, id)
      .slice(0, -1)
      .filter(above => !above.page && this.isFolded(above.id))
    for (const above of hiding) this.folds.set(above.id, false)
    if (hiding.length > 0) this.tell(new Set(hiding.map(topic => topic.id)))
  }

  /** Shows one branch and nothing else; null shows the whole tree again. */
  showOnly(id: TopicId | null, focus: TopicId | null = null): void {
    const from = this.only.value
    this.only.value = id === this.tree.centre ? null : id
    this.tell('all')
    const at = id ?? (from !== null && isLive(this.tree, from) ? from : this.tree.centre)
    if (focus !== null) this.select(focus, { quiet: true })
    else if (id !== null && !isWithin(this.tree, this.focus.value, id)) this.select(at)
    else if (id === null && from !== null && this.tree.topics.get(from)?.page) this.select(at)
    this.fitSoon()
  }

  /** Folds or unfolds, for oneself. */
  toggleFold(ids: readonly TopicId[] = this.selected()): void {
    const page = ids.length === 1 && ids[0] !== this.only.value && topicOf(this.tree, ids[0]!).page ? ids[0]! : null
    if (page !== null) {
      this.showOnly(page)
      return
    }
    const able = ids.filter(
      id => id !== this.tree.centre && !topicOf(this.tree, id).page && childrenOf(this.tree, id).length > 0,
    )
    if (able.length === 0) return
    const folded = !this.isFolded(able[0]!)
    this.depth.value = null
    for (const id of able) this.folds.set(id, folded)
    if (folded && able.some(id => id !== this.focus.value && isWithin(this.tree, this.focus.value, id)))
      this.select(able[0]!)
    this.tell(new Set(able))
  }

  /** Opens the tree to a depth, for oneself; null opens all. */
  openTo(depth: number | null): void {
    this.depth.value = depth ?? 0
    this.folds.openTo(depth ?? 0)
    const path = pathTo(this.tree, this.focus.value)
    const hidden = path.findIndex(topic => this.isFolded(topic.id))
    if (hidden >= 0 && hidden < path.length - 1) this.select(path[hidden]!.id, { quiet: true })
    this.tell('all')
    this.reveal(this.focus.value)
  }

  /** Goes to the next or previous topic that was found. */
  goFound(by: 1 | -1): void {
    const id = this.finding.step(by, this.focus.value)
    if (id) this.visit(id)
  }

  // — Typing

  /** Opens a title for typing. `fresh`: the topic was just made and goes again when nothing is typed. */
  edit(id: TopicId = this.focus.value, fresh = false): void {
    if (!this.session.canEdit) {
      this.say(`As ${this.session.role} you can read this tree but not change it.`)
      return
    }
    if (topicOf(this.tree, id).reference && !fresh) {
      this.say('This topic shows another one. Its words are changed at the original.')
      return
    }
    if (this.editing.value) this.keep()
    this.journey.arrive()
    expectField()
    this.draft.value = topicOf(this.tree, id).title
    this.editing.value = { id, fresh }
    this.redraft()
    this.select(id)
  }

  /** The plank grows with what is typed. */
  redraft(): void {
    const open = this.editing.value
    if (!open || !this.tree.topics.has(open.id)) return
    this.draftDrawn = this.measure(topicOf(this.tree, open.id), this.draft.value || ' ')
    this.tell(new Set([open.id]))
  }

  /** What a typed title means, as changes. */
  private titleChanges(topic: Topic, said: string): Change[] {
    const { title, details } = readDetails(said.toWellFormed(), this.known())
    const changes: Change[] =
      title === topic.title ? [] : [{ op: 'set', topic: topic.id, field: 'title', value: title }]
    // An address that is typed in a title can be opened from then on.
    for (const url of addressesIn(title))
      if (!topic.links.some(link => link.url === url) && !addressesIn(topic.title).includes(url))
        changes.push({ op: 'put', topic: topic.id, set: 'links', member: { id: newId(), url, title: '' } })
    return [...changes, ...detailChanges(topic.id, details)]
  }

  /** Keeps what was typed. Words after `//` become details. */
  keep(): void {
    const open = this.editing.value
    if (!open) return
    this.editing.value = null
    this.draftDrawn = null
    const topic = this.tree.topics.get(open.id)
    if (!topic) return
    const said = this.draft.value.replace(/\s+$/, '').toWellFormed()
    if (said === '' && open.fresh) {
      this.session.letGo()
      return
    }
    const changes = this.titleChanges(topic, said)
    if (open.fresh) this.session.release(changes)
    else this.session.make(changes)
    this.tell(new Set([open.id]))
  }

  /** Ends typing by Esc: a new topic keeps its text; an edited title goes back, and redo brings what was typed. */
  drop(): void {
    const open = this.editing.value
    if (!open) return
    const said = this.draft.value.replace(/\s+$/, '')
    if (open.fresh && said !== '') {
      this.keep()
      return
    }
    this.editing.value = null
    this.draftDrawn = null
    const topic = this.tree.topics.get(open.id)
    if (!open.fresh && topic && said !== topic.title) {
      this.session.offerRedo(this.titleChanges(topic, said))
      this.say('The title is as it was.', {
        name: 'Take what I typed',
        run: () => this.redo(),
        holds: () => this.session.canRedo,
      })
    }
    if (open.fresh) {
      const before = this.tree.topics.get(open.id)?.parent
      this.session.letGo()
      if (this.cameFrom && isLive(this.tree, this.cameFrom)) this.select(this.cameFrom)
      else if (before) this.select(before)
    }
    this.tell(new Set([open.id]))
  }

  // — Building

  /** Makes one edit of what somebody did. False when there is nothing to do or it's refused. */
  run(step: Pick<Step, 'changes'>): boolean {
    return this.session.make(step.changes)
  }

  /** Makes a topic that nobody hears of yet and opens its title. `unfold`: what has to be open for it to be seen. */
  beginTyping(step: Step, unfold?: TopicId): void {
    if (!this.guard()) return
    if (this.editing.value) this.keep()
    if (unfold && this.isFolded(unfold)) this.toggleFold([unfold])
    this.cameFrom = this.focus.value
    if (this.session.hold(step.changes)) this.edit(step.made[0], true)
  }

  guard(): boolean {
    if (this.session.canEdit) return true
    this.say(
      this.session.state === 'gone'
        ? this.session.goneWhy
        : `As ${this.session.role} you can read this tree but not change it.`,
    )
    return false
  }

  /** While typing a title, moves its topic and types on. */
  moveWhileTyping(how: 'in' | 'out'): void {
    const open = this.editing.value
    if (!open) return
    const draft = this.draft.value
    const step = how === 'in' ? indent(this.tree, [open.id]) : outdent(this.tree, [open.id])
    if (open.fresh ? this.session.holdMore(step.changes) : this.session.make(step.changes)) {
      this.draft.value = draft
      this.unfoldTo(open.id)
      this.redraft()
      this.reveal(open.id)
    }
  }

  /**
   * What is done to a reference is done to its original, where that stands in this tree; elsewhere it can only be done
   * there.
   */
  private originals(ids: readonly TopicId[]): TopicId[] {
    let elsewhere = false
    const found = ids.flatMap(id => {
      const topic = this.tree.topics.get(id)
      if (!topic?.reference) return [id]
      const { original } = this.guises.of(topic)
      if (original?.tree === null) return [original.topic]
      elsewhere = true
      return []
    })
    if (elsewhere) this.say('What is shown from another tree is changed there. The arrow sign leads to it.')
    return [...new Set(found)]
  }

  set<F extends Field>(field: F, value: Fields[F], ids: readonly TopicId[] = this.selected()): void {
    if (this.guard()) this.run(setAll(this.tree, SHOWN_FIELDS.has(field) ? this.originals(ids) : ids, field, value))
  }

  toggle(set: 'markers' | 'people', member: string, ids: readonly TopicId[] = this.selected()): void {
    if (this.guard())
      this.run(
        toggleMember(
          this.tree,
          this.originals(ids),
          set,
          member,
          set === 'markers' ? rivalsOf(member, markerSetsOf(this.tree.fields)) : [],
        ),
      )
  }

  put(topic: TopicId, change: Change): void {
    if (this.guard()) this.session.make([change])
    this.tell(new Set([topic]))
  }

  toggleDone(): void {
    const ids = this.selected()
    this.set('done', ids.every(id => this.guises.of(topicOf(this.tree, id)).topic.done === 100) ? 0 : 100, ids)
  }

  selectAll(ids: readonly TopicId[]): void {
    if (ids.length === 0) return
    this.selection.value = new Set(ids)
    this.focus.value = this.anchor = ids[0]!
    this.reveal(ids[0]!)
  }

  selectSiblings(): void {
    const at = this.focus.value
    if (at !== this.tree.centre) this.selection.value = new Set(childrenOf(this.tree, topicOf(this.tree, at).parent))
  }

  undo(): void {
    this.after(this.session.undo(), 'There is nothing of yours to undo.')
  }

  redo(): void {
    this.after(this.session.redo(), 'There is nothing to redo.')
  }

  private after({ topics, stays }: Turned, nothing: string): void {
    const there = [...topics, ...stays.map(one => one.topic)].filter(id => isLive(this.tree, id))
    if (there.length > 0) this.visit(there[0]!)
    const [first] = stays
    if (first) {
      const named =
        stays.length === 1
          ? `“${shorten(this.tree.topics.get(first.topic)?.title || 'untitled', 40)}” stays`
          : `${stays.length} topics stay`
      this.say(
        first.why === 'worked'
          ? `${named}: somebody has put work there since.`
          : `${named} where ${stays.length === 1 ? 'it is' : 'they are'}: the old place has gone.`,
      )
    } else if (topics.length === 0) this.say(nothing)
  }
}

/** Fields that a reference shows of its original. */
const SHOWN_FIELDS: ReadonlySet<Field> = new Set(['title', 'start', 'due', 'duration', 'done', 'priority'])

export function useDesk(): Desk {
  const desk = inject(DESK)
  if (!desk) throw new Error('no tree is open here')
  return desk
}
