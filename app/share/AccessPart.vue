<script setup lang="ts">
/** For owners: who was let in or out and what left the tree, and taking a text out of it for good. */
const { base } = defineProps<{ base: string }>()
interface Told {
  readonly at: string
  readonly by: string
  readonly what: string
  readonly about: string
}
const told = ref<readonly Told[] | null>(null)
const text = ref('')
const sure = ref(false)
const busy = ref(false)
const said = ref('')
const wrong = ref('')
const WORDS: Record<string, (about: string) => string> = {
  invited: about => `asked ${about.replace(': ', ' in, as ')}`,
  'invitation-withdrawn': about => `withdrew the invitation to ${about}`,
  joined: about => `came in, as ${about}`,
  role: about => `made ${about.replace(': ', ' ')}`,
  removed: about => `took ${about} out`,
  left: () => 'left',
  'handed-over': about => `handed the tree over to ${about}`,
  trashed: () => 'put the tree into the trash',
  'brought-back': () => 'brought the tree back from the trash',
  exported: about => `took the tree along, as ${about}`,
  'guest-asked': about => `gave ${about} a link to answer a meeting`,
  'link-made': about => `made the link ${about}`,
  'link-changed': about => `changed the link ${about}`,
  'link-withdrawn': about => `withdrew the link ${about}`,
  purged: about => `took a text out for good (${about})`,
}
async function look(event: Event): Promise<void> {
  if (!(event.target as HTMLDetailsElement).open) return
  try {
    told.value = await callApi<Told[]>(`${base}/access`)
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
async function purge(): Promise<void> {
  said.value = wrong.value = ''
  if (!sure.value) {
    sure.value = true
    return
  }
  busy.value = true
  try {
    const { places } = await callApi<{ places: number }>(`${base}/purge`, {
      method: 'POST',
      body: { text: text.value },
    })
    said.value = places === 1 ? 'Taken out of one place, for good.' : `Taken out of ${places} places, for good.`
    text.value = ''
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = sure.value = false
  }
}
</script>

<template>
  <details class="access" @toggle="look">
    <summary>Who was let in and out</summary>
    <ul aria-label="Access log">
      <li v-for="(one, i) in told ?? []" :key="i">
        <span>{{ one.by }} {{ WORDS[one.what]?.(one.about) ?? one.what }}</span
        ><small class="quiet">{{ agoInWords(one.at) }}</small>
      </li>
      <li v-if="told?.length === 0" class="quiet">Nobody yet.</li>
    </ul>
  </details>
  <details class="access">
    <summary>Take a text out for good</summary>
    <p class="quiet">
      For a password that was pasted by mistake. It goes from titles, notes and the whole history, without a way back;
      notes that ever held it forget how they came to be.
    </p>
    <form @submit.prevent="purge">
      <InputText
        v-model="text"
        aria-label="The text, letter by letter"
        placeholder="The text, letter by letter"
        minlength="4"
        maxlength="1000"
        required
        autocomplete="off"
        @input="sure = false" />
      <Button
        type="submit"
        :class="{ grave: sure }"
        :label="sure ? 'Yes, for good' : 'Take it out …'"
        :loading="busy" />
    </form>
    <p v-if="said" role="status" class="quiet">{{ said }}</p>
    <p v-if="wrong" role="alert" class="wrong">{{ wrong }}</p>
  </details>
</template>

<style scoped>
.access {
  margin: 10px 0 0;
}
summary {
  font: 600 13px var(--text);
  color: var(--quiet);
  cursor: pointer;
  min-height: 28px;
  display: list-item;
  line-height: 28px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 190px;
  overflow: auto;
}
li {
  display: flex;
  gap: 12px;
  justify-content: space-between;
  padding: 3px 0;
  font-size: 13.5px;
}
li span {
  min-width: 0;
  overflow-wrap: anywhere;
}
small {
  flex: none;
}
form {
  display: flex;
  gap: 8px;
}
form > :first-child {
  flex: 1;
  min-width: 0;
}
p {
  margin: 0 0 8px;
}
.wrong {
  color: var(--clay);
}
</style>
