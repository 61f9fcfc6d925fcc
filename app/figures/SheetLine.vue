<script setup lang="ts">
import { type Measure, shorten, type TopicId } from '#core/tree'
import { commentsInWords } from '~/talk/count'
import FormulaField from './FormulaField.vue'
import type { Cell } from './sheet-cell'

/**
 * A row of the sheet. All that it shows is given, and what doesn't change stays the same object: a key draws the row that one leaves and
 * the one that one comes to, however many are in sight.
 */
export interface Line {
  readonly id: TopicId
  readonly level: number
  readonly title: string
  readonly number: string
  readonly parent: boolean
  readonly hue: string
  readonly cells: readonly Cell[]
}
const { line, index, measures, opened, whatIf } = defineProps<{
  line: Line
  index: number
  measures: readonly Measure[]
  selected: boolean
  dim: boolean
  folded: boolean
  /** The column where the keys are, -1 for the title's; null when they're in another row. */
  on: number | null
  /** The chosen block's columns in this row. */
  from: number
  to: number
  /** The column whose cell is typed in, and what was typed to open it. */
  opened: number | null
  first: string | null
  titled: boolean
  whatIf: string | null
}>()
const emit = defineEmits<{
  press: [event: PointerEvent, index: number, column: number]
  open: [index: number, column: number]
  rename: [id: TopicId]
  fold: [id: TopicId]
  kept: [text: string | null, then: 'down' | 'up' | 'right' | 'left' | 'stay']
  dropped: []
  closed: []
  menu: [event: MouseEvent, id: TopicId]
}>()
</script>

<template>
  <div
    :id="`sheet-${line.id}`"
    class="row"
    role="row"
    :class="{ parent: line.parent, here: on !== null, opened: opened !== null, selected, dim }"
    :aria-level="line.level"
    :aria-rowindex="index + 2"
    :aria-selected="selected"
    :aria-expanded="line.parent ? !folded : undefined"
    :style="{ '--hue': line.hue }"
    @contextmenu="emit('menu', $event, line.id)">
    <span
      class="corner"
      role="rowheader"
      :class="{ on: on === -1 }"
      :style="{ paddingLeft: `${(line.level - 1) * 16 + 8}px` }"
      @pointerdown="emit('press', $event, index, -1)"
      @dblclick="emit('rename', line.id)">
      <button
        v-if="line.parent && line.level > 1"
        class="twist"
        tabindex="-1"
        :aria-label="folded ? 'Unfold' : 'Fold'"
        @pointerdown.stop
        @click.stop="emit('fold', line.id)">
        <Icon :name="folded ? 'lucide:chevron-right' : 'lucide:chevron-down'" size="15" />
      </button>
      <span v-else class="twist" />
      <span v-if="line.number" class="number">{{ line.number }}</span>
      <TitleField v-if="titled" class="words" @closed="emit('closed')" />
      <span v-else class="words" dir="auto">{{ line.title || '\u00A0' }}</span>
    </span>
    <span
      v-for="(cell, i) in line.cells"
      :id="`cell-${line.id}-${i}`"
      :key="measures[i]!.id"
      class="column"
      role="gridcell"
      :class="{ on: on === i, ranged: i >= from && i <= to, rolled: !cell.own, open: opened === i }"
      :aria-selected="i >= from && i <= to"
      @pointerdown="emit('press', $event, index, i)"
      @dblclick="emit('open', index, i)">
      <FormulaField
        v-if="opened === i"
        :key="`${line.id} ${i}`"
        open
        :topic="line.id"
        :measure="measures[i]!"
        :what-if="whatIf"
        :first="first"
        :label="`${measures[i]!.name} of ${shorten(line.title, 60)}`"
        @kept="(text, then) => emit('kept', text, then)"
        @dropped="emit('dropped')" />
      <template v-else>
        <span class="value">
          <span
            v-if="cell.talked"
            class="talked"
            :class="{ unsettled: cell.talked.open }"
            role="img"
            :aria-label="`${commentsInWords(cell.talked.comments)}. `"
            :data-tip="commentsInWords(cell.talked.comments)"
            ><Icon name="lucide:message-square" size="12" />{{ cell.talked.comments }}</span
          >
          <span v-if="cell.beside && cell.own" class="beside quiet" data-tip="What is below comes to this"
            >Σ {{ cell.beside }}</span
          >
          <span v-if="cell.fault" class="wrong" :data-tip="cell.fault" :aria-label="cell.fault"
            ><Icon name="lucide:triangle-alert" size="13" /> {{ cell.text }}</span
          >
          <span v-else-if="cell.over" class="wrong" :data-tip="cell.over" :aria-label="`${cell.text}, ${cell.over}`"
            >{{ measures[i]!.limit === 'most' ? '↑' : '↓' }} {{ cell.text }}</span
          >
          <template v-else
            ><span v-if="cell.formula" class="quiet formula-sign" aria-label="formula">ƒ</span>{{ cell.text }}</template
          >
        </span>
        <span v-for="(aside, n) in cell.asides" :key="n" class="aside" :class="{ bad: aside.bad }">{{
          aside.text
        }}</span>
      </template>
    </span>
  </div>
</template>

<style scoped src="./SheetCells.css"></style>
<style scoped src="./SheetLine.css"></style>
