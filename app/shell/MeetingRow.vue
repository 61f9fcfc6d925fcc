<script setup lang="ts">
import type { ListedMeeting } from '#core/contract'
import { wallTime } from '#core/meeting/zones'

/** A meeting in a list: when it is where one stands, one's part in it, and how ready it is. */
const { meeting, clash = [] } = defineProps<{ meeting: ListedMeeting; clash?: readonly string[] }>()
const own = ownZone()
const at = computed(() => (meeting.start === null ? null : wallTime(meeting.start, own)))
const soon = computed(() => (at.value ? dueInWords(at.value.day).text : 'no day yet'))
const PARTS = {
  chair: 'you chair',
  notes: 'you take notes',
  needed: 'you are needed',
  optional: 'you may come',
} as const
const percent = computed(() => (meeting.readiness === null ? null : Math.round(meeting.readiness * 100)))
const words = computed(() =>
  meeting.stage === 'running'
    ? 'running now'
    : meeting.stage === 'ended'
      ? 'held'
      : meeting.stage === 'cancelled'
        ? 'cancelled'
        : meeting.findings === 0
          ? 'ready'
          : `${meeting.findings} to mend`,
)
</script>

<template>
  <NuxtLink :to="`/trees/${meeting.treeId}?topic=${meeting.id}&view=meeting`" class="row" :class="meeting.stage">
    <span class="edge" />
    <span class="day"
      ><b>{{ at ? at.time : '–' }}</b
      ><small>{{ at ? (soon === at.day ? dayInWords(at.day) : soon) : soon }}</small></span
    >
    <span class="name"
      >{{ meeting.title || 'untitled'
      }}<small>{{
        [
          at ? dayInWords(at.day) : '',
          `${meeting.minutes} min`,
          meeting.tree,
          meeting.part ? PARTS[meeting.part] : '',
          meeting.invited && meeting.answer === 'needs-action' ? 'not answered yet' : '',
        ]
          .filter(Boolean)
          .join(' · ')
      }}</small
      ><small v-if="clash.length" class="clash"
        ><Icon name="lucide:calendar-x" size="13" /> at the same time as {{ clash.join(', ') }}</small
      ></span
    >
    <span class="state"
      ><span>{{ words }}</span
      ><span v-if="percent !== null" class="bar" role="img" :aria-label="`${percent} per cent ready`"
        ><i :style="{ width: `${percent}%` }" :class="{ full: meeting.findings === 0 }" /></span
    ></span>
  </NuxtLink>
</template>

<style scoped src="./row.css"></style>

<style scoped>
.row {
  gap: 14px;
  padding: 8px 14px 8px 0;
}
.edge {
  margin: -8px 0;
}
.running .edge {
  background: var(--sun);
}
.ended .edge {
  background: var(--fern);
}
.cancelled .edge {
  background: var(--clay);
}
.day {
  width: 74px;
  flex: none;
}
.day b {
  font: 650 17px var(--display);
}
.cancelled .name {
  text-decoration: line-through;
}
.clash {
  color: var(--clay);
  font-weight: 600;
}
.state {
  width: 110px;
  flex: none;
  font-size: 12.5px;
  color: var(--quiet);
  text-align: right;
  display: flex;
  flex-direction: column;
  gap: 4px;
  align-items: flex-end;
}
.bar {
  width: 80px;
  height: 5px;
  background: var(--line);
  border-radius: 3px;
  overflow: hidden;
}
.bar i {
  display: block;
  height: 100%;
  background: var(--sun);
}
.bar .full {
  background: var(--fern);
}
</style>
