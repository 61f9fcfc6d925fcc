import { until } from '@vueuse/core'
import type { InjectionKey, Ref } from 'vue'
import type { Layout } from '#core/arrange/layout'
import { isMeeting } from '#core/meeting/brief'
import { topicOf, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import type { View } from '~/desk/showing'
import type { Viewport } from '~/canvas/viewport'
import { enter as enterOpened } from '~/focus/opened'
import { expectField } from '~/focus/typeahead'
import { makeMeetingOf } from '~/meeting/doing'
import type { MeetingAct } from '~/meeting/useMeeting'
import type { Box, Command, House, Panel, SheetPart } from '~/keys/commands'

/** What the canvas lets the page do. */
export interface CanvasHold {
  readonly view: Viewport
  readonly layout: Layout
  fit(): void
  fitSelection(): void
  zoomBy(by: number | 'whole'): void
  escape(): boolean
}
export interface OutlineHold {
  focus(): void
  escape(): boolean
  cells(): void
}
export interface ScheduleHold {
  fit(): void
  zoomBy(by: number | 'whole'): void
  escape(): boolean
}
export interface BoardHold {
  escape(): boolean
}
export interface MeetingHold {
  choose(id: TopicId): void
  act(what: MeetingAct): Promise<void>
}

/** What the keys do while a meeting is shown; the rest of them belong to its own views. */
export const IN_MEETING = new Set([
  'meeting',
  'undo',
  'redo',
  'everything',
  'help',
  'keys',
  'theme',
  'next-meeting',
  'bench',
  'comments',
  'hand-out',
])
/** Panels that stand beside a meeting too: what is said. The rest is about the tree. */
export const BESIDE_MEETING: ReadonlySet<Panel> = new Set<Panel>(['bench', 'comments'])

/** Panels without a field: the keys stay with the tree. */
export const SHOWING: ReadonlySet<Panel> = new Set<Panel>(['key', 'steps'])
/** A tree that is presented: by oneself, or by the one whom one goes along `with`; all of it, or what it goes `through`. */
export interface Presented {
  readonly with: string | null
  readonly through: readonly TopicId[] | null
}
/** The commands that are heard while the tree is presented: what is done to what is seen. The rest opens what isn't shown. */
export const WHILE_PRESENTING = new Set([
  'edit',
  'sibling-after',
  'sibling-before',
  'child',
  'move-up',
  'move-down',
  'move-in',
  'move-out',
  'remove',
  'undo',
  'redo',
  'up',
  'down',
  'fold',
  'done',
  'preview',
  'zoom-in',
  'zoom-out',
  'zoom-whole',
  'theme',
  'keys',
  'help',
])

/** How long nobody is asked along again by the same person, ms. */
const ASKED_AGAIN_MS = 60_000

const BOXES: readonly Box[] = [
  'everything',
  'keys',
  'share',
  'help',
  'duplicate',
  'starter',
  'forOthers',
  'about',
  'vote',
  'handout',
]
const allClosed = (): Record<Box, boolean> => Object.fromEntries(BOXES.map(box => [box, false])) as Record<Box, boolean>

export const PAGE: InjectionKey<Page> = Symbol('page')

export function usePage(): Page {
  const page = inject(PAGE)
  if (!page) throw new Error('no tree page is shown here')
  return page
}

/** The page around an open tree: which boxes, panels and pickers are open, and what commands ask of it. */
export class Page implements House {
  readonly boxes = reactive(allClosed())
  /** Boxes that have been open once: what isn't needed for the first look is loaded when it first is. */
  readonly met = reactive(allClosed())
  /** The panel beside the canvas that stays open from topic to topic. */
  readonly side = ref<Panel | null>(null)
  readonly trayOpen = ref(false)
  readonly overviewOpen = ref(false)
  readonly moving = ref(false)
  /** A topic that is being looked for, to tie the selection to or to show here. */
  readonly choosing = ref<'tie' | 'wait' | null>(null)
  readonly referring = ref<'reference' | 'wait-abroad' | null>(null)
  /** The tree is presented: by oneself, or by somebody whom one goes along with. */
  readonly presenting = shallowRef<Presented | null>(null)
  /** Whether the first look is over. */
  readonly settled = ref(false)
  /** The view of the tree to come back to from the meeting. */
  readonly treeView = ref<Exclude<View, 'meeting'>>('canvas')
  readonly canvas: Ref<CanvasHold | undefined> = ref()
  readonly outline: Ref<OutlineHold | undefined> = ref()
  readonly schedule: Ref<ScheduleHold | undefined> = ref()
  readonly board: Ref<BoardHold | undefined> = ref()
  readonly meetingView: Ref<MeetingHold | undefined> = ref()
  readonly sheet: Ref<{ into(part: SheetPart): void; show(part: SheetPart): void } | undefined> = ref()
  readonly findBar: Ref<{ focus(): void } | undefined> = ref()
  readonly pictureFile = ref<HTMLInputElement>()

  constructor(
    private readonly desk: Desk,
    readonly toggleTheme: () => void,
  ) {
    watch(this.boxes, () => {
      for (const what of BOXES) if (this.boxes[what]) this.met[what] = true
    })
    // A link leads into a document: it opens beside the tree, and the focus goes along.
    watch(desk.reading, reading => {
      if (reading && this.side.value !== 'reading') this.panel('reading')
    })
    /** Who presents, by the line they have, and when one was last asked along: nobody is pestered by whoever begins and ends. */
    const presenting = new Set<string>()
    const asked = new Map<string, number>()
    watch(
      () => desk.status.present,
      present => {
        for (const { id, name, client, presents } of present) {
          if (!presents) presenting.delete(client)
          else if (id !== desk.userId && !presenting.has(client)) {
            presenting.add(client)
            if (Date.now() - (asked.get(id) ?? 0) < ASKED_AGAIN_MS) continue
            asked.set(id, Date.now())
            desk.say(`${name} presents this tree.`, { name: 'Go along', run: () => this.present(id) })
          }
        }
      },
    )
    watch(desk.talking.asked, () => void this.showPart('comment'))
    watch(
      desk.view,
      (now, before) => {
        if (now !== 'meeting') this.treeView.value = now
        if (before === 'meeting') nextTick(focusTree)
      },
      { immediate: true },
    )
  }

  /** What is done to the tree is done in sight of it: from a meeting, its view comes first. */
  run(command: Command): void {
    const { desk } = this
    const { id, group } = command
    if (desk.view.value !== 'meeting' || IN_MEETING.has(id) || group === 'Meet' || group === 'General') {
      command.run(desk, this)
      return
    }
    desk.view.value = this.treeView.value
    void nextTick(() => command.run(desk, this))
  }

  /** A button that shows a panel also hides it. */
  togglePanel(what: Panel): void {
    if (this.side.value === what) this.side.value = null
    else this.panel(what)
  }

  /** Presents the tree, or some topics of it, or goes along with somebody who does. */
  present(leader: string | null = null, through: readonly TopicId[] | null = null): void {
    this.presenting.value = { with: leader, through }
  }

  fit(): void {
    this.canvas.value?.fit()
    this.schedule.value?.fit()
  }

  fitSelection(): void {
    this.canvas.value?.fitSelection()
  }

  zoom(by: number | 'whole'): void {
    this.canvas.value?.zoomBy(by)
    this.schedule.value?.zoomBy(by)
  }

  open(what: Box): void {
    expectField()
    this.boxes[what] = true
  }

  panel(what: Panel): void {
    const { side } = this
    const onlyShows = SHOWING.has(what)
    // One that is open already is gone into, so that a key never closes what the other hand reaches for; one that only
    // shows goes.
    if (side.value === what && onlyShows) side.value = null
    else if (side.value === what) enterOpened(document.querySelector<HTMLElement>('aside.panel')!)
    else {
      if (!onlyShows) expectField()
      side.value = what
    }
  }

  tray(): void {
    if (this.trayOpen.value) {
      enterOpened(document.querySelector<HTMLElement>('section.tray')!)
      return
    }
    if (this.desk.session.canEdit) expectField()
    this.trayOpen.value = true
  }

  find(): void {
    expectField()
    if (this.desk.finding.open.value) this.findBar.value?.focus()
    this.desk.finding.open.value = true
  }

  moveUnder(): void {
    if (!this.desk.guard()) return
    expectField()
    this.moving.value = true
  }

  overview(): void {
    this.overviewOpen.value = !this.overviewOpen.value
  }

  picture(): void {
    this.pictureFile.value?.click()
  }

  /** To a part of the side sheet. A panel may have its place; what is asked for comes first. */
  async into(part: SheetPart): Promise<void> {
    expectField()
    this.side.value = null
    this.desk.sheetOpen.value = true
    const sheet = this.sheet.value ?? (await until(this.sheet).toBeTruthy())
    sheet?.into(part)
  }

  /** Shows a part of the side sheet; the keys stay with the tree. */
  private async showPart(part: SheetPart): Promise<void> {
    this.side.value = null
    this.desk.sheetOpen.value = true
    const sheet = this.sheet.value ?? (await until(this.sheet).toBeTruthy())
    sheet?.show(part)
  }

  choose(what: 'tie' | 'reference' | 'wait' | 'wait-abroad'): void {
    if (!this.desk.guard()) return
    expectField()
    if (what === 'reference' || what === 'wait-abroad') this.referring.value = what
    else this.choosing.value = what
  }

  cells(): void {
    this.desk.view.value = 'outline'
    nextTick(() => this.outline.value?.cells())
  }

  meeting(): void {
    const { view } = this.desk
    view.value = view.value === 'meeting' ? this.treeView.value : 'meeting'
  }

  async meetingDo(what: MeetingAct): Promise<void> {
    this.desk.view.value = 'meeting'
    const meeting = this.meetingView.value ?? (await until(this.meetingView).toBeTruthy())
    await meeting?.act(what)
  }

  makeMeeting(): void {
    const { desk } = this
    const id = desk.focus.value
    if (makeMeetingOf(desk, id)) {
      if (desk.view.value === 'meeting') this.meetingView.value?.choose(id)
      else desk.view.value = 'meeting'
    } else if (isMeeting(topicOf(desk.tree, id))) desk.view.value = 'meeting'
  }

  history(topic: TopicId | null, alone: boolean): void {
    void navigateTo({
      path: `/trees/${this.desk.session.treeId}/history`,
      query: topic === null ? {} : alone ? { branch: topic } : { topic },
    })
  }

  compare(): void {
    void navigateTo(`/trees/${this.desk.session.treeId}/compare`)
  }
}
