<script setup lang="ts">
import { KINDS } from '#core/handing/choice'
import type { useMade } from './useMade'

/** What was made of the tree within a day: fetched again, or taken away. */
const props = defineProps<{ of: ReturnType<typeof useMade> }>()
const { made, wrong } = props.of
const size = (bytes: number): string =>
  bytes < 1_000_000 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`
</script>

<template>
  <ul v-if="made.length" class="earlier" aria-label="Made within a day">
    <li v-for="one in made" :key="one.id" :class="one.state">
      <template v-if="one.state === 'made'">
        <button class="plain" @click="of.fetch(one.id)"><Icon name="lucide:download" size="13" />{{ one.name }}</button>
        <span class="quiet">{{ size(one.size) }}, {{ agoInWords(one.at) }}</span>
      </template>
      <template v-else-if="one.state === 'making'">
        <span role="status">{{ KINDS[one.kind].name }} is being made …</span>
        <template v-if="one.part !== null">
          <progress max="1" :value="one.part" :aria-label="`How far ${KINDS[one.kind].name} is`" />
          <span class="far">{{ Math.round(one.part * 100) }} %</span>
        </template>
        <span class="quiet">since {{ agoInWords(one.at) }}; go on, you’ll have a letter</span>
      </template>
      <template v-else>
        <span>{{ KINDS[one.kind].name }}: {{ one.said }}</span>
        <span class="quiet">{{ agoInWords(one.at) }}</span>
      </template>
      <button
        class="icon-button"
        :aria-label="
          one.state === 'making'
            ? `Stop making ${KINDS[one.kind].name}`
            : `Take away ${one.name || KINDS[one.kind].name}`
        "
        @click="of.drop(one.id)">
        <Icon name="lucide:x" size="13" />
      </button>
    </li>
  </ul>
  <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
</template>

<style scoped>
.earlier {
  list-style: none;
  margin: 0 0 10px;
  padding: 0;
  font-size: 13px;
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 1px 0 1px 9px;
  border-left: 3px solid var(--porch);
  margin-bottom: 3px;
}
li.making {
  border-left-color: var(--sun);
}
li.failed {
  border-left-color: var(--clay);
}
progress {
  width: 70px;
  accent-color: var(--porch);
}
.far {
  font-variant-numeric: tabular-nums;
}
li > :last-child {
  margin-left: auto;
}
.plain {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  overflow-wrap: anywhere;
}
</style>
