<script setup lang="ts">
import { ordersBehind } from '#core/figures/beginnings'
import { differing } from '#core/figures/charts'
import { sayFigure } from '#core/figures/numbers'
import { assumedIn, takenOver, withoutWhatIf } from '#core/figures/what-ifs'
import { branch, type Measure, shorten, topicOf, type TopicId, type WhatIf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import FormulaField from './FormulaField.vue'
import { figuresOf, giveFigures, shownResult, whatIfsOf } from './figuring'
import { newShortId } from './naming'

/** Assumptions side by side: what changes under each, what that comes to, and taking one over as one edit. */
const { measures } = defineProps<{ measures: readonly Measure[] }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const whatIfs = computed(() => {
  void desk.tick.value
  return whatIfsOf(desk)
})
const measureId = ref<string | null>(null)
const measure = computed(() => measures.find(({ id }) => id === measureId.value) ?? measures[0]!)
const top = computed(() => desk.only.value ?? desk.tree.centre)

interface Column {
  readonly text: string
  readonly fault: string | null
  readonly assumed: boolean
  /** Against what is so; '' where it's the same. */
  readonly difference: string
  readonly more: boolean
}
/** The centre, what differs, and the topic that has the focus, so that something can be assumed of it. */
const rows = computed(() => {
  void desk.tick.value
  const asIs = figuresOf(desk)
  const others = whatIfs.value.map(one => figuresOf(desk, one.id))
  const ids = new Set<TopicId>([top.value, ...differing(desk.tree, top.value, measure.value.id, asIs, others)])
  for (const { id, figures } of branch(desk.tree, top.value))
    if (figures.some(one => one.whatIf !== null && one.measure === measure.value.id)) ids.add(id)
  if (desk.tree.topics.has(desk.focus.value)) ids.add(desk.focus.value)
  return [...branch(desk.tree, top.value)]
    .filter(({ id }) => ids.has(id))
    .map(topic => {
      const of = { topic: topic.id, measure: measure.value.id }
      const base = asIs.of(topic.id, measure.value.id)
      return {
        id: topic.id,
        title: topic.title,
        reference: topic.reference !== null,
        base: shownResult(desk, base, measure.value, of, true),
        columns: others.map((other, i): Column => {
          const result = other.of(topic.id, measure.value.id)
          const difference = result.value !== null && base.value !== null ? result.value - base.value : null
          return {
            ...shownResult(desk, result, measure.value, of, true),
            assumed: topic.figures.some(one => one.measure === measure.value.id && one.whatIf === whatIfs.value[i]!.id),
            difference:
              difference === null || difference === 0n
                ? ''
                : `${difference > 0n ? '+' : ''}${sayFigure(difference, measure.value, ownLocale(), true)}`,
            more: (difference ?? 0n) > 0n,
          }
        }),
      }
    })
})

const opened = shallowRef<{ readonly id: TopicId; readonly whatIf: string } | null>(null)
function open(id: TopicId, whatIf: string): void {
  if (!desk.guard()) return
  desk.select(id, { quiet: true })
  opened.value = { id, whatIf }
}
function kept(text: string | null): void {
  const at = opened.value
  opened.value = null
  if (at && text !== null) giveFigures(desk, [{ topic: at.id, measure: measure.value.id, whatIf: at.whatIf, text }])
  nextTick(focusTree)
}
function dropped(): void {
  opened.value = null
  nextTick(focusTree)
}
/** Back to what is so, for one topic. */
function asItIs(id: TopicId, whatIf: string): void {
  if (!desk.guard()) return
  const found = topicOf(desk.tree, id).figures.find(one => one.measure === measure.value.id && one.whatIf === whatIf)
  if (found) desk.run({ changes: [{ op: 'take', topic: id, set: 'figures', member: found.id }] })
}

function add(): void {
  if (!desk.guard()) return
  if (whatIfs.value.length >= 12) {
    desk.say('Twelve assumptions stand side by side at most. Take one away first.')
    return
  }
  const [order] = ordersBehind(whatIfs.value, 1)
  const letter = 'BCDEFGHIJKLMN'[whatIfs.value.length] ?? ''
  desk.run({
    changes: [{ op: 'tree-put', set: 'whatIfs', member: { id: newShortId(), order: order!, name: `Offer ${letter}` } }],
  })
}
function rename(whatIf: WhatIf, name: string): void {
  const said = name.trim().toWellFormed().slice(0, 60)
  if (said !== '' && said !== whatIf.name && desk.guard())
    desk.run({ changes: [{ op: 'tree-put', set: 'whatIfs', member: { ...whatIf, name: said } }] })
}
function remove({ id, name }: WhatIf): void {
  if (!desk.guard()) return
  desk.run({ changes: withoutWhatIf(desk.tree, id) })
  desk.say(`“${name}” and what was assumed in it are gone.`, true)
}
/** What is assumed becomes what is so, in all measures: one edit. */
function takeOver({ id, name }: WhatIf): void {
  if (!desk.guard()) return
  const found = assumedIn(desk.tree, id)
  desk.run({ changes: takenOver(desk.tree, id) })
  desk.say(
    `“${name}” is what is so now: ${found.length === 1 ? 'one figure' : `${found.length} figures`} taken over.`,
    true,
  )
}
</script>

<template>
  <div class="what-if" tabindex="0" role="region" aria-label="What if">
    <div class="choose">
      <Select
        v-if="measures.length > 1"
        :model-value="measure.id"
        :options="[...measures]"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Measure"
        @update:model-value="measureId = $event" />
      <Button v-if="may" size="small" label="Assume something else" @click="add" />
      <p v-if="whatIfs.length" class="quiet">
        Choose a topic anywhere, and it stands here too. A double click, or Enter on a cell, assumes another figure.
      </p>
    </div>
    <div v-if="whatIfs.length === 0" class="none">
      <h2>What if it were otherwise?</h2>
      <p class="quiet">
        An assumption holds a few figures that are others: a second offer, a cheaper floor, one lorry more. All that
        hangs on them is reckoned again beside what is so, and nothing changes until you take it over.
      </p>
    </div>
    <table v-else aria-label="Assumptions side by side">
      <thead>
        <tr>
          <th scope="col">
            {{ measure.name }}&#32;<span v-if="measure.unit" class="quiet">{{ measure.unit }}</span>
          </th>
          <th scope="col">as it is</th>
          <th v-for="one in whatIfs" :key="one.id" scope="col" colspan="2">
            <input
              v-kept="one.name"
              maxlength="60"
              aria-label="Name of the assumption"
              :disabled="!may"
              @change="rename(one, ($event.target as HTMLInputElement).value)" />
            <span v-if="may" class="acts">
              <button class="plain" @click="takeOver(one)">Take over</button>
              <button class="icon-button" :aria-label="`Take “${one.name}” away`" @click="remove(one)">
                <Icon name="lucide:x" size="13" />
              </button>
            </span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.id" :class="{ top: row.id === top, here: row.id === desk.focus.value }">
          <th scope="row">
            <button class="plain" dir="auto" @click="desk.select(row.id)">
              {{ shorten(row.title, 46) || 'untitled' }}
            </button>
          </th>
          <td>
            <span v-if="row.base.fault" class="bad" :data-tip="row.base.fault">{{ row.base.text }}</span>
            <template v-else>{{ row.base.text }}</template>
          </td>
          <template v-for="(column, i) in row.columns" :key="whatIfs[i]!.id">
            <td class="cell" :class="{ assumed: column.assumed }" @dblclick="open(row.id, whatIfs[i]!.id)">
              <FormulaField
                v-if="opened?.id === row.id && opened.whatIf === whatIfs[i]!.id"
                open
                :topic="row.id"
                :measure="measure"
                :what-if="whatIfs[i]!.id"
                :label="`${measure.name} of ${shorten(row.title, 40)} in ${whatIfs[i]!.name}`"
                @kept="kept"
                @dropped="dropped" />
              <template v-else>
                <button
                  v-if="column.assumed && may"
                  class="icon-button back"
                  :aria-label="`As it is again, for ${shorten(row.title, 40)}`"
                  data-tip="As it is again"
                  @click="asItIs(row.id, whatIfs[i]!.id)">
                  <Icon name="lucide:rotate-ccw" size="12" />
                </button>
                <button
                  class="value"
                  :disabled="!may || row.reference"
                  :aria-label="`${measure.name} of ${shorten(row.title, 40)} in ${whatIfs[i]!.name}: ${column.text || 'nothing'}`"
                  @click="open(row.id, whatIfs[i]!.id)">
                  <span v-if="column.fault" class="bad" :data-tip="column.fault">{{ column.text }}</span>
                  <template v-else>{{ column.text || '–' }}</template>
                </button>
              </template>
            </td>
            <td class="difference" :class="{ more: column.more && measure.limit === 'most' }">
              {{ column.difference }}
            </td>
          </template>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped src="./WhatIfFace.css"></style>
