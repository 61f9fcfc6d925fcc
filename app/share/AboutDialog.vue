<script setup lang="ts">
import { useDesk } from '~/desk/desk'
import LinkedPagesPart from './LinkedPagesPart.vue'

/** What the tree is for, and words to find it by. */
const visible = defineModel<boolean>('visible', { required: true })
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const description = ref('')
const tags = ref<readonly string[]>([])
const draft = ref('')
/** As it was when it came in: what somebody else has changed since isn't written over by what only stood here. */
const opened = { description: '', patterns: '' }
const inLines = (all: readonly (readonly string[])[]): string => all.map(parts => parts.join(', ')).join('\n')
const musts = ref(0)
const patterns = ref('')
watch(
  visible,
  now => {
    if (!now) return
    description.value = opened.description = desk.tree.fields.description
    tags.value = desk.tree.fields.tags
    musts.value = desk.tree.fields.mostMusts
    patterns.value = opened.patterns = inLines(desk.tree.fields.patterns)
  },
  { immediate: true },
)

// — How its meetings are prepared
function keepMusts(event: Event): void {
  const said = Math.round(Number((event.target as HTMLInputElement).value))
  if (said >= 1 && said <= 20 && said !== desk.tree.fields.mostMusts && desk.guard())
    desk.run({ changes: [{ op: 'tree', field: 'mostMusts', value: said }] })
  musts.value = desk.tree.fields.mostMusts
}
function keepPatterns(): void {
  const said = patterns.value
    .split('\n')
    .map(line =>
      line
        .split(',')
        .map(part => part.trim().slice(0, 200).toWellFormed())
        .filter(Boolean)
        .slice(0, 12),
    )
    .filter(parts => parts.length > 0)
    .slice(0, 12)
  if (patterns.value !== opened.patterns && desk.guard())
    desk.run({ changes: [{ op: 'tree', field: 'patterns', value: said }] })
  patterns.value = opened.patterns = inLines(desk.tree.fields.patterns)
}

function keepDescription(): void {
  const said = description.value.trimEnd().toWellFormed()
  if (said !== opened.description && said !== desk.tree.fields.description && desk.guard())
    desk.run({ changes: [{ op: 'tree', field: 'description', value: said }] })
  opened.description = said
}
function setTags(now: readonly string[]): void {
  if (!desk.guard()) return
  tags.value = now
  desk.run({ changes: [{ op: 'tree', field: 'tags', value: [...now] }] })
}
function addTag(): void {
  const said = draft.value.trim().replace(/^#/, '').slice(0, 60).toWellFormed()
  draft.value = ''
  if (said && !tags.value.includes(said) && tags.value.length < 30) setTags([...tags.value, said])
}
</script>

<template>
  <PorchDialog
    v-model:visible="visible"
    dismissable-mask
    header="About this tree"
    :style="{ width: 'min(520px, 94vw)' }"
    @closed="keepDescription">
    <div class="form">
      <Textarea
        v-model="description"
        rows="4"
        auto-resize
        :readonly="!may"
        maxlength="20000"
        placeholder="What is this tree for?"
        aria-label="Description"
        @blur="keepDescription" />
      <div class="tags" role="group" aria-label="Tags">
        <span v-for="tag in tags" :key="tag" class="tag"
          >{{ tag
          }}<button
            v-if="may"
            :aria-label="`Take the tag ${tag} off`"
            @click="setTags(tags.filter(one => one !== tag))">
            <Icon name="lucide:x" size="12" /></button
        ></span>
        <input
          v-if="may"
          v-model="draft"
          placeholder="Add a tag, Enter"
          aria-label="Add a tag"
          @keydown.enter.prevent="addTag"
          @blur="addTag" />
      </div>
      <h3>Its meetings</h3>
      <label class="musts"
        >Things one must settle at most
        <input type="number" min="1" max="20" :value="musts" :disabled="!may" @change="keepMusts" />
      </label>
      <label
        >Inner patterns: one a line, its parts parted by commas
        <Textarea v-model="patterns" rows="4" auto-resize fluid :readonly="!may" @blur="keepPatterns" />
      </label>
      <LinkedPagesPart v-if="visible" @went="visible = false" />
    </div>
  </PorchDialog>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.tags {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.tag {
  background: var(--ceiling);
  border-radius: 6px;
  padding: 3px 4px 3px 9px;
  display: inline-flex;
  align-items: center;
  gap: 3px;
  font-size: 13px;
}
.tag button {
  border: 0;
  background: none;
  cursor: pointer;
  min-width: 22px;
  min-height: 22px;
  display: grid;
  place-items: center;
  padding: 0;
}
input {
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: inherit;
  font: inherit;
  padding: 5px 8px;
}
h3 {
  margin: 8px 0 0;
}
label {
  font-size: 13.5px;
}
.musts {
  display: flex;
  gap: 10px;
  align-items: center;
}
.musts input {
  width: 64px;
}
</style>
