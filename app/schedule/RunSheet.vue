<script setup lang="ts">
import type { CalendarEntry } from '#core/calendar/calendar'
import { lineInWords, type RunLine, type RunSheet, warningsOf } from '#core/calendar/run-sheet'
import { shorten, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** The lines of a day by its times: what begins when, who is there and where, and who would have to be in two places. */
defineProps<{ sheet: RunSheet }>()
const emit = defineEmits<{
  down: [event: PointerEvent, entry: CalendarEntry]
  menu: [event: MouseEvent, entry: CalendarEntry]
  closed: []
}>()
const desk = useDesk()
const title = (id: TopicId): string => desk.drawnOf(id).guise.topic.title || 'untitled'
const name = (id: string): string => desk.nameOf(id) || 'Somebody'

const warnings = (line: RunLine): string[] => warningsOf(line, id => shorten(title(id), 40), name)
const saysOf = (line: RunLine): string =>
  [lineInWords(line), title(line.entry.id), line.place, line.people.map(name).join(', '), ...warnings(line)]
    .concat(line.entry.done ? ['done'] : [])
    .filter(Boolean)
    .join(', ')
/** What every row of the sheet is and does. What comes again stands for the turn that is open, which has the row's id. */
const rowOf = (entry: CalendarEntry) => ({
  id: entry.kind === 'turn' ? undefined : `day-${entry.id}`,
  role: 'treeitem',
  class: {
    selected: desk.selection.value.has(entry.id),
    focused: desk.focus.value === entry.id,
    done: entry.done,
    dim: desk.finding.isDim(entry.id),
  },
  style: { '--hue': desk.dressing.hueOf(entry.id) },
  'aria-level': 1,
  'aria-selected': desk.selection.value.has(entry.id),
  'data-topic': entry.id,
  onPointerdown: (event: PointerEvent) => emit('down', event, entry),
  onDblclick: () => desk.edit(entry.id),
  onContextmenu: (event: MouseEvent) => emit('menu', event, entry),
})
</script>

<template>
  <div class="sheet">
    <section v-if="sheet.untimed.length" role="group" aria-label="At any time, or all day" class="untimed">
      <h3 role="presentation">At any time, or all day</h3>
      <div
        v-for="entry in sheet.untimed"
        :key="`${entry.id} ${entry.kind}`"
        class="row"
        v-bind="rowOf(entry)"
        :aria-label="[title(entry.id), entry.done ? 'done' : ''].filter(Boolean).join(', ')">
        <span class="plank">
          <TitleField
            v-if="desk.editing.value?.id === entry.id && entry.kind !== 'turn'"
            class="words"
            @closed="emit('closed')" />
          <span v-else class="words" dir="auto">{{ title(entry.id) }}</span>
        </span>
      </div>
    </section>
    <section v-if="sheet.lines.length" role="group" aria-label="By time" class="timed">
      <div
        v-for="line in sheet.lines"
        :key="`${line.entry.id} ${line.entry.kind}`"
        class="row"
        v-bind="rowOf(line.entry)"
        :aria-label="saysOf(line)">
        <time>{{ lineInWords(line) }}</time>
        <span class="plank">
          <TitleField
            v-if="desk.editing.value?.id === line.entry.id && line.entry.kind !== 'turn'"
            class="words"
            @closed="emit('closed')" />
          <span v-else class="words" dir="auto"
            ><Icon v-if="line.entry.kind === 'meeting'" name="lucide:presentation" size="14" />
            {{ title(line.entry.id) }}</span
          >
          <span v-if="line.people.length || line.place" class="who">
            <span v-for="person in line.people" :key="person" class="person"
              ><PersonFace :id="person" :name="name(person)" :size="20" />{{ name(person) }}</span
            >
            <span v-if="line.place" class="place"><Icon name="lucide:map-pin" size="13" />{{ line.place }}</span>
          </span>
          <span v-for="words in warnings(line)" :key="words" class="warning"
            ><Icon name="lucide:triangle-alert" size="14" />{{ words }}</span
          >
        </span>
      </div>
    </section>
  </div>
</template>

<style scoped>
.sheet {
  padding: 0 14px 40px;
  max-width: 1080px;
}
h3 {
  margin: 8px 0 2px;
  font: 600 13px/1.3 var(--text, inherit);
  color: var(--quiet);
}
.untimed {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  padding-bottom: 12px;
}
.untimed h3 {
  flex: 1 0 100%;
}
.row {
  user-select: none;
  -webkit-user-select: none;
  cursor: default;
}
.timed .row {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  gap: 0 16px;
}
time {
  padding-top: 9px;
  text-align: right;
  font-weight: 650;
  font-variant-numeric: tabular-nums;
  font-size: 13.5px;
  line-height: 1.35;
}
/* The day runs down as a beam, from which each plank is held. */
.timed .plank {
  border-left: 3px solid var(--line);
  padding: 5px 0 5px 16px;
  position: relative;
}
.timed .plank::before {
  content: '';
  position: absolute;
  left: -3px;
  top: 17px;
  width: 16px;
  height: 3px;
  background: var(--hue);
}
.plank {
  display: flex;
  flex-direction: column;
  gap: 2px;
}
.words {
  align-self: flex-start;
  max-width: 100%;
  padding: 4px 12px;
  border-left: 4px solid var(--hue);
  background: color-mix(in srgb, var(--hue) 13%, var(--surface));
  font-weight: 560;
  overflow-wrap: anywhere;
}
.row.selected .words {
  background: color-mix(in srgb, var(--hue) 32%, var(--surface));
}
.row.focused .words {
  outline: 2.5px solid var(--sun);
}
.row.done .words {
  color: var(--quiet);
  text-decoration: line-through;
}
.row.dim {
  opacity: 0.35;
}
.who {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  padding: 2px 0 0 2px;
  color: var(--quiet);
  font-size: 13px;
}
.person,
.place {
  display: inline-flex;
  align-items: center;
  gap: 5px;
}
.warning {
  display: flex;
  align-items: center;
  gap: 6px;
  padding-left: 2px;
  color: var(--clay);
  font-weight: 600;
  font-size: 13px;
}
@media (max-width: 700px) {
  .timed .row {
    grid-template-columns: 76px minmax(0, 1fr);
    gap: 0 10px;
  }
  time {
    font-size: 12.5px;
  }
}
</style>
