<script setup lang="ts">
import type { RunSheet } from '#core/calendar/run-sheet'
import { runSheetPage } from '#core/handing/run-sheet-page'
import type { TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { paperOf, printInFrame } from '~/handing/printing'

/** What stands over a run-sheet: who has to be in two places, on whose wall the times are, onto paper, and what to do where it's empty. */
const { sheet, zone, head, other } = defineProps<{
  sheet: RunSheet
  /** IANA zone on whose walls the times are. */
  zone: string
  /** The day in words. */
  head: string
  /** A day that has times, for one that has none. */
  other: string | null
}>()
const emit = defineEmits<{ go: [day: string] }>()
const desk = useDesk()
const title = (id: TopicId): string => desk.drawnOf(id).guise.topic.title || 'untitled'
const name = (id: string): string => desk.nameOf(id) || 'Somebody'
const twice = computed(() => {
  const people = new Set(sheet.lines.flatMap(({ clashes }) => clashes.map(({ person }) => person)))
  return people.size === 0
    ? ''
    : `${people.size === 1 ? 'One person has' : `${people.size} people have`} to be in two places`
})

async function print(): Promise<void> {
  try {
    await printInFrame(
      runSheetPage({
        sheet,
        tree: title(desk.tree.centre),
        head,
        zone,
        titleOf: title,
        nameOf: name,
        paper: paperOf(ownLocale()),
      }),
    )
  } catch (error) {
    desk.say((error as Error).message)
  }
}
</script>

<template>
  <div class="over">
    <header>
      <p v-if="twice" class="twice" role="status"><Icon name="lucide:users" size="15" /> {{ twice }}</p>
      <label class="zone">Times on the wall of <ZoneField /></label>
      <button v-if="sheet.lines.length + sheet.untimed.length" class="plain" @click="print">
        <Icon name="lucide:printer" size="15" /> Print
      </button>
    </header>
    <div v-if="sheet.lines.length === 0" class="none">
      <p>Nothing has a time on this day.</p>
      <p>
        Type one behind a day, as in “fri 14:30”, or two after a title: <kbd>Doors open // 5 Jun 10:00 to 12:00</kbd>.
      </p>
      <button v-if="other" class="plain" @click="emit('go', other)">
        Go to {{ dayInWords(other) }}, which has some
      </button>
    </div>
  </div>
</template>

<style scoped>
.over {
  padding: 0 14px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 18px;
  padding: 6px 0 4px;
  font-size: 13px;
}
.twice {
  display: flex;
  align-items: center;
  gap: 6px;
  margin: 0;
  color: var(--clay);
  font-weight: 650;
}
.zone {
  display: flex;
  align-items: center;
  gap: 7px;
  color: var(--quiet);
}
.zone :deep(.p-select) {
  max-width: 220px;
}
.plain {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  font-size: 13px;
  min-height: 28px;
  padding: 0;
}
.none {
  color: var(--quiet);
  padding: 12px 0;
}
.none p {
  margin: 0 0 6px;
}
kbd {
  font-family: inherit;
  background: var(--ceiling);
  color: var(--ink);
  padding: 2px 6px;
}
</style>
