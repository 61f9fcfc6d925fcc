<script setup lang="ts">
import type { Block } from '#core/formats/contents'
import BlockRuns from './BlockRuns.vue'

/** A document's words, one block below the other. */
const { blocks } = defineProps<{ blocks: readonly Block[] }>()
/** Headings of a document stand below the name of its file, which is the page's. */
const tagOf = (level: number): string => `h${Math.min(6, level + 1)}`
</script>

<template>
  <article>
    <template v-for="(block, i) in blocks" :key="i">
      <component :is="tagOf(block.level)" v-if="block.kind === 'heading'"><BlockRuns :runs="block.runs" /></component>
      <p v-else-if="block.kind === 'paragraph'"><BlockRuns :runs="block.runs" /></p>
      <p v-else-if="block.kind === 'item'" class="item" :style="{ '--level': block.level }">
        <span class="mark">{{ block.mark }}</span>
        <span><BlockRuns :runs="block.runs" /></span>
      </p>
      <div v-else-if="block.kind === 'table'" class="wide">
        <table>
          <tbody>
            <tr v-for="(row, r) in block.rows" :key="r">
              <td v-for="(cell, c) in row" :key="c">{{ cell }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <img v-else :src="block.src" :alt="block.words" />
    </template>
  </article>
</template>

<style scoped>
article {
  box-sizing: border-box;
  width: min(820px, 100%);
  flex: none;
  background: var(--surface);
  border: 1px solid var(--line);
  padding: 30px clamp(16px, 6vw, 56px) 40px;
  line-height: 1.6;
  overflow-wrap: anywhere;
}
p {
  margin: 0 0 0.8em;
  white-space: pre-line;
}
h2,
h3,
h4,
h5,
h6 {
  margin: 1.3em 0 0.45em;
  line-height: 1.25;
}
article > :first-child {
  margin-top: 0;
}
.item {
  display: flex;
  gap: 8px;
  margin-bottom: 0.3em;
  padding-left: calc((var(--level) - 1) * 22px);
}
.mark {
  flex: none;
  min-width: 18px;
  color: var(--quiet);
}
.wide {
  overflow-x: auto;
  margin: 0 0 1em;
}
table {
  border-collapse: collapse;
}
td {
  border: 1px solid var(--line);
  padding: 5px 9px;
  vertical-align: top;
  white-space: pre-line;
}
img {
  display: block;
  max-width: 100%;
  margin: 0 0 1em;
}
</style>
