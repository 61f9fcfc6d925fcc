import type { Moment } from '#core/schedule/times'
import type { Layout } from '#core/arrange/layout'
import type { Known } from '#core/capture/quick-details'
import type { Change, Field, Fields, Initial, Step, TopicId } from '#core/tree'
import type { Finding } from '~/find/finding'
import type { Authoring } from './authoring'
import type { Drawn, Planks } from './planks'
import type { Direction, Selection } from './selection'
import type { Showing, ShownView } from './showing'
import type { Typing } from './typing'

/** What one person has in hand in an open tree, under one name each, whichever part of the desk does it. */
export abstract class InHand {
  protected abstract readonly selecting: Selection
  protected abstract readonly typing: Typing
  protected abstract readonly authoring: Authoring
  abstract readonly showing: Showing
  abstract readonly finding: Finding
  abstract readonly planks: Planks

  get selection(): Selection['ids'] {
    return this.selecting.ids
  }

  get focus(): Selection['focus'] {
    return this.selecting.focus
  }

  selected = (): TopicId[] => this.selecting.selected()
  select = (...what: Parameters<Selection['select']>): void => this.selecting.select(...what)
  selectAll = (ids: readonly TopicId[]): void => this.selecting.selectAll(ids)
  selectSiblings = (): void => this.selecting.selectSiblings()
  go = (direction: Direction, extend = false): void => this.selecting.go(direction, extend)
  goEnd = (end: 'first' | 'last'): void => this.selecting.goEnd(end)

  get editing(): Typing['open'] {
    return this.typing.open
  }

  get draft(): Typing['draft'] {
    return this.typing.draft
  }

  known = (): Known => this.typing.known()
  edit = (id: TopicId = this.focus.value): void => this.typing.edit(id)
  redraft = (): void => this.typing.redraft()
  beginTyping = (step: Step, unfold?: TopicId): void => this.typing.begin(step, unfold)
  keep = (): void => this.typing.keep()
  drop = (): void => this.typing.drop()
  turnWhileTyping = (): void => this.typing.turn()
  moveWhileTyping = (how: 'in' | 'out'): void => this.typing.move(how)

  get view(): Showing['view'] {
    return this.showing.view
  }

  get sheetOpen(): Showing['sheetOpen'] {
    return this.showing.sheetOpen
  }

  get only(): Showing['only'] {
    return this.showing.only
  }

  get depth(): Showing['depth'] {
    return this.showing.depth
  }

  get outline(): Showing['outline'] {
    return this.showing.outline
  }
  get board(): Showing['board'] {
    return this.showing.board
  }

  get viewing(): Showing['viewing'] {
    return this.showing.viewing
  }

  get reading(): Showing['reading'] {
    return this.showing.reading
  }

  get previewed(): Showing['previewed'] {
    return this.showing.previewed
  }

  get tie(): Showing['tie'] {
    return this.showing.tie
  }

  get layout(): Layout | null {
    return this.showing.layout
  }

  show = (view: ShownView): (() => void) => this.showing.show(view)
  reveal = (id: TopicId): void => this.showing.reveal(id)
  neighbour = (id: TopicId, direction: Direction): TopicId | null => this.showing.neighbour(id, direction)
  fitSoon = (): void => this.showing.fit()
  born = (): Initial => this.showing.born()
  carry = (to: 'left' | 'right'): boolean => this.showing.carry(to)
  drawnOf = (id: TopicId): Drawn => this.planks.of(id)
  isFolded = (id: TopicId): boolean => this.showing.isFolded(id)
  /** Whether a topic is drawn dim: the filter doesn't mean it, or another branch is presented. */
  isDim = (id: TopicId): boolean => this.finding.isDim(id) || this.showing.isBehind(id)
  annexOf = (id: TopicId): TopicId | null => this.showing.annexOf(id)
  visit = (id: TopicId): void => this.showing.visit(id)
  unfoldTo = (id: TopicId): void => this.showing.unfoldTo(id)
  showOnly = (id: TopicId | null): void => this.showing.showOnly(id)
  toggleFold = (ids: readonly TopicId[] = this.selected()): void => this.showing.toggleFold(ids)
  openTo = (depth: number | null): void => this.showing.openTo(depth)

  guard = (): boolean => this.authoring.guard()
  run = (step: Pick<Step, 'changes'>): boolean => this.authoring.run(step)
  put = (topic: TopicId, change: Change): void => this.authoring.put(topic, change)
  giveAll = (people: readonly string[], ids: readonly TopicId[]): void => this.authoring.giveAll(people, ids)
  toggleDone = (): void => this.authoring.toggleDone(this.selected())
  undo = (): void => this.authoring.undo()
  /** Takes back what the server made for one, by its number. */
  takeBack = (number: number): void => void this.authoring.takeBackThere(number)
  redo = (): void => this.authoring.redo()

  setMoment(field: 'start' | 'due', moment: Moment | null, ids: readonly TopicId[] = this.selected()): void {
    this.authoring.setMoment(field, moment, ids)
  }

  set<F extends Field>(field: F, value: Fields[F], ids: readonly TopicId[] = this.selected()): void {
    this.authoring.set(field, value, ids)
  }

  toggle(set: 'markers' | 'people', member: string, ids: readonly TopicId[] = this.selected()): void {
    this.authoring.toggle(set, member, ids)
  }
}
