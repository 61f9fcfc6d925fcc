<script setup lang="ts">
import { type AgendaItem, handTo, itemOf, lastKey, layOut, moveItem, sayItem, takeItem } from '#core/meeting/agenda'
import type { BriefLine } from '#core/meeting/brief'
import { readItemLine } from '#core/meeting/quick-item'
import { openItemId } from '#core/meeting/next'
import { type Change, type Intent, INTENTS, type TopicId, movedLine, keysAt } from '#core/tree'
import { itemWish, sayWish } from '#core/meeting/wishes'
import { newId } from '~/desk/new-id'
import { useMeeting } from '~/meeting/useMeeting'

/** The way there: items that stand in the tree, and lines that will. A change of an item changes its topic. */
const meeting = useMeeting()
const { desk, brief, items, starts, needed, may } = meeting
const root = ref<HTMLElement>()

interface Row {
  readonly id: string
  readonly title: string
  readonly intent: Intent
  readonly minutes: number | null
  readonly owner: string | null
  readonly wish?: string | null | undefined
  readonly serves: readonly string[]
  readonly pattern: readonly string[]
  readonly item: AgendaItem | null
  readonly line: BriefLine | null
}
const rows = computed<readonly Row[]>(() => [
  ...items.value.map((item): Row => ({
    ...item,
    owner: item.owners[0] ?? null,
    wish: itemWish(desk.tree, item.id),
    item,
    line: null,
  })),
  ...brief.value.lines.map((line): Row => ({ ...line, item: null, line })),
])
const chosen = ref(new Set<string>())
const people = computed(() => {
  void desk.lateTick.value
  return desk.status.people
})
const owners = computed(() => [{ id: '', name: 'nobody yet' }, ...people.value.map(({ id, name }) => ({ id, name }))])
const INTENT_OPTIONS = INTENTS.map(id => ({ id, name: id }))

/** The line or the item of a row as the tree has it this moment: rows follow a frame later. */
function now(id: string): Pick<Row, 'item' | 'line'> {
  const line = meeting.briefNow().lines.find(one => one.id === id) ?? null
  const topic = line ? undefined : desk.tree.topics.get(id)
  return { line, item: topic ? itemOf(topic) : null }
}

/** One change of a row, wherever it stands. */
function change(
  row: Row,
  next: Partial<Pick<Row, 'title' | 'intent' | 'minutes' | 'owner' | 'wish' | 'serves' | 'pattern'>>,
): void {
  const { item, line } = now(row.id)
  if (line) {
    const { wish, ...rest } = { ...line, ...next }
    meeting.say({
      ...rest,
      ...(wish && rest.owner === null ? { wish } : {}),
      serves: [...(next.serves ?? line.serves)],
      pattern: [...(next.pattern ?? line.pattern)],
    })
    return
  }
  if (!item) return
  const changes: Change[] = []
  const topic = item.id
  if (next.title !== undefined && next.title !== item.title)
    changes.push({ op: 'set', topic, field: 'title', value: next.title })
  if (next.intent) changes.push(sayItem(topic, { id: 'intent', kind: 'intent', intent: next.intent }))
  if (next.minutes !== undefined)
    changes.push(
      next.minutes === null
        ? takeItem(topic, 'minutes')
        : sayItem(topic, { id: 'minutes', kind: 'minutes', minutes: next.minutes }),
    )
  if (next.owner !== undefined)
    changes.push(
      ...handTo({ id: topic, people: item.owners }, next.owner),
      ...(next.owner !== null && row.wish ? [takeItem(topic, 'wish')] : []),
    )
  if (next.wish) changes.push(sayWish(topic, next.wish))
  else if (next.wish === null && row.wish) changes.push(takeItem(topic, 'wish'))
  if (next.serves) {
    for (const one of item.serves) if (!next.serves.includes(one)) changes.push(takeItem(topic, one))
    for (const one of next.serves)
      if (!item.serves.includes(one)) changes.push(sayItem(topic, { id: one, kind: 'serves' }))
  }
  if (next.pattern)
    changes.push(
      next.pattern.length === 0
        ? takeItem(topic, 'pattern')
        : sayItem(topic, { id: 'pattern', kind: 'pattern', parts: [...next.pattern] }),
    )
  meeting.run(changes)
}

function keepTitle(row: Row, event: Event): void {
  const said = readItemLine((event.target as HTMLInputElement).value.toWellFormed(), people.value)
  if (
    said.title === ''
      ? row.title === ''
      : said.title === row.title &&
        said.minutes === null &&
        said.intent === null &&
        said.owner === null &&
        said.wish === null
  )
    return
  change(row, {
    title: said.title.slice(0, 1000),
    ...(said.minutes !== null ? { minutes: said.minutes } : {}),
    ...(said.intent !== null ? { intent: said.intent } : {}),
    ...(said.owner !== null ? { owner: said.owner } : said.wish !== null ? { owner: null, wish: said.wish } : {}),
  })
}
function keepMinutes(row: Row, event: Event): void {
  const field = event.target as HTMLInputElement
  const text = field.value.trim().replace(/\s*min(utes)?$/i, '')
  const minutes = text === '' ? null : Number(text)
  if (minutes !== null && (!Number.isInteger(minutes) || minutes < 1 || minutes > 1440)) {
    desk.say('Minutes are a whole number from 1 to 1440. What was there stays.')
    field.value = String(row.minutes ?? '')
    return
  }
  if (minutes !== row.minutes) change(row, { minutes })
}

const fresh = ref('')
function add(): void {
  if (!desk.guard()) return
  const said = readItemLine(fresh.value.toWellFormed(), people.value)
  if (said.title === '') return
  fresh.value = ''
  meeting.say({
    id: newId(),
    kind: 'line',
    order: lastKey(meeting.briefNow().lines),
    title: said.title.slice(0, 1000),
    intent: said.intent ?? 'discuss',
    minutes: said.minutes,
    floor: null,
    owner: said.owner,
    ...(said.owner === null && said.wish ? { wish: said.wish } : {}),
    serves: [],
    pattern: [],
  })
  nextTick(() => root.value?.querySelector<HTMLInputElement>('.fresh')?.focus())
}
/** A list that is pasted is as many items. */
function paste(event: ClipboardEvent): void {
  const lines = (event.clipboardData?.getData('text/plain') ?? '')
    .split(/\r?\n/)
    .map(line => line.replace(/^\s*(?:[-*•]|\d+[.)])\s+/, '').trim())
    .filter(Boolean)
  if (lines.length < 2 || meeting.id.value === null) return
  event.preventDefault()
  const had = meeting.briefNow().lines
  const { keys } = keysAt(
    had.map(one => one.order),
    had.length,
    Math.min(60, lines.length),
  )
  meeting.run(
    lines.slice(0, 60).map((line, i): Change => {
      const said = readItemLine(line.toWellFormed(), people.value)
      const member = {
        id: newId(),
        kind: 'line' as const,
        order: keys[i]!,
        title: said.title.slice(0, 1000),
        intent: said.intent ?? 'discuss',
        minutes: said.minutes,
        floor: null,
        owner: said.owner,
        ...(said.owner === null && said.wish ? { wish: said.wish } : {}),
        serves: [],
        pattern: [],
      }
      return { op: 'put', topic: meeting.id.value!, set: 'meeting', member }
    }),
  )
}
function remove(row: Row): void {
  if (row.line) meeting.unsay(row.id)
  else if (meeting.run([{ op: 'remove', topic: row.id }])) desk.say(`Removed “${row.title}”.`, true)
}
function move(row: Row, by: 1 | -1): void {
  if (row.item) {
    meeting.run(moveItem(desk.tree, row.id, by))
    return
  }
  const lines = meeting.briefNow().lines
  meeting.run(
    movedLine(lines, row.id, by).map((member): Change => ({
      op: 'put',
      topic: meeting.id.value!,
      set: 'meeting',
      member,
    })),
  )
}
function key(event: KeyboardEvent, row: Row, i: number): void {
  const go = (to: number): void => {
    root.value?.querySelectorAll<HTMLInputElement>('.title')[to]?.focus()
  }
  if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
    event.preventDefault()
    move(row, event.key === 'ArrowUp' ? -1 : 1)
    nextTick(() => root.value?.querySelector<HTMLInputElement>(`[data-item="${row.id}"] .title`)?.focus())
  } else if (event.key === 'Enter' || event.key === 'ArrowDown') {
    event.preventDefault()
    if (i + 1 < rows.value.length) go(i + 1)
    else root.value?.querySelector<HTMLInputElement>('.fresh')?.focus()
  } else if (event.key === 'ArrowUp') {
    event.preventDefault()
    go(i - 1)
  }
}
function toggleServe(row: Row, must: string): void {
  const { item, line } = now(row.id)
  const serves = (line ?? item)?.serves ?? []
  change(row, { serves: serves.includes(must) ? serves.filter(one => one !== must) : [...serves, must] })
}

// — The inner pattern, for several at once, and laying out
const wanted = ref<string | null>(null)
const patterns = computed(() => {
  void desk.lateTick.value
  return desk.tree.fields.patterns.map(parts => ({ id: parts.join(', '), name: parts.join(', '), parts }))
})
const patternOptions = computed(() => [...patterns.value, { id: 'none', name: 'No pattern', parts: [] }])
function givePattern(name: string): void {
  wanted.value = null
  const parts = patterns.value.find(one => one.id === name)?.parts ?? []
  const open = meeting.id.value === null ? '' : openItemId(meeting.id.value)
  const rowsOf = rows.value.filter(row => (chosen.value.size > 0 ? chosen.value.has(row.id) : row.id !== open))
  meeting.run(
    rowsOf.map((row): Change => {
      const { line } = now(row.id)
      if (line) return { op: 'put', topic: meeting.id.value!, set: 'meeting', member: { ...line, pattern: [...parts] } }
      return parts.length === 0
        ? takeItem(row.id, 'pattern')
        : sayItem(row.id, { id: 'pattern', kind: 'pattern', parts: [...parts] })
    }),
  )
  chosen.value = new Set()
}
const toLayOut = computed(() => {
  void desk.lateTick.value
  return meeting.id.value === null ? [] : layOut(desk.tree, meeting.id.value)
})
function layOutNow(): void {
  const changes = toLayOut.value
  if (changes.length === 0) desk.say('The agenda is laid out; there is nothing to add.')
  else if (meeting.run(changes)) {
    const made = changes.filter(one => one.op === 'add').length
    desk.say(`The agenda is laid out: ${made} ${made === 1 ? 'topic' : 'topics'} added.`, true)
  }
}
defineExpose({ layOutNow })
function choose(id: string): void {
  const next = new Set(chosen.value)
  if (!next.delete(id)) next.add(id)
  chosen.value = next
}
const timeOf = (id: TopicId): string => (starts.value.has(id) ? meeting.timeAt(starts.value.get(id)!) : '')
</script>

<template>
  <section ref="root" class="items">
    <h2>The way there</h2>
    <div v-if="rows.length" class="rows" role="list">
      <div
        v-for="(row, i) in rows"
        :key="row.id"
        role="listitem"
        class="row"
        :class="{ line: row.line }"
        :data-item="row.id">
        <input
          v-if="may"
          type="checkbox"
          :checked="chosen.has(row.id)"
          :aria-label="`Choose ${row.title}`"
          @change="choose(row.id)" />
        <span class="time">{{ timeOf(row.id) || `${i + 1}.` }}</span>
        <input
          class="title"
          v-kept="row.title"
          dir="auto"
          :readonly="!may"
          :aria-label="`Item ${i + 1}`"
          @blur="keepTitle(row, $event)"
          @keydown="key($event, row, i)" />
        <Select
          :model-value="row.intent"
          :options="INTENT_OPTIONS"
          option-label="name"
          option-value="id"
          size="small"
          class="intent"
          :disabled="!may"
          :aria-label="`What ${row.title} is for`"
          @update:model-value="change(row, { intent: $event })" />
        <span class="minutes"
          ><input
            v-kept="row.minutes ?? ''"
            inputmode="numeric"
            :readonly="!may"
            :class="{ missing: row.minutes === null }"
            :aria-label="`Minutes for ${row.title}`"
            @blur="keepMinutes(row, $event)"
            @keydown.enter.prevent="($event.target as HTMLElement).blur()" />
          min</span
        >
        <Select
          :model-value="row.owner ?? ''"
          :options="owners"
          option-label="name"
          option-value="id"
          size="small"
          class="owner"
          placeholder="nobody yet"
          :disabled="!may"
          :aria-label="`Owner of ${row.title}`"
          @update:model-value="change(row, { owner: $event || null, wish: null })" />
        <button
          v-if="row.wish && !row.owner"
          class="chip wish"
          :disabled="!may"
          :title="`“${row.wish}” isn’t in this tree yet. It’s theirs as soon as they join.`"
          :aria-label="`Waits for ${row.wish}: drop the wish`"
          @click="change(row, { wish: null })">
          for {{ row.wish }}
        </button>
        <span class="serves" role="group" :aria-label="`What ${row.title} settles`">
          <button
            v-for="(must, n) in brief.musts"
            :key="must.id"
            :aria-pressed="row.serves.includes(must.id)"
            :disabled="!may"
            :title="must.text"
            :aria-label="`Settles ${n + 1}: ${must.text}`"
            @click="toggleServe(row, must.id)">
            {{ n + 1 }}
          </button>
        </span>
        <span v-if="row.item?.ready" class="state ok">ready</span>
        <span v-else-if="row.item?.asked" class="state">asked</span>
        <span v-else-if="row.line" class="state">to lay out</span>
        <span v-else class="state" />
        <button v-if="may" class="icon-button" :aria-label="`Remove ${row.title}`" @click="remove(row)">
          <Icon name="lucide:x" size="14" />
        </button>
      </div>
    </div>
    <input
      v-if="may"
      v-model="fresh"
      class="fresh"
      dir="auto"
      placeholder="Next item // decide, 20 min, Oskar"
      aria-label="Next item of the agenda"
      @keydown.enter.prevent="add"
      @paste="paste" />
    <div class="foot">
      <span class="sum" :class="{ over: brief.slot !== null && needed > brief.slot }"
        >{{ needed }} min needed{{ brief.slot !== null ? `, ${brief.slot} set aside` : '' }}</span
      >
      <span class="grow" />
      <Select
        v-if="may && rows.length"
        v-model="wanted"
        :options="patternOptions"
        option-label="name"
        option-value="id"
        size="small"
        :placeholder="chosen.size ? `Inner pattern for ${chosen.size}` : 'Inner pattern for all'"
        aria-label="Inner pattern"
        @update:model-value="givePattern" />
      <Button
        v-if="may"
        data-lay-out
        label="Lay out the agenda"
        size="small"
        :outlined="toLayOut.length === 0"
        :disabled="rows.length === 0"
        @click="layOutNow" />
    </div>
  </section>
</template>

<style scoped src="./MeetingBriefItems.css"></style>
