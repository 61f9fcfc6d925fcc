<script setup lang="ts">
import { slotInWords } from '#core/arrange/landing'
import { pathTo, placeOf, shorten, trayOf } from '#core/tree'
import { ARRANGEMENT_NAMES } from './arranging'
import { useDesk } from '~/desk/desk'
import { keyOf } from '~/keys/keys'

defineProps<{ zoom: number }>()
const emit = defineEmits<{ fit: []; zoom: [by: number | 'whole']; arrange: []; tray: [] }>()
const desk = useDesk()
const account = useAccount()
const path = computed(() => {
  void desk.lateTick.value
  return desk.focus.value && desk.tree.topics.has(desk.focus.value) ? pathTo(desk.tree, desk.focus.value) : []
})
/** While a new title is typed: where it will hang. */
const hangs = computed(() => {
  void desk.tick.value
  const typed = desk.editing.value
  const topic = typed?.fresh ? desk.tree.topics.get(typed.id) : undefined
  return topic
    ? slotInWords(desk.tree, { parent: topic.parent, index: placeOf(desk.tree, topic.id) }, new Set([topic.id]))
    : ''
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
  return state === 'opening' ? 'connecting' : `${account.ended ? 'signed out' : 'offline'}${edits}`
})
/** One rung a level, the last for all of them; a very deep tree's ladder is cut, since nobody counts to thirty. */
const MOST_RUNGS = 9
const rungs = computed(() => (desk.levels.value === 0 ? 0 : Math.max(2, Math.min(MOST_RUNGS, desk.levels.value))))
const opened = computed(() => (desk.depth.value === 0 ? rungs.value : (desk.depth.value ?? 0)))
const waitingLines = computed(() => {
  void desk.lateTick.value
  return desk.status.ready ? trayOf(desk.tree).length : 0
})
const found = computed(() => desk.finding.matches.value.length)
</script>

<template>
  <footer class="foot">
    <span v-if="hangs" class="path hangs" role="status"
      >{{ hangs }}
      <span class="quiet"
        ><kbd>{{ keyOf('title-turn') }}</kbd> turns it</span
      ></span
    >
    <nav v-else class="path" aria-label="Path to the selection">
      <template v-for="(topic, i) in path" :key="topic.id">
        <span v-if="i" aria-hidden="true"> › </span>
        <button :class="{ here: i === path.length - 1 }" @click="desk.visit(topic.id)">
          <Icon v-if="topic.annex && i" name="lucide:door-open" size="12" role="img" aria-label="annex" />
          {{ shorten(topic.title, 28) }}
        </button>
      </template>
    </nav>
    <span class="line" :class="desk.status.state" role="status"><i aria-hidden="true" />{{ line }}</span>
    <span v-if="rungs > 1" class="ladder" role="group" aria-label="How deep the tree is open">
      <button
        v-for="n in rungs - 1"
        :key="n"
        :class="{ climbed: n <= opened }"
        :aria-label="`Open to depth ${n}`"
        :data-tip="`Open to depth ${n}`"
        :aria-pressed="desk.depth.value === n"
        @click="desk.openTo(n)" />
      <button
        :class="{ climbed: opened >= rungs }"
        aria-label="Open all levels"
        data-tip="Open all levels"
        :aria-pressed="desk.depth.value === 0"
        @click="desk.openTo(null)" />
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
.hangs {
  color: var(--ink);
  font-weight: 600;
}
.hangs .quiet {
  font-weight: 400;
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
/* A ladder lying on its side: two rails, a rung for each level, painted as far as the tree is open. */
.ladder {
  display: flex;
  height: 24px;
  background:
    linear-gradient(var(--quiet), var(--quiet)) 0 6px / 100% 1.5px no-repeat,
    linear-gradient(var(--quiet), var(--quiet)) 0 17px / 100% 1.5px no-repeat;
}
.ladder button {
  position: relative;
  width: 24px;
  height: 24px;
  border: 0;
  padding: 0;
  background: none;
  cursor: pointer;
}
.ladder button::before {
  content: '';
  position: absolute;
  left: 11px;
  top: 6px;
  width: 2px;
  height: 12px;
  background: var(--quiet);
}
.ladder .climbed::before {
  left: 9px;
  width: 6px;
  top: 3px;
  height: 18px;
  background: var(--porch);
}
.ladder button:hover::before {
  left: 9px;
  width: 6px;
}
@media (max-width: 900px) {
  .ladder {
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
