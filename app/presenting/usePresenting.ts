import { useResizeObserver } from '@vueuse/core'
import { cueOf } from '#core/presenting/cue'
import { foldsOf, inSightOf, type Step, stepOf, stepsOf, stepsThrough } from '#core/presenting/steps'
import { isLive, type TopicId } from '#core/tree'
import type { Desk } from '~/desk/desk'
import type { CanvasHold, Page, Presented } from '~/page/page'
import { type Move, useCues } from './cues'
import { glide } from './glide'

/** How large a branch is shown at most: larger than life, for those at the back. */
const MOST = 2.2
/** Room beside the planks for the tabs that say how much is folded, in canvas units. */
const TABS = 34

/**
 * Going through the steps of a tree. Whoever presents leads; who goes along is where the leader is, until they look around
 * by steps of their own. Everything is as it was when it ends.
 */
export function usePresenting(desk: Desk, page: Page, { with: leader, through }: Presented) {
  const root = desk.only.value ?? desk.tree.centre
  const began = Date.now()
  const steps = computed<readonly Step[]>(() => {
    void desk.tick.value
    if (through) return stepsThrough(desk.tree, through)
    return stepsOf(desk.tree, isLive(desk.tree, root) ? root : desk.tree.centre)
  })
  /** The topic of the step that is shown: steps may come and go beside it. */
  const shown = ref<TopicId>(steps.value[0]!.topic)
  /** Where it stood, for when it goes: then the one in its place is shown. */
  const place = ref(0)
  const at = computed(() => {
    const i = steps.value.findIndex(({ topic }) => topic === shown.value)
    return i >= 0 ? i : Math.min(place.value, steps.value.length - 1)
  })
  watch(at, now => {
    place.value = now
  })
  const step = computed(() => steps.value[at.value]!)

  // — As it was

  const before = {
    view: desk.view.value,
    only: desk.only.value,
    focus: desk.focus.value,
    stands: page.canvas.value && standingOf(page.canvas.value),
  }
  const foldsBack = desk.showing.lendFolds()
  desk.session.holdsSides = true
  if (desk.editing.value) desk.keep()
  desk.view.value = 'canvas'
  function standingOf({ view }: CanvasHold): { x: number; y: number; zoom: number } {
    return { x: view.x, y: view.y, zoom: view.zoom }
  }
  function putBack(): void {
    desk.session.holdsSides = false
    desk.presents.value = false
    desk.showing.stage.value = null
    if (desk.editing.value) desk.keep()
    foldsBack()
    const { only, focus, view, stands } = before
    if (desk.only.value !== only) desk.showOnly(only !== null && isLive(desk.tree, only) ? only : null)
    if (isLive(desk.tree, focus)) desk.select(focus, { quiet: true })
    desk.tell('all')
    const left = desk.view.value !== 'canvas'
    if (!left) desk.view.value = view
    // The bars come back first, so that the view is as large as it was.
    if (stands && !left && view === 'canvas')
      requestAnimationFrame(() =>
        requestAnimationFrame(() => page.canvas.value?.view.centreOn(worldOf(stands), stands.zoom)),
      )
    void nextTick(focusTree)
  }
  function worldOf({ x, y, zoom }: { x: number; y: number; zoom: number }) {
    const { width, height } = page.canvas.value!.view
    return { x: (width / 2 - x) / zoom, y: (height / 2 - y) / zoom, width: 0, height: 0 }
  }

  // — What is shown

  /** Opens the tree as the step shows it, and selects its topic. */
  function open(next: Step): void {
    const { tree, showing } = desk
    const { topic, in: room } = next
    showing.stage.value = topic
    if (desk.only.value !== room) showing.showOnly(room, topic)
    showing.foldAs(foldsOf(tree, next))
    desk.select(topic, { quiet: true })
    desk.tell('all')
  }
  /** Brings what the step has in sight into view. */
  function show(): void {
    const { canvas } = page
    if (!canvas.value) return
    const { layout, view } = canvas.value
    const seen = inSightOf(desk.tree, step.value).flatMap(id => layout.find(id) ?? [])
    if (seen.length === 0) return
    const x = Math.min(...seen.map(placed => placed.x)) - TABS
    const y = Math.min(...seen.map(placed => placed.y))
    const width = Math.max(...seen.map(placed => placed.x + placed.width)) + TABS - x
    const height = Math.max(...seen.map(placed => placed.y + placed.height)) - y
    glide(view, { x, y, width, height }, MOST)
  }
  function to(i: number): void {
    const next = steps.value[Math.max(0, Math.min(i, steps.value.length - 1))]!
    if (desk.editing.value) desk.keep()
    if (desk.viewing.value) desk.viewing.value = null
    desk.previewed.value = null
    shown.value = next.topic
    open(next)
    void nextTick(() => {
      show()
      focusTree()
    })
    tellCue()
  }
  function move(way: Move): void {
    aside.value = leader !== null
    if (way === 'first') to(0)
    else if (way === 'last') to(steps.value.length - 1)
    else to(at.value + (way === 'next' ? 1 : -1))
  }

  // — Those who go along

  /** Whether one who goes along looks around just now. */
  const aside = ref(false)
  const led = computed(() => desk.status.present.find(({ id, presents }) => id === leader && presents) ?? null)
  const ledTo = computed(() => led.value?.selected[0] ?? null)
  function follow(): void {
    aside.value = false
    const i = ledTo.value !== null && isLive(desk.tree, ledTo.value) ? stepOf(desk.tree, steps.value, ledTo.value) : -1
    if (i >= 0) to(i)
  }
  watch(ledTo, () => {
    if (!aside.value) follow()
  })
  watch(led, now => {
    if (leader === null || now) return
    desk.say('Presenting is over.')
    end()
  })

  // — The second window

  const tell = useCues(desk.session.treeId, word => {
    if (leader !== null) return
    if (word.kind === 'ask') tellCue()
    if (word.kind === 'move') move(word.to)
  })
  function tellCue(): void {
    if (leader !== null) return
    const numberOf = (id: TopicId): string => desk.drawnOf(id).guise.number
    tell({ kind: 'told', told: { cue: cueOf(desk.tree, steps.value, at.value, numberOf), began } })
  }
  watch(desk.lateTick, tellCue)
  function speaker(): void {
    window.open(`/trees/${desk.session.treeId}/speaker`, 'sun-porch-speaker', 'popup,width=900,height=640')
  }

  // — The screen

  const { full, enter, fill } = useFullScreen(words => desk.say(words))
  function end(): void {
    page.presenting.value = null
  }

  // What is added to the branch is in sight too, once it has been typed.
  const size = computed(() => {
    void desk.lateTick.value
    return isLive(desk.tree, step.value.topic) ? inSightOf(desk.tree, step.value).length : 0
  })
  watch([size, desk.editing], ([now, typed], [was]) => {
    if (!typed && now !== was) show()
  })
  // A command that shows another view ends it.
  watch(desk.view, view => {
    if (view !== 'canvas') end()
  })
  // Somebody removed the topic of the step: on with the one that stands in its place.
  watch(
    () => isLive(desk.tree, shown.value) && steps.value.some(({ topic }) => topic === shown.value),
    stands => {
      if (!stands) to(at.value)
    },
  )

  onMounted(() => {
    desk.presents.value = leader === null
    if (leader === null) {
      to(0)
      void enter()
    } else follow()
    const box = document.querySelector<HTMLElement>('.middle')
    if (box) useResizeObserver(box, () => requestAnimationFrame(show))
  })
  onBeforeUnmount(() => {
    tell({ kind: 'over' })
    putBack()
  })

  return { steps, at, step, aside, led, began, full, to, move, show, follow, speaker, fill, end }
}
