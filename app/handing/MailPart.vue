<script setup lang="ts">
import { readAddresses } from '#core/capture/addresses'
import type { Choice } from '#core/handing/choice'
import { shorten, topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import type { MadeFile } from './making'

/** A file by letter: to people of the tree and to any address, seen as it will be before it goes. */
const props = defineProps<{
  /** The choice as it stands; null, and said why, where it can't be made. */
  wanted: () => Choice | null
  make: (wanted: Choice) => Promise<MadeFile | null>
  busy: boolean
}>()
const emit = defineEmits<{ said: [words: string]; failed: [words: string] }>()
const desk = useDesk()
const MOST = 30
const to = ref('')
const subject = ref(shorten(topicOf(desk.tree, desk.tree.centre).title || 'A tree', 150))
const words = ref('')
const read = computed(() => readAddresses(to.value))
const others = computed(() => {
  const named = new Set(read.value.good.map(({ mail }) => mail))
  return desk.status.people.filter(({ id, email }) => id !== desk.userId && email && !named.has(email.toLowerCase()))
})
function add(email: string): void {
  to.value = [to.value.trim().replace(/[,;]+$/, ''), email].filter(Boolean).join(', ')
}

/** The letter as it will go, with what was chosen for it. */
const letter = shallowRef<{ choice: Choice; file: MadeFile; address: string } | null>(null)
function drop(): void {
  if (letter.value) URL.revokeObjectURL(letter.value.address)
  letter.value = null
}
watch([to, subject, words], drop)
onBeforeUnmount(drop)
const trouble = computed(() => {
  const { good, wrong } = read.value
  if (wrong.length > 0) return `“${wrong[0]!.slice(0, 60)}” can’t be a mail address.`
  if (good.length > MOST) return `${MOST} addresses at once, please.`
  return ''
})
async function look(): Promise<void> {
  drop()
  const choice = props.wanted()
  if (!choice) return
  const file = await props.make(choice)
  if (file) letter.value = { choice, file, address: URL.createObjectURL(file.blob) }
}
const sending = ref(false)
async function send(): Promise<void> {
  if (!letter.value || sending.value) return
  sending.value = true
  try {
    const { letters } = await callApi<{ letters: number }>(`/api/trees/${desk.session.treeId}/hand-out/letters`, {
      method: 'POST',
      body: {
        ...letter.value.choice,
        today: today(),
        zone: ownZone(),
        to: read.value.good.map(({ mail }) => mail),
        subject: subject.value.trim() || 'A tree',
        words: words.value,
      },
    })
    emit('said', letters === 1 ? 'The letter is out.' : `${letters} letters are out.`)
    to.value = ''
    drop()
  } catch (error) {
    emit('failed', (error as Error).message)
  } finally {
    sending.value = false
  }
}
const size = (bytes: number): string =>
  bytes < 100_000 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`
</script>

<template>
  <section class="mail" aria-label="By mail">
    <label
      >To
      <textarea v-model="to" rows="2" placeholder="rana@porch.example, Tove Lind <tove@oak.example>" />
    </label>
    <p v-if="others.length" class="people" role="group" aria-label="People of this tree">
      <button v-for="person in others.slice(0, 12)" :key="person.id" @click="add(person.email!)">
        <Icon name="lucide:plus" size="12" />{{ person.name }}
      </button>
    </p>
    <label>Subject <input v-model="subject" maxlength="200" /></label>
    <label
      >Words <textarea v-model="words" rows="3" maxlength="5000" placeholder="What it is, and what you ask for" />
    </label>
    <p v-if="trouble" class="quiet" role="status">{{ trouble }}</p>
    <article v-if="letter" aria-label="The letter as it will go">
      <p>
        <b>{{ subject || 'A tree' }}</b> to {{ read.good.map(({ name, mail }) => name || mail).join(', ') }}
      </p>
      <p v-if="words.trim()" class="words">{{ words }}</p>
      <a :href="letter.address" :download="letter.file.name"
        ><Icon name="lucide:paperclip" size="14" /> {{ letter.file.name }}, {{ size(letter.file.blob.size) }}</a
      >
    </article>
    <Button
      v-if="letter"
      :label="read.good.length === 1 ? 'Send the letter' : `Send ${read.good.length} letters`"
      :loading="sending"
      @click="send" />
    <Button
      v-else
      outlined
      :label="busy ? 'Making it …' : 'See the letter'"
      :disabled="busy || read.good.length === 0 || trouble !== ''"
      @click="look" />
  </section>
</template>

<style scoped>
.mail {
  display: flex;
  flex-direction: column;
  gap: 8px;
  align-items: flex-start;
  border-top: 1px solid var(--line);
  margin-top: 12px;
  padding-top: 10px;
}
label {
  width: 100%;
  font-size: 13px;
  color: var(--quiet);
}
textarea,
input {
  display: block;
  width: 100%;
  box-sizing: border-box;
  font: 400 15px var(--text);
  color: var(--ink);
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 5px;
  padding: 6px 9px;
}
.people {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 0;
}
.people button {
  display: inline-flex;
  gap: 4px;
  align-items: center;
  font: inherit;
  color: inherit;
  background: none;
  border: 1px solid var(--line);
  border-radius: 5px;
  min-height: 32px;
  padding: 2px 9px 2px 7px;
  cursor: pointer;
}
p {
  margin: 0;
}
article {
  width: 100%;
  box-sizing: border-box;
  border-left: 3px solid var(--sun);
  background: var(--page);
  padding: 8px 12px;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.words {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
article a {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  color: var(--porch);
  min-height: 28px;
}
@media (pointer: coarse) {
  .people button,
  article a {
    min-height: 44px;
  }
}
</style>
