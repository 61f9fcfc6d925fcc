<script setup lang="ts">
import { nanoid } from 'nanoid'
import { allows, type OwedTask as Task, type Section } from '#core/contract'
import { owedInWords, type TaskTold } from '#core/schedule/told'
import { rhythmInWords } from '#core/schedule/turn-words'
import { movedDue, type When, whenOf } from '#core/schedule/when'
import type { Change } from '#core/tree'

/** What one owes across all trees, and what others owe because one asked them. One key does a task or moves its day. */
const {
  sure,
  shown: work,
  inTurn,
  isBusy,
} = useAhead<{ mine: Task[]; asked: Task[]; sections: Section[]; calendar: boolean }>()
const wrong = ref('')
const side = ref<'mine' | 'asked'>('mine')
const by = ref<'date' | 'tree'>('date')
const list = ref<HTMLElement>()
/** What can be taken back: by a change, or by the number of the edit that did more than one thing. */
const offer = shallowRef<{ readonly words: string; readonly task: Task; readonly back: Change | number } | null>(null)

/** What plans say of tasks, by tree and topic. It comes after the list, and the list is whole without it. */
type Planned = TaskTold & { readonly treeId: string }
const plans = shallowRef<ReadonlyMap<string, Planned>>(new Map())
async function load(): Promise<void> {
  wrong.value = ''
  try {
    sure.value = await callApi('/api/work')
  } catch (error) {
    wrong.value = (error as Error).message
    return
  }
  await readPlans()
}
let asked = 0
/** What one does here changes what others wait for: asked again after it, and only the last answer counts. */
async function readPlans(): Promise<void> {
  const mine = ++asked
  const told = await callApi<Planned[]>('/api/work/plan', { query: { today: today() } }).catch(() => null)
  if (told && mine === asked) plans.value = new Map(told.map(one => [`${one.treeId}/${one.topic}`, one]))
}
onMounted(load)
useHead({ title: 'My work · Sun Porch' })

const tasks = computed(() => work.value?.[side.value] ?? [])
/** What is said of each task that hasn't begun. */
const planned = computed(() => {
  const said = new Map<Task, { readonly words: string; readonly ready: boolean }>()
  for (const task of tasks.value) {
    const told = (task.done ?? 0) > 0 ? undefined : plans.value.get(`${task.treeId}/${task.id}`)
    const words = told ? owedInWords(told, dayInWords) : null
    if (words) said.set(task, { words, ready: told!.state === 'ready' })
  }
  return said
})
const { groups, rows, at, focused, go, stay, follow, choose, hold, letGo } = useOwedRows(tasks, by)
const late = (when: When): boolean => when === 'late'
watch([side, by], () => {
  letGo()
  go(0)
})
watch(focused, () =>
  nextTick(() => list.value?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' })),
)
/** The task that was refused: it's said until that is done after all, not just until the next one is. */
let refused: string | null = null
/** Sends a step in its turn. What was offered to be taken back before it isn't what undo means any more, though this be refused. */
async function step(send: () => Promise<void>, show?: Parameters<typeof inTurn>[1]): Promise<void> {
  offer.value = null
  await inTurn(
    () =>
      send().catch((error: unknown) => {
        offer.value = null
        throw error
      }),
    show,
  )
}
/** Makes one edit of a task at its tree's door, and shows it at once. */
async function change(
  task: Task,
  made: Change,
  back: Change,
  words: string,
  next: Partial<Task> | null,
): Promise<void> {
  if (!allows(task.role, 'editor')) {
    refused = null
    wrong.value = `As ${task.role} of “${task.tree}” you can read this task but not change it.`
    return
  }
  const apply = (of: Task[]): Task[] =>
    next === null
      ? of.filter(one => one.treeId !== task.treeId || one.id !== task.id)
      : of.map(one => (one.treeId === task.treeId && one.id === task.id ? { ...one, ...next } : one))
  try {
    await step(
      async () => {
        await callApi(`/api/trees/${task.treeId}/edits`, { method: 'POST', body: { id: nanoid(16), changes: [made] } })
        offer.value = { words, task, back }
        if (refused === null || refused === owedKey(task)) wrong.value = ''
      },
      of => ({ ...of, mine: apply(of.mine), asked: apply(of.asked) }),
    )
    void readPlans()
  } catch (error) {
    refused = owedKey(task)
    wrong.value = `${(error as Error).message} “${task.title}” is as it was.`
  }
}
/** One that comes again stands in the list for its next turn; the tree's own calendar says when that is. */
const finishing = new Set<string>()
async function finishTurn(task: Task): Promise<void> {
  // The key that comes again before the answer does means the same turn.
  const which = `${owedKey(task)} ${task.due ?? ''}`
  if (finishing.has(which)) return
  if (!allows(task.role, 'editor')) {
    refused = null
    wrong.value = `As ${task.role} of “${task.tree}” you can read this task but not change it.`
    return
  }
  wrong.value = ''
  finishing.add(which)
  try {
    await step(async () => {
      const { number, next } = await callApi<{ number: number; next: string | null }>(
        `/api/trees/${task.treeId}/topics/${task.id}/finish`,
        { method: 'POST', body: { today: today(), due: task.due } },
      )
      const words = next ? `It comes again on ${dayInWords(next)}.` : 'That was its last turn.'
      offer.value = { words: `“${task.title}” is done for now. ${words}`, task, back: number }
      await load()
    })
  } catch (error) {
    refused = owedKey(task)
    wrong.value = `${(error as Error).message} “${task.title}” is as it was.`
  } finally {
    finishing.delete(which)
  }
}
function finish(task: Task): void {
  // What stands in its place is next.
  stay()
  if (task.again && task.due) return void finishTurn(task)
  void change(
    task,
    { op: 'set', topic: task.id, field: 'done', value: 100 },
    { op: 'set', topic: task.id, field: 'done', value: task.done },
    `“${task.title}” is done.`,
    null,
  )
}
function move(task: Task, how: Parameters<typeof movedDue>[1]): void {
  const due = movedDue(task.due, how, today(), ownLocale())
  if (due === task.due) return
  void change(
    task,
    { op: 'set', topic: task.id, field: 'due', value: due },
    { op: 'set', topic: task.id, field: 'due', value: task.due },
    due ? `“${task.title}” is due ${dayInWords(due)}.` : `“${task.title}” has no date now.`,
    { due },
  )
}
function byDay(task: Task, how: 'later' | 'earlier'): void {
  follow(task)
  move(task, how)
}
function moveOff(task: Task, how: 'next-week' | 'none'): void {
  stay()
  move(task, how)
}
/** The row stays under the pointer, which may press again. */
function press(task: Task, how: Parameters<typeof move>[1]): void {
  hold(task)
  move(task, how)
}
async function takeBack(): Promise<void> {
  const last = offer.value
  offer.value = null
  if (!last) return
  try {
    if (typeof last.back === 'number')
      await callApi(`/api/trees/${last.task.treeId}/edits/${last.back}/take-back`, { method: 'POST' })
    else
      await callApi(`/api/trees/${last.task.treeId}/edits`, {
        method: 'POST',
        body: { id: nanoid(16), changes: [last.back] },
      })
    await load()
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
/** What was done last may still be on its way: it's what is meant. */
const undo = (): void => void inTurn(takeBack)
const open = (task: Task): void => {
  void navigateTo({ path: `/trees/${task.treeId}`, query: { topic: task.id } })
}

function key(event: KeyboardEvent): void {
  letGo()
  if (event.ctrlKey || event.metaKey || event.altKey) {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && (offer.value || isBusy())) {
      event.preventDefault()
      undo()
    }
    return
  }
  const task = focused.value
  const steps: Record<string, () => void> = {
    ArrowDown: () => go(at.value + 1),
    ArrowUp: () => go(at.value - 1),
    Home: () => go(0),
    End: () => go(rows.value.length - 1),
    ...(task
      ? {
          Enter: () => open(task),
          d: () => finish(task),
          // A day more, and another: the same task is meant, wherever the first took it.
          '+': () => byDay(task, 'later'),
          '=': () => byDay(task, 'later'),
          '-': () => byDay(task, 'earlier'),
          w: () => moveOff(task, 'next-week'),
          '0': () => moveOff(task, 'none'),
        }
      : {}),
  }
  const step = steps[event.key.length === 1 ? event.key.toLowerCase() : event.key]
  if (!step) return
  event.preventDefault()
  // A key that is held down goes on through the days, or the rows; it doesn't do one task after another.
  if (!event.repeat || /^[-+=]$|^Arrow/.test(event.key)) step()
}

// — The private calendar address
const address = ref('')
const making = ref(false)
async function makeAddress(): Promise<void> {
  making.value = true
  try {
    const { path } = await callApi<{ path: string }>('/api/work/calendar', { method: 'POST' })
    address.value = `${location.origin}${path}.ics`
    if (sure.value) sure.value = { ...sure.value, calendar: true }
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    making.value = false
  }
}
async function withdraw(): Promise<void> {
  try {
    await callApi('/api/work/calendar', { method: 'DELETE' })
    address.value = ''
    if (sure.value) sure.value = { ...sure.value, calendar: false }
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
const calendar = ref()
</script>

<template>
  <main class="page">
    <header>
      <h1>My work</h1>
      <span class="segments" role="group" aria-label="Whose">
        <button :aria-pressed="side === 'mine'" @click="side = 'mine'">I owe {{ work?.mine.length ?? '' }}</button>
        <button :aria-pressed="side === 'asked'" @click="side = 'asked'">
          I asked for {{ work?.asked.length ?? '' }}
        </button>
      </span>
      <span class="segments" role="group" aria-label="In which order">
        <button :aria-pressed="by === 'date'" @click="by = 'date'">By date</button>
        <button :aria-pressed="by === 'tree'" @click="by = 'tree'">By tree</button>
      </span>
      <span class="grow" />
      <button class="plain" aria-haspopup="dialog" @click="calendar.toggle($event)">
        <Icon name="lucide:calendar-plus" size="16" /> Calendar address
      </button>
      <PorchPopover ref="calendar">
        <div class="calendar">
          <p>
            Your meetings and due tasks in any calendar program that reads an address. Whoever has the address can read
            them.
          </p>
          <template v-if="address"
            ><InputText
              :value="address"
              readonly
              fluid
              size="small"
              aria-label="Your calendar address"
              @focus="($event.target as HTMLInputElement).select()" />
            <p class="quiet">It’s shown this once. A new one makes it stop working.</p></template
          >
          <p v-else-if="work?.calendar" class="quiet">You have one. It isn’t shown again; a new one replaces it.</p>
          <div class="row">
            <Button
              size="small"
              :label="work?.calendar ? 'Make a new one' : 'Make one'"
              :loading="making"
              @click="makeAddress" /><Button
              v-if="work?.calendar"
              size="small"
              text
              label="Withdraw it"
              @click="withdraw" />
          </div>
        </div>
      </PorchPopover>
    </header>
    <Message v-if="wrong" severity="error" role="alert"
      >{{ wrong }} <button class="plain" @click="load">Try again</button></Message
    >
    <p v-if="work && rows.length === 0" class="quiet empty">
      {{
        side === 'mine'
          ? 'You owe nothing just now. Tasks that carry your name in any tree show here.'
          : 'Nobody owes you anything. Tasks that you put somebody else’s name on show here.'
      }}
    </p>
    <section v-if="side === 'mine' && work?.sections.length" class="sections" aria-label="Sections to fill in">
      <h2>
        Sections to fill in <span>{{ work.sections.length }}</span>
      </h2>
      <SectionRow v-for="section in work.sections" :key="section.treeId + section.id" :section="section" />
    </section>
    <div
      v-if="rows.length"
      ref="list"
      class="list"
      role="tree"
      tabindex="0"
      aria-label="Tasks"
      :aria-activedescendant="focused ? `task-${owedKey(focused)}` : undefined"
      @keydown="key">
      <div v-for="group in groups" :key="group.key" role="group" :aria-label="group.name">
        <h2 role="presentation" :class="{ late: group.late }">
          {{ group.name }} <span>{{ group.tasks.length }}</span>
        </h2>
        <div
          v-for="task in group.tasks"
          :id="`task-${owedKey(task)}`"
          :key="owedKey(task)"
          role="treeitem"
          aria-level="1"
          class="task"
          :aria-selected="focused === task"
          :class="{ on: focused === task }"
          @pointerleave="$event.pointerType === 'touch' || letGo()"
          @click="choose(task)">
          <span class="edge" :class="{ late: late(whenOf(task.due, today(), ownLocale())) }" />
          <button class="tick" tabindex="-1" :aria-label="`Done: ${task.title}`" @click.stop="finish(task)">
            <Icon name="lucide:check" size="15" />
          </button>
          <span class="name"
            ><NuxtLink :to="`/trees/${task.treeId}?topic=${task.id}`" tabindex="-1">{{
              task.title || 'untitled'
            }}</NuxtLink
            ><small v-if="planned.has(task)" class="plan" :class="{ ready: planned.get(task)!.ready }">{{
              planned.get(task)!.words
            }}</small
            ><small v-if="task.again"
              ><Icon name="lucide:repeat" size="12" /> {{ rhythmInWords(task.again.rule, ownLocale()) }}</small
            ><small v-if="by === 'date' || task.person">{{
              [task.person, by === 'date' ? task.tree : ''].filter(Boolean).join(', ')
            }}</small></span
          >
          <span v-if="task.done" class="quiet part">{{ task.done }} %</span>
          <span v-if="task.priority" class="quiet part">P{{ task.priority }}</span>
          <span class="due" :class="{ late: late(whenOf(task.due, today(), ownLocale())) }">{{
            task.due ? dueInWords(task.due, today(), task.time).text : ''
          }}</span>
          <span class="moves">
            <button tabindex="-1" :aria-label="`A day earlier: ${task.title}`" @click.stop="press(task, 'earlier')">
              −
            </button>
            <button tabindex="-1" :aria-label="`A day later: ${task.title}`" @click.stop="press(task, 'later')">
              +
            </button>
            <button tabindex="-1" :aria-label="`Next week: ${task.title}`" @click.stop="press(task, 'next-week')">
              next week
            </button>
          </span>
        </div>
      </div>
    </div>
    <p v-if="rows.length" class="quiet keys">
      <kbd>↑</kbd> <kbd>↓</kbd> go · <kbd>D</kbd> done · <kbd>+</kbd> <kbd>−</kbd> a day later, earlier ·
      <kbd>W</kbd> next Monday · <kbd>0</kbd> no date · <kbd>Enter</kbd> opens it in its tree
    </p>
    <div v-if="offer" class="offer" role="status">{{ offer.words }} <button @click="undo">Undo</button></div>
  </main>
</template>

<style scoped src="./work.css"></style>
