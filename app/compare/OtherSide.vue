<script setup lang="ts">
import type { Kin } from '#core/contract'
import type { OtherSide } from '#core/contract/operations/trees'
import { keptInWords, type KeptMoment } from '#core/history/kept'
import { shorten } from '#core/tree'

/** What the tree is laid side by side with: a kept moment, a tree from one copy, or a file of ours. */
const { treeId } = defineProps<{ treeId: string }>()
const emit = defineEmits<{ choose: [other: OtherSide, called: string] }>()
const moments = ref<readonly KeptMoment[] | null>(null)
const kin = ref<readonly Kin[] | null>(null)
const wrong = ref('')
const file = ref<HTMLInputElement>()
const MOST = 16 * 1024 * 1024

async function read(): Promise<void> {
  wrong.value = ''
  try {
    const [kept, trees] = await Promise.all([
      callApi<KeptMoment[]>(`/api/trees/${treeId}/moments`),
      callApi<{ trees: Kin[] }>(`/api/trees/${treeId}/kin`),
    ])
    moments.value = [...kept].reverse()
    kin.value = trees.trees
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
onMounted(read)
const day = (iso: string): string => dayInWords(isoDay(new Date(iso)))
async function take(): Promise<void> {
  const chosen = file.value?.files?.[0]
  if (!chosen) return
  wrong.value = ''
  if (chosen.size > MOST) wrong.value = 'This file is larger than 16 MB. Nothing was changed.'
  else emit('choose', { kind: 'file', text: await chosen.text() }, chosen.name)
  // The same file may be chosen again once it's mended.
  if (file.value) file.value.value = ''
}
</script>

<template>
  <div class="other">
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }} <button class="plain" @click="read">Try again</button></p>
    <section>
      <h2>An earlier moment</h2>
      <p class="quiet">
        Any moment can be laid beside the tree from its
        <NuxtLink :to="`/trees/${treeId}/history`">history</NuxtLink>; these are kept.
      </p>
      <p v-if="!moments && !wrong" class="quiet" role="status">Reading …</p>
      <button
        v-for="one in moments ?? []"
        :key="`${one.number} ${one.why}`"
        class="one"
        @click="emit('choose', { kind: 'moment', number: one.number }, keptInWords(one))">
        <span dir="auto">{{ keptInWords(one) }}</span><small>{{ day(one.at) }}</small>
      </button>
      <button class="one" @click="emit('choose', { kind: 'moment', number: 0 }, 'as it was made')">
        <span>as it was made</span>
      </button>
    </section>
    <section>
      <h2>Another tree from one copy</h2>
      <p v-if="kin && kin.length === 0" class="quiet">
        There is none you may see. A copy of this tree, made on the page of trees, can be merged back later.
      </p>
      <div v-for="one in kin ?? []" :key="one.id" class="kin">
        <button class="one" @click="emit('choose', { kind: 'tree', tree: one.id }, one.title)">
          <span dir="auto">{{ shorten(one.title || 'untitled', 80) }}</span><small
            >{{ one.starter ? 'starter · ' : '' }}changed {{ day(one.changedAt) }}</small
          >
        </button>
        <NuxtLink
          v-if="one.role === 'owner' || one.role === 'editor'"
          :to="`/trees/${one.id}/compare?with=${treeId}`"
          :aria-label="`Give what was learned here back to ${one.title || 'untitled'}`"
          >Give back to it</NuxtLink
        >
      </div>
    </section>
    <section>
      <h2>A file</h2>
      <p class="quiet">A Sun Porch JSON file of this tree that went elsewhere and came back changed.</p>
      <Button size="small" outlined label="Choose a file …" @click="file?.click()" />
      <input
        ref="file"
        hidden
        type="file"
        accept=".json,application/json"
        aria-label="A Sun Porch JSON file"
        @change="take" />
    </section>
  </div>
</template>

<style scoped>
.other {
  max-width: 680px;
  margin: 0 auto;
  padding: 28px 20px;
  overflow: auto;
}
h2 {
  margin: 22px 0 4px;
  font: 600 17px var(--display);
}
p {
  margin: 4px 0 8px;
}
.one {
  display: flex;
  justify-content: space-between;
  gap: 14px;
  width: 100%;
  min-height: 38px;
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-bottom-width: 0;
  background: var(--surface);
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.kin {
  display: flex;
  align-items: stretch;
}
.kin .one {
  border-bottom-width: 1px;
  margin-bottom: -1px;
}
.kin a {
  display: flex;
  align-items: center;
  flex: none;
  min-height: 38px;
  padding: 0 12px;
  border: 1px solid var(--line);
  border-left-width: 0;
  margin-bottom: -1px;
  background: var(--surface);
  font-size: 13.5px;
}
.kin a:hover {
  background: var(--hover);
}
.one:last-of-type {
  border-bottom-width: 1px;
}
.one:hover {
  background: var(--hover);
}
small {
  color: var(--quiet);
  flex: none;
}
.wrong {
  color: var(--clay);
}
</style>
