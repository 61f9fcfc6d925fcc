import type { InjectionKey } from 'vue'
import { CrossLinks } from '#core/derive/cross-links'
import { Derivation, type Derived, NONE_STALE, union } from '#core/derive/derived'
import { Guises } from '#core/derive/guises'
import { Numbers } from '#core/derive/numbers'
import { RollUps } from '#core/derive/roll-ups'
import type { Mark } from '#core/history/marks'
import { countTopics, isLive, levelsOf, type TopicId, type Touched, type Tree } from '#core/tree'
import { type SessionEvents, TreeSession } from '~/session/session'
import { Authoring } from './authoring'
import { InHand } from './in-hand'
import { Dressing } from '#core/dress/dressing'
import { Elsewhere } from './elsewhere'
import { Finding } from '~/find/finding'
import { Journey } from './journey'
import type { Offer } from './offer'
import { Following } from './following'
import { Planks } from './planks'
import { showPresence } from './presence'
import { Selection } from './selection'
import { Showing } from './showing'
import { Status } from './status'
import { Talking } from './talking'
import { Typing } from './typing'
import { Voting } from './voting'
import { Watching } from './watching'
import { Uploads } from '~/files/uploads'
import type { Beside } from '~/find/beside'

export type { Drawn } from './planks'

export const DESK: InjectionKey<Desk> = Symbol('desk')

/**
 * What one person has in hand in one open tree: selection, typing, showing and authoring, put together, and word of
 * what changed. The tree itself stays plain data in the session; only what is on the screen is reactive.
 */
export class Desk extends InHand {
  readonly session: TreeSession
  readonly planks = new Planks(this)
  readonly dressing: Dressing
  readonly finding: Finding
  /** What is worked out from the tree, each kind told of changes in its turn. */
  private readonly derivation = new Derivation()
  readonly numbers = this.derivation.add(new Numbers(() => this.tree))
  readonly guises = this.derivation.add(new Guises(() => this.tree, this.numbers), this.numbers)
  readonly crossLinks = this.derivation.add(new CrossLinks(() => this.tree))
  readonly rollUps = this.derivation.add(new RollUps(() => this.tree))
  /** What a filter asked that the tree doesn't say. */
  private beside: Beside | null = null
  /** Told what others did, for those who hear the screen. */
  heard: SessionEvents['news'] | null = null
  readonly uploads: Uploads
  readonly journey: Journey
  protected readonly selecting = new Selection(this)
  readonly showing: Showing
  protected readonly typing = new Typing(this)
  protected readonly authoring = new Authoring(this)
  private readonly elsewhere: Elsewhere
  readonly talking = new Talking(this, () => {
    this.standing.changed()
    if (this.finding.asksForTalk) this.find()
  })
  /** Counts up whenever topics changed; views that show tree data read it. */
  readonly tick = ref(0)
  /** The same, a frame later: for what may follow the planks, like the side sheet and the counts. */
  readonly lateTick = ref(0)
  /** How many topics there are; counted when a pause comes, since in a large tree it takes longer than a frame. */
  readonly topicCount = ref(0)
  /** How many levels stand below the centre, counted with the topics. */
  readonly levels = ref(0)
  private readonly standing = new Status(this)
  readonly following = new Following(this)
  readonly watching = new Watching(this)
  readonly voting = new Voting(this)
  /** What is to be pointed out on the tree: what came, changed or moved, each with its word. */
  readonly marks = shallowRef<ReadonlyMap<TopicId, Mark>>(new Map())
  /** Whether one presents the tree, so that others may go along. */
  readonly presents = ref(false)
  /** What a click on a topic means while one is being chosen; null when a click selects, as ever. */
  pointing: ((topic: TopicId) => void) | null = null
  /** Lines of the tray that are being dragged. */
  carried: readonly TopicId[] = []
  /** Whether a filter leaves topics out of the views just now. */
  hiding = false
  today = today()
  /** The day on which a tree as it was is looked at; null for today. */
  readonly then = shallowRef<string | null>(null)
  private readonly listeners = new Set<(touched: Touched | 'all') => void>()
  private readonly stopDays = onNewDay(() => this.dayBegins())
  private lateTimer = 0
  private countTimer = 0

  constructor(
    treeId: string,
    readonly userId: string,
    private readonly notify: (message: string, offer: Offer | null) => void,
    /** The session in which the tree is open: live, or as it was at a moment. */
    sessionOf = (events: SessionEvents): TreeSession => new TreeSession(treeId, userId, events),
  ) {
    super()
    this.showing = new Showing(this, treeId, userId)
    const events: SessionEvents = {
      touched: touched => this.onTouched(touched),
      replaced: () => this.onReplaced(),
      status: () => {
        this.standing.changed()
        this.talking.flush()
      },
      said: message => this.say(message),
      news: edits => {
        // What was changed just now counts at once.
        if (this.beside?.hear(edits)) this.find()
        this.heard?.(edits)
      },
      elsewhere: () => this.elsewhere.ask(),
      look: (by, topic) => this.following.asked(by.name, topic),
      votes: () => void this.voting.refresh(),
      caughtUp: () => {
        void this.voting.refresh()
        requestIdleCallback(() => void this.watching.begin(), { timeout: 4000 })
        this.elsewhere.ask(0)
        this.talking.begin()
      },
      talk: message => this.talking.hear(message),
    }
    this.session = sessionOf(events)
    this.uploads = new Uploads(this)
    this.journey = new Journey(this)
    this.elsewhere = new Elsewhere(this, ids => {
      this.planks.forget(ids)
      this.tell(new Set(ids))
    })
    this.dressing = new Dressing(
      () => this.tree,
      () => document.documentElement.dataset.theme === 'dusk',
    )
    this.finding = new Finding(
      () => this.tree,
      () => ({
        me: userId,
        today: this.today,
        ...this.beside?.circumstances,
        talkOf: id => this.talking.signAt(id),
        ...(this.planks.figures ? { figureMeets: this.planks.figures.meets } : {}),
        dayOf: instant => isoDay(new Date(instant)),
      }),
    )
    watch([this.selection, this.editing, this.presents], () => showPresence(this))
    watch([this.focus, this.editing], () => this.following.stepped())
    watch(
      () => this.status.present,
      () => this.following.moved(),
    )
    watch([this.finding.text, this.finding.marker, this.finding.query, this.finding.rest], () => this.find())
  }

  get status(): Status['shown'] {
    return this.standing.shown
  }

  get tree(): Tree {
    return this.session.tree
  }

  /** Adds a kind of value that is worked out, from now on told of changes, after what it stands on. Returns it. */
  derive<D extends Derived>(derived: D, ...from: readonly Derived[]): D {
    return this.derivation.add(derived, ...from)
  }

  nameOf = (id: string): string => this.session.people.find(person => person.id === id)?.name ?? 'Somebody'

  async open(): Promise<void> {
    await this.session.open()
    this.selecting.begin(this.tree.centre)
    this.showing.begin()
    this.count()
    this.redressWithFigures()
    this.elsewhere.ask(0)
    // Without a line nobody says that the tree stands: what was said is read as it was kept.
    if (this.session.state === 'offline') this.talking.begin()
    this.status.ready = true
    this.standing.take()
  }

  close(): void {
    this.stopDays()
    this.elsewhere.close()
    this.talking.close()
    this.uploads.stopAll()
    this.showing.close()
    this.session.close(() => this.waiting)
  }

  /** Edits and sayings that the server hasn't acknowledged. */
  get waiting(): number {
    return this.session.waitingCount + (this.talking.talk.value?.waitingCount ?? 0)
  }

  /** Waits until what was done here is stored, so that the page one goes to knows of it; `most` ms, and not without a line. */
  async stored(most: number): Promise<void> {
    const until = Date.now() + most
    while (this.waiting > 0 && this.session.state !== 'offline' && Date.now() < until)
      await new Promise(done => setTimeout(done, 20))
  }

  /**
   * Says something in a notice. With `true` it offers to take back the very action that it's about, as long as that can
   * be done; with an offer of its own, that. `also`: another way out beside taking it back.
   */
  say(message: string, offer: boolean | Offer = false, also: Offer | null = null): void {
    const made = offer === true ? this.session.lastMade : null
    this.notify(
      message,
      typeof offer === 'object'
        ? offer
        : made && {
            name: 'Undo',
            run: () => this.authoring.after(this.session.takeBack(made), 'That can’t be taken back any more.'),
            holds: () => this.session.canTakeBack(made),
            also,
          },
    )
  }

  /** The day of the tree, in its zone, by which its plan goes for everybody; where it has none, one's own. */
  get treeDay(): string {
    return todayIn(this.tree.fields.zone)
  }

  // — Word of what changed

  /** Hears of every change; 'all' when nothing of before may be relied on. */
  onChange(listener: (touched: Touched | 'all') => void): () => void {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  tell(touched: Touched | 'all'): void {
    this.tick.value++
    for (const listener of this.listeners) listener(touched)
    if (!this.lateTimer) this.follow()
    clearTimeout(this.countTimer)
    this.countTimer = window.setTimeout(
      () => {
        this.count()
      },
      this.tree.topics.size > 5000 ? 400 : 0,
    )
  }

  private count(): void {
    this.topicCount.value = countTopics(this.tree)
    this.levels.value = levelsOf(this.tree)
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

  private onTouched(touched: Touched): void {
    const stale = this.derivation.changed(touched)
    const { figures, plan } = this.planks
    const printed = [figures?.from, plan].map(from => (from && stale.get(from)) ?? NONE_STALE)
    const shown = union(stale.get(this.guises) ?? touched, ...printed)
    const deeper = this.planks.changed(touched, shown)
    this.elsewhere.askOfNew()
    this.mend()
    if (touched.has(null)) this.redressWithFigures()
    else if (this.touchesMains(touched)) this.dressing.refresh()
    this.finding.changed()
    this.tell(touched.has(null) || this.hiding ? 'all' : deeper.length > 0 ? new Set([...touched, ...deeper]) : touched)
  }

  /** Whether the main branches, or the colours they wear, may be others. */
  private touchesMains(touched: Touched): boolean {
    const { centre, topics } = this.tree
    return touched.has(centre) || [...touched].some(id => id !== null && topics.get(id)?.parent === centre)
  }

  private onReplaced(): void {
    this.derivation.changed('all')
    this.mend()
    this.redressWithFigures()
    this.finding.changed()
    this.tell('all')
  }

  /** Nothing that is in hand stays where it isn't any more. */
  private mend(): void {
    this.selecting.mend()
    if (this.only.value !== null && !isLive(this.tree, this.only.value)) this.showOnly(null)
    this.typing.mend()
  }

  /** After the theme or a field of the tree changed: every plank is measured and coloured anew. */
  redress(): void {
    this.planks.clear()
    this.dressing.refresh()
  }

  /** What planks are measured by, or what stands on them, came later. */
  measureAgain(): void {
    this.redress()
    this.tell('all')
  }

  /** What figures on planks, and in quick details, take is loaded once there is a measure; what the plan says, once it's to. */
  private redressWithFigures(): void {
    const { planFrom, planPrint } = this.tree.fields
    if (planFrom === null || !planPrint) this.planks.plan = null
    else if (!this.planks.plan) void import('~/schedule/on-planks').then(({ putPlanOnPlanks }) => putPlanOnPlanks(this))
    this.redress()
    if (!this.planks.figures && this.tree.fields.measures.length > 0)
      void import('~/figures/on-planks').then(({ putFiguresOnPlanks }) => putFiguresOnPlanks(this))
  }

  /** Past midnight what is due today is another. */
  private dayBegins(): void {
    this.today = today()
    if (!this.status.ready) return
    this.redress()
    this.find()
    this.tell('all')
  }

  // — Finding

  /** Looks for what is wanted; where the server has to be asked, first that. */
  private find(): void {
    const hid = this.hiding
    const asked = this.finding.asksBeside
    if (asked && !this.beside?.knows(asked)) {
      import('~/find/beside')
        .then(({ Beside }) => (this.beside ??= new Beside(this)).learn(asked))
        .then(
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

  /** Goes to the next or previous topic that was found. */
  goFound(by: 1 | -1): void {
    const id = this.finding.step(by, this.focus.value)
    if (id) this.visit(id)
  }
}

export function useDesk(): Desk {
  const desk = inject(DESK)
  if (!desk) throw new Error('no tree is open here')
  return desk
}
