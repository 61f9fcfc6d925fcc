<script setup lang="ts">
import { pathTo, shorten, trayOf } from '#core/tree'
import { ARRANGEMENT_NAMES } from './arranging'
import { useDesk } from '~/desk/desk'

defineProps<{ zoom: number }>()
const emit = defineEmits<{ fit: []; zoom: [by: number | 'whole']; arrange: []; tray: [] }>()
const desk = useDesk()
const path = computed(() => {
  void desk.lateTick.value
  return desk.focus.value && desk.tree.topics.has(desk.focus.value) ? pathTo(desk.tree, desk.focus.value) : []
})
const arrangement = computed(() => {
  void desk.lateTick.value
  return desk.status.ready ? desk.tree.fields.arrangement : 'both'
})
const line = computed(() => {
  const { state, waiting } = desk.status
  if (state === 'gone') return desk.status.goneWhy
  if (state === 'live') return waiting === 0 ? 'saved' : `saving ${waiting}`
  const edits = waiting === 0 ? '' : waiting === 1 ? ', 1 edit waiting' : `, ${waiting} edits waiting`
  return state === 'opening' ? 'connecting' : `offline${edits}`
})
const DEPTHS = [1, 2, 3, 4, 5, 6] as const
const waitingLines = computed(() => {
  void desk.lateTick.value
  return desk.status.ready ? trayOf(desk.tree).length : 0
})
const found = computed(() => desk.finding.matches.value.length)
</script>

<template>
  <footer class="foot">
    <nav class="path" aria-label="Path to the selection">
      <template v-for="(topic, i) in path" :key="topic.id">
        <span v-if="i" aria-hidden="true"> › </span>
        <button :class="{ here: i === path.length - 1 }" @click="desk.visit(topic.id)">
          {{ shorten(topic.title, 28) }}
        </button>
      </template>
    </nav>
    <span class="line" :class="desk.status.state" role="status"><i aria-hidden="true" />{{ line }}</span>
    <span class="seg depth" role="group" aria-label="Open to depth">
      <button
        v-for="n in DEPTHS"
        :key="n"
        :aria-label="`Open to depth ${n}`"
        :aria-pressed="desk.depth.value === n"
        @click="desk.openTo(n)">
        {{ n }}
      </button>
      <button aria-label="Open all levels" :aria-pressed="desk.depth.value === 0" @click="desk.openTo(null)">
        All
      </button>
    </span>
    <template v-if="desk.view.value === 'canvas'">
      <button class="word" aria-label="Arrangement of the tree" @click="emit('arrange')">
        {{ ARRANGEMENT_NAMES[arrangement] }}
      </button>
      <span class="seg" role="group" aria-label="Zoom">
        <button aria-label="Zoom out" @click="emit('zoom', 0.8)">−</button>
        <button aria-label="Zoom to 100 %" @click="emit('zoom', 'whole')">{{ Math.round(zoom * 100) }} %</button>
        <button aria-label="Zoom in" @click="emit('zoom', 1.25)">+</button>
        <button aria-label="Fit the whole tree in view" @click="emit('fit')">Fit</button>
      </span>
    </template>
    <button class="word" aria-label="Tray" @click="emit('tray')">
      Tray{{ waitingLines ? ` ${waitingLines}` : '' }}
    </button>
    <span v-if="desk.finding.active" class="count">{{ found.toLocaleString('en') }} found</span>
    <span class="count"
      >{{ desk.topicCount.value.toLocaleString('en') }} {{ desk.topicCount.value === 1 ? 'topic' : 'topics' }}</span
    >
  </footer>
</template>

<style scoped>
.foot {
  height: 34px;
  border-top: 1px solid var(--line);
  background: var(--surface);
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 14px;
  color: var(--quiet);
  font-size: 12.5px;
  white-space: nowrap;
  min-width: 0;
}
.path {
  flex: 1;
  min-width: 40px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.path button,
.word {
  border: 0;
  background: none;
  padding: 2px;
  min-height: 24px;
  min-width: 24px;
  border-radius: 4px;
  cursor: pointer;
  color: inherit;
}
.path button:hover,
.word:hover:not(:disabled) {
  color: var(--ink);
  text-decoration: underline;
}
.path .here {
  color: var(--ink);
  font-weight: 600;
}
.line {
  display: flex;
  align-items: center;
  gap: 5px;
}
.line i {
  width: 7px;
  height: 7px;
  border-radius: 50%;
  background: var(--fern);
}
.line.offline i,
.line.opening i {
  background: var(--sun);
  border-radius: 1px;
}
.line.offline,
.line.gone {
  color: var(--ink);
  font-weight: 600;
}
.line.gone i {
  background: var(--clay);
  border-radius: 1px;
  transform: rotate(45deg);
}
.seg {
  display: flex;
  border: 1px solid var(--line);
  border-radius: 6px;
  overflow: hidden;
}
.seg button {
  border: 0;
  background: none;
  padding: 1px 7px;
  cursor: pointer;
  color: inherit;
  min-height: 24px;
  min-width: 24px;
}
.seg button[aria-pressed='true'] {
  background: var(--ceiling);
  color: var(--ink);
  font-weight: 700;
}
.seg button:hover {
  background: var(--ceiling);
  color: var(--ink);
}
@media (max-width: 900px) {
  .depth {
    display: none;
  }
}
@media (max-width: 700px) {
  .path,
  .word,
  .count {
    display: none;
  }
  .line {
    flex: 1;
  }
}
</style>
