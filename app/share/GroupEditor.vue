<script setup lang="ts">
import { settled } from '#core/access/groups'
import { readAddresses } from '#core/capture/addresses'
import { GROUP_LIMITS } from '#core/tree'
import { useDesk } from '~/desk/desk'
import type { ShownGroup } from './own-groups'

/** A group's name and who is in it: those of the tree by a press, others by their address. */
const { group, fresh, mayTree } = defineProps<{ group: ShownGroup; fresh: boolean; mayTree: boolean }>()
const emit = defineEmits<{ keep: [group: ShownGroup]; close: []; remove: [] }>()
const desk = useDesk()
const name = ref(group.name)
const who = ref<readonly string[]>(settled(group.who, desk.status.people))
const own = ref(group.own)
const text = ref('')
const wrong = ref('')
const people = computed(() => desk.status.people)
const guests = computed(() => who.value.filter(entry => !people.value.some(({ id }) => id === entry)))
function flip(entry: string): void {
  who.value = who.value.includes(entry) ? who.value.filter(one => one !== entry) : [...who.value, entry]
}
/** Takes the addresses that were written; true when all of them could be read. */
function take(): boolean {
  const { good, wrong: unread } = readAddresses(text.value)
  const all = settled([...who.value, ...good.map(({ mail }) => mail)], people.value)
  if (all.length > GROUP_LIMITS.people) {
    wrong.value = `A group has ${GROUP_LIMITS.people} people at most; with these it would have ${all.length}.`
    return false
  }
  who.value = all
  text.value = unread.join(', ')
  wrong.value = unread.length > 0 ? `${unread.map(one => `“${one}”`).join(', ')} can’t be a mail address.` : ''
  return unread.length === 0
}
function keep(): void {
  if (!take()) return
  if (name.value.trim() === '') {
    wrong.value = 'A group needs a name.'
    return
  }
  emit('keep', { ...group, name: name.value.trim().toWellFormed(), who: who.value, own: own.value })
}
const root = ref<HTMLElement>()
onMounted(() => root.value?.querySelector('input')?.focus())
</script>

<template>
  <form ref="root" class="editor" :aria-label="fresh ? 'New group' : `The group ${group.name}`" @submit.prevent="keep">
    <InputText
      v-model="name"
      size="small"
      maxlength="80"
      placeholder="Name: Board, Volunteers …"
      aria-label="Name of the group" />
    <div class="chips" role="group" aria-label="People of the tree in the group">
      <button
        v-for="person in people"
        :key="person.id"
        type="button"
        :aria-pressed="who.includes(person.id)"
        @click="flip(person.id)">
        {{ person.name }}
      </button>
      <button
        v-for="entry in guests"
        :key="entry"
        type="button"
        aria-pressed="true"
        :aria-label="`${entry.includes('@') ? entry : 'Somebody who has left'}: take out`"
        @click="flip(entry)">
        {{ entry.includes('@') ? entry : 'somebody who has left' }}
      </button>
    </div>
    <InputText
      v-model="text"
      size="small"
      placeholder="Others, by mail address: one, or a list"
      aria-label="Mail addresses of others"
      @keydown.enter.prevent="text.trim() ? take() : keep()" />
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <div class="ends">
      <label v-if="fresh && mayTree" class="own"
        ><input v-model="own" type="checkbox" /> Mine, for all my trees; nobody else sees it</label
      >
      <span class="space" />
      <Button v-if="!fresh" type="button" text size="small" class="drop" label="Remove" @click="emit('remove')" />
      <Button type="button" text size="small" label="Leave" @click="emit('close')" />
      <Button type="submit" size="small" label="Keep" />
    </div>
  </form>
</template>

<style scoped>
.editor {
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 10px 12px;
  margin: 6px 0;
  border: 1px solid var(--line);
  border-radius: 8px;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.chips button {
  min-height: 28px;
  padding: 2px 10px;
  border: 1px solid var(--line);
  border-radius: 14px;
  background: var(--surface);
  color: var(--ink);
  font: inherit;
  font-size: 13px;
  cursor: pointer;
  max-width: 100%;
  overflow-wrap: anywhere;
}
.chips button[aria-pressed='true'] {
  border-color: var(--porch);
  background: var(--hover);
  font-weight: 650;
}
.ends {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
}
.own {
  font-size: 13px;
  display: flex;
  gap: 6px;
  align-items: center;
}
/* The theme's own red is too pale for small letters. */
.drop {
  color: var(--clay);
}
.space {
  flex: 1;
}
.wrong {
  margin: 0;
  color: var(--clay);
  font-size: 13px;
}
</style>
