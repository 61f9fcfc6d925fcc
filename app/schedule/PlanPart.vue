<script setup lang="ts">
import { dayThatCounts } from '#core/schedule/abroad'
import { becauseInWords, brokenInWords, daysInWords, floatInWords, kindInWords } from '#core/schedule/plan-words'
import { type Change, shorten, type Topic, type TopicId, type Wait, WAIT_KINDS } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { PAGE } from '~/page/page'
import { lookAgain, namedAbroad } from './abroad'
import { waitFor } from './acting'
import { planningOf } from './planning'

/** What a topic is in the plan: what is computed of it and why, what it waits for, and what else binds it. */
const props = defineProps<{ topic: Topic }>()
const desk = useDesk()
const planning = planningOf(desk)
const may = computed(() => desk.status.ready && desk.session.canEdit)
const plan = computed(() => {
  void desk.lateTick.value
  const now = planning.get()
  return typeof now === 'string' ? null : now
})
const task = computed(() => plan.value?.tasks.get(props.topic.id) ?? null)
const branch = computed(() => plan.value?.branches.get(props.topic.id) ?? null)
const titleOf = (id: TopicId): string => shorten(desk.tree.topics.get(id)?.title || 'untitled', 44)
const speaker = { titleOf, day: dayInWords }
const broken = computed(() => plan.value?.broken.filter(({ by }) => by === props.topic.id) ?? [])
const waiting = computed(() => {
  void desk.lateTick.value
  const found: TopicId[] = []
  for (const { id, waits, removed } of desk.tree.topics.values())
    if (!removed && waits.some(({ on, elsewhere }) => !elsewhere && on === props.topic.id)) found.push(id)
  return found
})
/** What a dependency is on, as its controls name it. */
const nameOf = (wait: Wait): string => (wait.elsewhere ? namedAbroad(wait) : titleOf(wait.on))
function knownOf(wait: Wait): string {
  const { elsewhere } = wait
  if (!elsewhere) return ''
  const day = dayThatCounts(wait, elsewhere)
  const when = elsewhere.state === 'done' ? 'done' : day ? dayInWords(day) : 'no date yet'
  return `${when}, as known ${agoInWords(new Date(elsewhere.asked).toISOString())}`
}
/** The page around the tree, which asks for topics of other trees; none where the sheet stands by itself. */
const page = inject(PAGE, null)
const choosing = ref(false)
function chosen(on: TopicId): void {
  choosing.value = false
  waitFor(desk, [props.topic.id], on)
}
/** To the dependency as the tree has it now: what is shown follows a frame later. */
function change({ id }: Wait, changed: Partial<Wait>): void {
  const wait = desk.tree.topics.get(props.topic.id)?.waits.find(one => one.id === id)
  if (wait) put({ op: 'put', topic: props.topic.id, set: 'waits', member: { ...wait, ...changed } })
}
function setLag(wait: Wait, text: string): void {
  const lag = Number(text.trim().replace(',', '.').replace('−', '-') || 0)
  if (Number.isFinite(lag) && Math.abs(lag) <= 3660) change(wait, { lag })
  else desk.say('A lag is a number of days, ten years at most; before is negative.')
}
function put(changed: Change): void {
  desk.put(props.topic.id, changed)
}
const numberIn = (text: string, most: number): number | null | undefined => {
  if (text.trim() === '') return null
  const value = Number(text.replace(',', '.'))
  return Number.isFinite(value) && value >= 0 && value <= most ? value : undefined
}
function setNumber(field: 'effort' | 'spent' | 'left', text: string): void {
  const value = numberIn(text, field === 'left' ? 10_000 : 1_000_000)
  if (value === undefined) desk.say('That isn’t a number of hours or days.')
  else desk.set(field, value, [props.topic.id])
}
// The three are one value: they're set together, once they say something together.
const three = reactive({ best: '', likely: '', worst: '' })
watch(
  () => props.topic.estimate,
  now => {
    for (const key of ['best', 'likely', 'worst'] as const) three[key] = now ? String(now[key]) : ''
  },
  { immediate: true },
)
function setEstimate(): void {
  const values = (['best', 'likely', 'worst'] as const).map(key => numberIn(three[key], 10_000))
  const [best, likely, worst] = values
  if (values.every(value => value === null)) desk.set('estimate', null, [props.topic.id])
  else if (values.some(value => value === undefined)) desk.say('Estimates are numbers of working days, 10,000 at most.')
  else if (best == null || likely == null || worst == null) return
  else if (best > likely || likely > worst) desk.say('Estimates run from best to likely to worst.')
  else desk.set('estimate', { best, likely, worst }, [props.topic.id])
}
</script>

<template>
  <div class="plan">
    <p v-if="task" class="computed" :class="{ critical: task.critical }">
      <b>{{ task.milestone ? dayInWords(task.finish) : `${dayInWords(task.start)} – ${dayInWords(task.finish)}` }}</b>
      <span>{{ becauseInWords(task.because, task, speaker) }}</span>
      <span>{{ floatInWords(task) }}</span>
      <span v-if="task.late" class="late">{{ daysInWords(task.late) }} after its due date</span>
      <span v-if="task.assumed">a day is assumed: nobody said how long it takes</span>
    </p>
    <p v-else-if="branch" class="computed" :class="{ critical: branch.critical }">
      <b>{{ dayInWords(branch.start) }} – {{ dayInWords(branch.finish) }}</b>
      <span>{{ branch.tasks }} {{ branch.tasks === 1 ? 'task' : 'tasks' }} below</span>
    </p>
    <p v-else-if="!plan" class="quiet">This tree has no plan yet; the schedule offers to begin one.</p>
    <p v-for="one in broken" :key="one.wait.id" class="late" role="alert">{{ brokenInWords(one, speaker) }}</p>

    <div class="waits" data-part="wait">
      <div v-for="wait in topic.waits" :key="wait.id" class="wait">
        <NuxtLink v-if="wait.elsewhere" class="open" :to="`/trees/${wait.elsewhere.tree}?topic=${wait.on}`"
          >after {{ nameOf(wait) }}</NuxtLink
        >
        <button v-else class="open" @click="desk.visit(wait.on)">after {{ nameOf(wait) }}</button>
        <button
          v-if="may"
          class="icon-button"
          :aria-label="`Doesn’t wait for ${nameOf(wait)}`"
          @click="put({ op: 'take', topic: topic.id, set: 'waits', member: wait.id })">
          <Icon name="lucide:x" size="14" />
        </button>
        <span class="how">
          <select
            :value="wait.kind"
            :disabled="!may"
            :aria-label="`How it waits for ${nameOf(wait)}`"
            @change="change(wait, { kind: ($event.target as HTMLSelectElement).value as Wait['kind'] })">
            <option v-for="kind in WAIT_KINDS" :key="kind" :value="kind">{{ kindInWords(kind) }}</option>
          </select>
          <input
            v-kept="wait.lag"
            inputmode="decimal"
            :disabled="!may"
            :aria-label="`Days after ${nameOf(wait)}`"
            @change="setLag(wait, ($event.target as HTMLInputElement).value)" />
          <select
            :value="wait.days"
            :disabled="!may"
            :aria-label="`Which days after ${nameOf(wait)}`"
            @change="change(wait, { days: ($event.target as HTMLSelectElement).value as Wait['days'] })">
            <option value="working">working days after</option>
            <option value="calendar">calendar days after</option>
          </select>
        </span>
        <small v-if="wait.elsewhere" class="known quiet"
          >{{ knownOf(wait) }} <button v-if="may" class="plain" @click="lookAgain(desk)">Look again</button></small
        >
      </div>
      <template v-if="may && !choosing">
        <button class="plain" @click="choosing = true">Waits for …</button>
        <button v-if="page" class="plain" @click="page.choose('wait-abroad')">for another tree …</button>
      </template>
      <TargetPicker
        v-if="choosing"
        label="Waits for"
        :without="[topic.id]"
        @chosen="chosen"
        @closed="choosing = false" />
      <p v-if="waiting.length" class="after quiet">
        Waiting for this:
        <button v-for="id in waiting" :key="id" class="plain" @click="desk.visit(id)">{{ titleOf(id) }}</button>
      </p>
    </div>

    <div v-if="!branch" class="more">
      <template v-if="topic.start">
        <label for="plan-start-means">Start is</label>
        <select
          id="plan-start-means"
          :value="topic.startMeans"
          :disabled="!may"
          @change="
            desk.set('startMeans', ($event.target as HTMLSelectElement).value as Topic['startMeans'], [topic.id])
          ">
          <option value="not-before">not before that day</option>
          <option value="fixed">just then</option>
        </select>
      </template>
      <template v-if="topic.due">
        <label for="plan-due-means">Due is</label>
        <select
          id="plan-due-means"
          :value="topic.dueMeans"
          :disabled="!may"
          @change="desk.set('dueMeans', ($event.target as HTMLSelectElement).value as Topic['dueMeans'], [topic.id])">
          <option value="deadline">a deadline: it only warns</option>
          <option value="not-after">not after that day</option>
        </select>
      </template>
      <span>Estimates</span>
      <span class="three">
        <input
          v-for="key in ['best', 'likely', 'worst'] as const"
          :key="key"
          v-model="three[key]"
          inputmode="decimal"
          :placeholder="key"
          :aria-label="`Working days, ${key}`"
          :disabled="!may"
          @change="setEstimate" />
      </span>
      <label for="plan-effort">Work</label>
      <span class="unit"
        ><input
          id="plan-effort"
          v-kept="topic.effort ?? ''"
          inputmode="decimal"
          :disabled="!may"
          @change="setNumber('effort', ($event.target as HTMLInputElement).value)" />
        hours, spent
        <input
          v-kept="topic.spent ?? ''"
          inputmode="decimal"
          aria-label="Hours spent"
          :disabled="!may"
          @change="setNumber('spent', ($event.target as HTMLInputElement).value)"
      /></span>
      <span>Begun</span>
      <DayField
        :key="`b${topic.id}`"
        :model-value="topic.began"
        label="Begun"
        placeholder="in fact"
        :disabled="!may"
        @update:model-value="desk.set('began', $event, [topic.id])" />
      <span>Ended</span>
      <DayField
        :key="`e${topic.id}`"
        :model-value="topic.ended"
        label="Ended"
        placeholder="in fact"
        :disabled="!may"
        @update:model-value="desk.set('ended', $event, [topic.id])" />
      <template v-if="topic.began || topic.done">
        <label for="plan-left">Left</label>
        <span class="unit"
          ><input
            id="plan-left"
            v-kept="topic.left ?? ''"
            inputmode="decimal"
            :disabled="!may"
            @change="setNumber('left', ($event.target as HTMLInputElement).value)" />
          working days</span
        >
      </template>
    </div>
  </div>
</template>

<style scoped>
.plan {
  font-size: 13px;
}
.computed {
  margin: 0 0 8px;
  padding: 5px 10px;
  border-left: 4px solid var(--porch);
  background: var(--page);
  display: flex;
  flex-direction: column;
}
.computed.critical {
  border-left: 6px double var(--ink);
}
.computed b {
  font: 650 15px/1.4 var(--display);
}
.late {
  color: var(--clay);
  font-weight: 650;
}
.wait {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  border-left: 3px solid var(--sun);
  padding-left: 8px;
  margin-bottom: 6px;
}
.known {
  grid-column: 1 / -1;
}
a.open {
  white-space: normal;
  overflow-wrap: anywhere;
}
.open {
  text-align: left;
  border: 0;
  background: none;
  color: var(--porch);
  font-weight: 600;
  padding: 2px 0;
  min-height: 26px;
  cursor: pointer;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.how {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
select,
input {
  font: inherit;
  color: inherit;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 6px;
  min-height: 30px;
  padding: 2px 6px;
  min-width: 0;
}
.how input,
.unit input {
  width: 58px;
}
.plain {
  padding: 0 8px 0 0;
  min-height: 26px;
}
.after {
  margin: 4px 0;
}
.more {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  gap: 7px 8px;
  align-items: center;
  margin-top: 8px;
}
.more > label,
.more > span:not(.three, .unit) {
  color: var(--quiet);
}
.three {
  display: flex;
  gap: 5px;
}
.three input {
  width: 100%;
}
.unit {
  color: var(--quiet);
}
</style>
