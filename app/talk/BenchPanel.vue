<script setup lang="ts">
import { until, useDebounceFn, useDocumentVisibility } from '@vueuse/core'
import type { Body } from '#core/talk/body'
import { BENCH } from '#core/talk/saying'
import type { Comment } from '#core/talk/thread'
import { mentionsIn } from '#core/talk/body'
import SaidLine from './SaidLine.vue'
import SayBox from './SayBox.vue'
import { useTalking } from './useTalking'

/** The talk of the tree, beside the canvas: its lines, who is here, and a field that is quick to type in. */
const { desk, talk, maySay: may } = useTalking()
const list = ref<HTMLElement>()
const words = ref('')
const found = shallowRef<readonly Comment[] | null>(null)
const wrong = ref('')
const unread = computed(() => {
  void desk.talking.tick.value
  return talk.value?.unread ?? 0
})
const lines = computed(() => {
  void desk.talking.tick.value
  return found.value ?? talk.value?.bench()?.comments ?? []
})
const isRead = computed(() => {
  void desk.talking.tick.value
  return talk.value?.bench() !== undefined
})
/** Where what one hasn't read begins, as it was when the bench was sat down on. */
const fresh = ref(0)
const more = computed(() => {
  void desk.talking.tick.value
  return found.value === null && (talk.value?.benchMore ?? false)
})

const here = computed(() => {
  const there = new Set(desk.status.present.map(({ id }) => id))
  there.add(desk.userId)
  const people = desk.status.people
  return { now: people.filter(({ id }) => there.has(id)), away: people.filter(({ id }) => !there.has(id)) }
})

const atEnd = (): boolean => {
  const box = list.value
  return !box || box.scrollHeight - box.scrollTop - box.clientHeight < 60
}
async function toEnd(): Promise<void> {
  await nextTick()
  if (list.value) list.value.scrollTop = list.value.scrollHeight
}
async function read(): Promise<void> {
  wrong.value = ''
  const box = list.value
  const below = box ? box.scrollHeight - box.scrollTop : 0
  try {
    await talk.value?.readBench()
    await nextTick()
    // What was being read stays where it was.
    if (box) box.scrollTop = box.scrollHeight - below
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
function saw(): void {
  if (document.visibilityState !== 'visible' || found.value) return
  const number = talk.value?.sawBench()
  if (number)
    void callApi(`/api/trees/${desk.session.treeId}/talk/seen`, { method: 'POST', body: { number } }).catch(() => {
      /* it's said again with the next line */
    })
}
watch(
  talk,
  async now => {
    if (!now) return
    fresh.value = now.unread
    if (!now.bench()) await read()
    await toEnd()
    saw()
  },
  { immediate: true },
)
watch(lines, () => {
  if (atEnd()) void toEnd().then(saw)
})
// What came while another tab was in front is read when this one is.
watch(useDocumentVisibility(), () => {
  if (atEnd()) saw()
})
let asked = 0
const search = useDebounceFn(async () => {
  const wanted = words.value.trim()
  const ask = ++asked
  try {
    const answer = wanted === '' ? null : ((await talk.value?.searchBench(wanted)) ?? null)
    // An answer to fewer letters may come after one to more.
    if (ask !== asked) return
    wrong.value = ''
    found.value = answer
    void toEnd()
  } catch (error) {
    if (ask === asked) wrong.value = (error as Error).message
  }
}, 250)

/** Topics that are named in what is shown light up. */
const named = computed(() => new Set(lines.value.flatMap(({ body }) => (body ? mentionsIn(body).topics : []))))
watch(
  named,
  topics => {
    desk.marks.value = new Map([...topics].map(id => [id, 'named'] as const))
  },
  { immediate: true },
)
onBeforeUnmount(() => {
  desk.marks.value = new Map()
})

async function say(body: Body): Promise<void> {
  // Whoever is quick says something before the talk has been loaded.
  ;(talk.value ?? (await until(talk).toBeTruthy()))!.goesOn(BENCH, body)
  fresh.value = 0
  await toEnd()
}
function carry(event: DragEvent, comment: Comment): void {
  if (!comment.body || !event.dataTransfer) return
  event.dataTransfer.setData('text/x-sun-porch-said', comment.id)
  event.dataTransfer.effectAllowed = 'copy'
}
/** A day before its first line. */
const dayBefore = (i: number): string => {
  const day = (at: string): string => isoDay(new Date(at))
  const [one, before] = [lines.value[i]!, lines.value[i - 1]]
  return before && day(before.at) === day(one.at) ? '' : dayInWords(day(one.at))
}
const firstFresh = computed(() => {
  if (fresh.value === 0) return ''
  const others = lines.value.filter(({ by, body }) => by !== desk.userId && body)
  return others.at(-fresh.value)?.id ?? ''
})
</script>

<template>
  <div class="bench">
    <div class="people" aria-label="People">
      <span v-for="person in here.now" :key="person.id" class="here" :title="`${person.name}, here`"
        ><PersonFace :id="person.id" :name="person.name" :size="24"
      /></span>
      <span v-for="person in here.away" :key="person.id" class="away" :title="`${person.name}, away`"
        ><PersonFace :id="person.id" :name="person.name" :size="24"
      /></span>
      <InputText v-model="words" class="find" aria-label="Find in the talk" placeholder="Find" @input="search" />
    </div>
    <div ref="list" class="lines" role="log" aria-label="Talk of the tree" tabindex="0" @scroll="atEnd() && saw()">
      <button v-if="more" class="plain" @click="read">Older lines</button>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }} <button class="plain" @click="read">Try again</button></p>
      <p v-else-if="!isRead" class="quiet" role="status">Reading …</p>
      <p v-else-if="lines.length === 0" class="quiet">
        {{ found ? 'Nobody said that.' : 'Nobody has sat down here yet. What is said here stays with the tree.' }}
      </p>
      <template v-for="(comment, i) in lines" :key="comment.id">
        <h4 v-if="dayBefore(i)">{{ dayBefore(i) }}</h4>
        <p v-if="comment.id === firstFresh" class="fresh" role="separator">new since you were here</p>
        <div :draggable="comment.body !== null && may" @dragstart="carry($event, comment)">
          <SaidLine :comment="comment" :topic="desk.focus.value" />
        </div>
      </template>
    </div>
    <button v-if="unread > 0 && !found" class="down" @click="toEnd().then(saw)">{{ unread }} new below</button>
    <SayBox
      v-if="may"
      first
      label="Say something to everybody in this tree"
      placeholder="Say something; @ names people, # topics"
      draft="bench"
      verb="Say"
      @said="say" />
  </div>
</template>

<style scoped>
.bench {
  display: flex;
  flex-direction: column;
  min-height: 0;
  height: calc(100% - 38px);
  position: relative;
}
.people {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 5px;
  padding-bottom: 8px;
}
.here {
  display: flex;
  border-radius: 50%;
  box-shadow:
    0 0 0 2px var(--surface),
    0 0 0 3.5px var(--fern);
}
.away {
  display: flex;
  /* Told apart by the ring of those who are here as well; the letters stay legible. */
  filter: saturate(0.2);
}
.find {
  margin-left: auto;
  width: 110px;
  padding: 4px 8px;
  font-size: 12.5px;
}
.lines {
  flex: 1;
  overflow: auto;
  min-height: 80px;
  margin: 0 -16px;
  padding: 0 16px;
}
h4 {
  margin: 8px 0 2px;
  font: 600 12px var(--text);
  color: var(--quiet);
  text-align: center;
}
.fresh {
  margin: 4px 0;
  text-align: center;
  font: 600 12px var(--text);
  color: var(--clay);
  border-top: 1px solid var(--clay);
  padding-top: 2px;
}
.down {
  align-self: center;
  border: 0;
  border-radius: 12px;
  background: var(--porch);
  color: var(--on-porch);
  font: 600 12px var(--text);
  padding: 3px 12px;
  margin: 4px;
  cursor: pointer;
}
</style>
