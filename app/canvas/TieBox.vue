<script setup lang="ts">
import { shorten, type Tie, TIE_ENDS, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** One cross-link: its label, its arrow ends, its colour; and a way to untie it. Esc leaves it. */
const desk = useDesk()
const at = computed(() => {
  void desk.tick.value
  const chosen = desk.tie.value
  const tie = chosen && desk.tree.topics.get(chosen.topic)?.ties.find(one => one.id === chosen.id)
  return tie ? { from: chosen.topic, tie } : null
})
const label = ref(at.value?.tie.label ?? '')
watch(
  () => at.value?.tie.label,
  now => {
    label.value = now ?? ''
  },
)
watch(at, now => {
  if (!now && desk.tie.value) close()
})
const may = computed(() => desk.session.canEdit)
const END_NAMES: Record<Tie['ends'], string> = { none: 'plain', to: 'there', from: 'back', both: 'both' }

function put(part: Partial<Tie>): void {
  if (at.value)
    desk.put(at.value.from, { op: 'put', topic: at.value.from, set: 'ties', member: { ...at.value.tie, ...part } })
}
function keepLabel(): void {
  if (at.value && label.value.trim() !== at.value.tie.label)
    put({ label: label.value.trim().toWellFormed().slice(0, 200) })
}
function untie(): void {
  if (at.value) desk.put(at.value.from, { op: 'take', topic: at.value.from, set: 'ties', member: at.value.tie.id })
  close()
}
function close(): void {
  keepLabel()
  desk.tie.value = null
}
</script>

<template>
  <div v-if="at" v-opened="{ manner: 'layer', close }" class="tie" role="dialog" aria-label="Cross-link">
    <div class="head">
      <span
        ><b>{{ shorten(topicOf(desk.tree, at.from).title, 26) }}</b> <span class="quiet">to</span>
        <b>{{ shorten(topicOf(desk.tree, at.tie.to).title, 26) }}</b></span
      ><button class="icon-button" aria-label="Close" data-close @click="close">
        <Icon name="lucide:x" size="15" />
      </button>
    </div>
    <div>
      <InputText
        v-model="label"
        size="small"
        fluid
        :disabled="!may"
        placeholder="What ties them"
        aria-label="Label of the cross-link"
        @keydown.enter="close"
        @change="keepLabel" />
    </div>
    <span class="segments" role="group" aria-label="Arrow ends"
      ><button
        v-for="ends in TIE_ENDS"
        :key="ends"
        :disabled="!may"
        :aria-pressed="at.tie.ends === ends"
        @click="put({ ends })">
        {{ END_NAMES[ends] }}
      </button></span
    >
    <div class="row">
      <span class="hues" role="group" aria-label="Colour of the cross-link">
        <button
          :aria-pressed="at.tie.hue === null"
          :disabled="!may"
          aria-label="The branch’s colour"
          @click="put({ hue: null })">
          <i class="own" />
        </button>
        <button
          v-for="(hue, i) in desk.dressing.wear.hues"
          :key="i"
          :disabled="!may"
          :aria-pressed="at.tie.hue === String(i)"
          :aria-label="`Colour ${i + 1}`"
          @click="put({ hue: String(i) })">
          <i :style="{ background: hue }" />
        </button>
      </span>
      <button v-if="at.tie.bend" class="plain" :disabled="!may" @click="put({ bend: null })">
        Let it find its way
      </button>
      <button class="plain away" :disabled="!may" @click="untie">Untie</button>
    </div>
  </div>
</template>

<style scoped>
.tie {
  position: absolute;
  right: 14px;
  top: 14px;
  z-index: 7;
  width: min(340px, calc(100% - 28px));
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 9px;
  box-shadow: var(--shadow);
  padding: 8px 12px 10px;
  display: flex;
  flex-direction: column;
  gap: 8px;
  font-size: 13px;
}
.head {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  align-items: center;
}
.row {
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
.hues {
  display: flex;
  gap: 1px;
  flex-wrap: wrap;
}
.hues button {
  width: 24px;
  height: 24px;
  padding: 4px;
  border: 2px solid transparent;
  border-radius: 6px;
  background: none;
  cursor: pointer;
}
.hues [aria-pressed='true'] {
  border-color: var(--porch);
}
.hues i {
  display: block;
  width: 100%;
  height: 100%;
  border-radius: 3px;
}
.own {
  background: linear-gradient(135deg, var(--porch) 50%, var(--sun) 50%);
}
.plain {
  padding: 3px 0;
  min-height: 24px;
}
.away {
  color: var(--clay);
}
</style>
