import type { Layout } from '#core/arrange/layout'
import { type OutlineShape, outlineShape } from '#core/tree/view'
import {
  type Attachment,
  type BoardShape,
  boardShape,
  childrenOf,
  type Initial,
  isLive,
  isWithin,
  pathTo,
  topicOf,
  type TopicId,
} from '#core/tree'
import type { Desk } from './desk'
import { Folds } from './folds'
import { keptShape } from './kept-shape'
import type { Direction } from './selection'

/** `meeting`: the brief, the running and the minutes of a meeting, in place of the tree. */
export type View = 'canvas' | 'outline' | 'schedule' | 'board' | 'figures' | 'meeting'

/** What a view of the tree does for the desk while it is shown. */
export interface ShownView {
  reveal(id: TopicId): void
  neighbour(id: TopicId, direction: Direction): TopicId | null
  fit?(): void
  /** What a topic has that is made while the view is shown, so that it's seen there. */
  born?(): Initial
  /** Takes the selection one place to the side, where that means something in this view. False where it doesn't. */
  carry?(to: 'left' | 'right'): boolean
  readonly layout?: Layout
}
/** Topics from which on a tree isn't shown whole at first. */
const LARGE = 500
const NO_VIEW: ShownView = { reveal() {}, neighbour: () => null }

/** What of the tree is shown, and where: the view, the branch that is shown alone, folds and depth. All of it one's own. */
export class Showing {
  readonly view = ref<View>('canvas')
  readonly sheetOpen = ref(true)
  /** The one branch that is shown; null for the whole tree. */
  readonly only = ref<TopicId | null>(null)
  /** The depth last opened to: 0 for all, null when folds have been set one by one since. */
  readonly depth = ref<number | null>(null)
  /** What the outline shows beside titles, and in which order. */
  readonly outline: Ref<OutlineShape>
  /** By what cards stand on the board. */
  readonly board: Ref<BoardShape>
  /** The file that is open over the tree. */
  readonly viewing = shallowRef<{ readonly topic: TopicId; readonly file: Attachment } | null>(null)
  /** The document that is read beside the tree, and the passage that a link led to; null where none did. */
  readonly reading = shallowRef<{
    readonly topic: TopicId
    readonly file: Attachment
    readonly passage: number | null
  } | null>(null)
  /** The topic whose substance is previewed; pinned, it stays until Esc. */
  readonly previewed = shallowRef<{ readonly topic: TopicId; readonly pinned: boolean } | null>(null)
  /** The branch that is presented just now: the rest stands back. */
  readonly stage = ref<TopicId | null>(null)
  /** The cross-link that is selected. */
  readonly tie = shallowRef<{ readonly topic: TopicId; readonly id: string } | null>(null)
  /** The view that is shown, as long as it is: what it knows is never asked for after it has gone. */
  private shown: ShownView = NO_VIEW
  private readonly folds: Folds

  constructor(
    private readonly desk: Desk,
    treeId: string,
    userId: string,
  ) {
    this.folds = new Folds(() => desk.tree, treeId, userId)
    this.outline = keptShape(`sun-porch-outline/${treeId}`, outlineShape, {
      columns: ['number', 'people', 'due', 'done', 'signs'],
      sort: null,
      group: null,
    })
    this.board = keptShape(`sun-porch-board/${treeId}`, boardShape, { by: 'state', rows: false })
  }

  /** A large tree that is opened for the first time begins with its first two levels. */
  begin(): void {
    if (this.folds.isNew && this.desk.tree.topics.size >= LARGE) this.folds.beginAt(2)
    this.depth.value = this.folds.openedTo
  }

  close(): void {
    this.folds.close()
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

  neighbour(id: TopicId, direction: Direction): TopicId | null {
    return this.shown.neighbour(id, direction)
  }

  fit(): void {
    this.shown.fit?.()
  }

  born(): Initial {
    return this.shown.born?.() ?? {}
  }

  carry(to: 'left' | 'right'): boolean {
    return this.shown.carry?.(to) ?? false
  }

  /** Where planks stand, while the canvas is shown. */
  get layout(): Layout | null {
    return this.shown.layout ?? null
  }

  /**
   * A branch with an annex shows its plank alone everywhere but in the annex. While a filter leaves out the
   * rest, folds don't hide what it found.
   */
  isFolded(id: TopicId): boolean {
    const { tree, hiding, finding } = this.desk
    if (topicOf(tree, id).annex && id !== tree.centre) return id !== this.only.value
    return this.folds.isFolded(id) && !(hiding && finding.leadsOn(id))
  }

  /** The annex that a topic stands in: the nearest above it, or the whole tree. */
  annexOf(id: TopicId): TopicId | null {
    const { tree } = this.desk
    for (let at = topicOf(tree, id).parent; at !== null && at !== tree.centre; at = topicOf(tree, at).parent)
      if (topicOf(tree, at).annex) return at
    return null
  }

  /** Goes to a topic wherever it is, unfolding what hides it. */
  visit(id: TopicId): void {
    const { tree } = this.desk
    const annex = this.annexOf(id)
    const here = this.only.value
    // On to the annex it stands in; a branch that is shown alone stays when it holds the topic without an annex between.
    if (
      annex !== null
        ? here === null || !isWithin(tree, here, annex) || !isWithin(tree, id, here)
        : here !== null && !isWithin(tree, id, here)
    )
      this.showOnly(annex, id)
    this.unfoldTo(id)
    this.desk.select(id)
  }

  /** Opens, for oneself, whatever hides a topic; the selection stays. */
  unfoldTo(id: TopicId): void {
    const hiding = pathTo(this.desk.tree, id)
      .slice(0, -1)
      .filter(above => !above.annex && this.isFolded(above.id))
    for (const above of hiding) this.folds.set(above.id, false)
    if (hiding.length > 0) this.desk.tell(new Set(hiding.map(topic => topic.id)))
  }

  /** Shows one branch and nothing else; null shows the whole tree again. */
  showOnly(id: TopicId | null, focus: TopicId | null = null): void {
    const { tree, desk } = { tree: this.desk.tree, desk: this.desk }
    const from = this.only.value
    this.only.value = id === tree.centre ? null : id
    desk.tell('all')
    const at = id ?? (from !== null && isLive(tree, from) ? from : tree.centre)
    if (focus !== null) desk.select(focus, { quiet: true })
    else if (id !== null && !isWithin(tree, desk.focus.value, id)) desk.select(at)
    else if (id === null && from !== null && tree.topics.get(from)?.annex) desk.select(at)
    this.fit()
  }

  /** Whether a topic stands back behind what is presented. */
  isBehind(id: TopicId): boolean {
    const { tree } = this.desk
    const stage = this.stage.value
    return stage !== null && stage !== tree.centre && isLive(tree, stage) && !isWithin(tree, id, stage)
  }

  /** Folds and unfolds topics, each as it's said, for oneself. The views are told by who asks. */
  foldAs(folded: ReadonlyMap<TopicId, boolean>): void {
    for (const [id, isFolded] of folded) this.folds.set(id, isFolded)
  }

  /** Folds change for a while and are kept as they are; call back for how it was. */
  lendFolds(): () => void {
    return this.folds.lend()
  }

  /** Folds or unfolds. */
  toggleFold(ids: readonly TopicId[]): void {
    const { tree } = this.desk
    const annex = ids.length === 1 && ids[0] !== this.only.value && topicOf(tree, ids[0]!).annex ? ids[0]! : null
    if (annex !== null) {
      this.showOnly(annex)
      return
    }
    const able = ids.filter(id => id !== tree.centre && !topicOf(tree, id).annex && childrenOf(tree, id).length > 0)
    if (able.length === 0) return
    const folded = !this.isFolded(able[0]!)
    this.depth.value = null
    for (const id of able) this.folds.set(id, folded)
    const focus = this.desk.focus.value
    if (folded && able.some(id => id !== focus && isWithin(tree, focus, id))) this.desk.select(able[0]!)
    this.desk.tell(new Set(able))
  }

  /** Opens the tree to a depth; null opens all. */
  openTo(depth: number | null): void {
    this.depth.value = depth ?? 0
    this.folds.openTo(depth ?? 0)
    const path = pathTo(this.desk.tree, this.desk.focus.value)
    const hidden = path.findIndex(topic => this.isFolded(topic.id))
    if (hidden >= 0 && hidden < path.length - 1) this.desk.select(path[hidden]!.id, { quiet: true })
    this.desk.tell('all')
    this.reveal(this.desk.focus.value)
  }
}
