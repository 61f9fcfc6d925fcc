<script setup lang="ts">
import { allTopics, branch, type NumberScheme, NUMBER_SCHEMES, shorten, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { sampleOf } from '#core/derive/guises'

/** What orders a large tree: annexes, numbers, and the cross-links between branches. */
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const annexes = computed(() => {
  void desk.lateTick.value
  return [...allTopics(desk.tree)]
    .filter(topic => topic.annex)
    .map(topic => ({
      id: topic.id,
      title: shorten(topic.title || 'untitled', 50),
      count: [...branch(desk.tree, topic.id)].length - 1,
      here: desk.only.value === topic.id,
    }))
})
const ties = computed(() => {
  void desk.lateTick.value
  return desk.crossLinks.all()
})
const at = computed(() => desk.focus.value)
const hasAnnex = computed(() => {
  void desk.lateTick.value
  return desk.tree.topics.get(at.value)?.annex ?? false
})
const titleOf = (id: TopicId): string => shorten(topicOf(desk.tree, id).title || 'untitled', 40)

const whose = ref<'tree' | 'branch'>('tree')
const target = computed(() => (whose.value === 'tree' ? desk.tree.centre : at.value))
const numbering = computed(() => {
  void desk.lateTick.value
  return desk.tree.topics.get(target.value)?.numbering ?? null
})
const NAMES: Record<NumberScheme, string> = { figures: 'Figures', letters: 'Letters', roman: 'Roman' }
function number(scheme: NumberScheme | null, levels = numbering.value?.levels ?? 3): void {
  desk.set('numbering', scheme && { scheme, levels }, [target.value])
}
</script>

<template>
  <div class="annexes" data-named-panel>
    <NameField placeholder="Annex or number: a few letters, Enter" />
    <h3>Annexes</h3>
    <button class="line" :aria-current="desk.only.value === null || undefined" @click="desk.showOnly(null)">
      <Icon name="lucide:network" size="15" /> The whole tree
    </button>
    <button
      v-for="annex in annexes"
      :key="annex.id"
      class="line"
      :aria-current="annex.here || undefined"
      @click="desk.showOnly(annex.id)">
      <Icon name="lucide:door-open" size="15" /> {{ annex.title }} <span class="quiet">{{ annex.count }}</span>
    </button>
    <p v-if="!annexes.length" class="quiet">
      A branch that has grown too large for one sheet can have an annex: room of its own, with a doorway both ways.
    </p>
    <button v-if="may && at !== desk.tree.centre" class="plain" @click="desk.set('annex', !hasAnnex, [at])">
      {{ hasAnnex ? `Put “${titleOf(at)}” back in the tree` : `Give “${titleOf(at)}” an annex` }}
    </button>

    <h3>Numbers</h3>
    <span class="segments" role="group" aria-label="What is numbered"
      ><button :aria-pressed="whose === 'tree'" @click="whose = 'tree'">Whole tree</button
      ><button :aria-pressed="whose === 'branch'" @click="whose = 'branch'">This branch</button></span
    >
    <span class="segments" role="group" aria-label="Kind of numbers">
      <button :disabled="!may" :aria-pressed="numbering === null" @click="number(null)">None</button>
      <button
        v-for="scheme in NUMBER_SCHEMES"
        :key="scheme"
        :disabled="!may"
        :aria-pressed="numbering?.scheme === scheme"
        :aria-label="`${NAMES[scheme]}, as in ${sampleOf(scheme)}`"
        @click="number(scheme)">
        {{ sampleOf(scheme) }}
      </button>
    </span>
    <label v-if="numbering" class="levels"
      >To level
      <NumberField
        :model-value="numbering.levels"
        :min="1"
        :max="9"
        :disabled="!may"
        aria-label="Levels that are numbered"
        @update:model-value="number(numbering.scheme, $event)"
    /></label>

    <h3>
      Cross-links <span class="quiet">{{ ties.length || '' }}</span>
    </h3>
    <div v-for="{ from, tie } in ties.slice(0, 200)" :key="tie.id" class="tied">
      <button
        class="line"
        @click="
          () => {
            desk.tie.value = { topic: from, id: tie.id }
            desk.journey.to(from)
          }
        ">
        <span
          >{{ titleOf(from) }}
          <span class="quiet">{{
            tie.ends === 'both' ? '↔' : tie.ends === 'from' ? '←' : tie.ends === 'to' ? '→' : '—'
          }}</span>
          {{ titleOf(tie.to) }}<span v-if="tie.label" class="quiet"> · {{ tie.label }}</span></span
        >
      </button>
      <button
        v-if="may"
        class="icon-button"
        :aria-label="`Untie ${titleOf(from)} from ${titleOf(tie.to)}`"
        @click="desk.put(from, { op: 'take', topic: from, set: 'ties', member: tie.id })">
        <Icon name="lucide:x" size="14" />
      </button>
    </div>
    <p v-if="!ties.length" class="quiet">None yet. <kbd>X</kbd> ties the selection to another topic.</p>
  </div>
</template>

<style scoped>
.annexes {
  display: flex;
  flex-direction: column;
  gap: 3px;
  font-size: 13px;
}
h3 {
  font: 600 12px var(--text);
  color: var(--quiet);
  margin: 12px 4px 3px;
}
h3:first-child {
  margin-top: 2px;
}
.line {
  flex: 1;
  min-width: 0;
  display: flex;
  gap: 7px;
  align-items: center;
  text-align: left;
  border: 1px solid transparent;
  background: none;
  border-radius: 6px;
  padding: 4px 6px;
  cursor: pointer;
  min-height: 28px;
}
.line:hover {
  background: var(--hover);
}
.line[aria-current] {
  border-color: var(--porch);
  background: color-mix(in srgb, var(--porch) 10%, transparent);
}
.tied {
  display: flex;
  align-items: center;
}
.icon-button {
  min-width: 26px;
  height: 26px;
}
.plain {
  padding: 4px;
  min-height: 24px;
}
p {
  margin: 2px 6px;
}
.segments {
  margin-bottom: 4px;
}
.levels {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 2px 4px;
}
.levels input {
  width: 58px;
  font: inherit;
  color: inherit;
  background: var(--page);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 4px 8px;
}
</style>
