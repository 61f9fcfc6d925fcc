<script setup lang="ts">
import { fold } from '#core/find/text'
import { lineOf } from './command-lines'
import { HELP } from './help-pages'
import { COMMANDS, commandOf } from './commands'
import { chordInWords, keyOf, keys } from './keys'
import { ACTION_NAMES } from './keymap'

/** The help: short pages and every command, with one search over both. */
const visible = defineModel<boolean>('visible', { required: true })
const query = ref('')
const page = ref(HELP[0]!.id)
const words = computed(() => fold(query.value.trim()).split(/\s+/).filter(Boolean))
const has = (text: string): boolean => words.value.every(word => fold(text).includes(word))
const pages = computed(() => HELP.filter(one => has(`${one.title} ${one.body.join(' ')}`)))
const commands = computed(() =>
  words.value.length > 0 ? COMMANDS.filter(command => has(`${command.name} ${lineOf(command.id)}`)).slice(0, 12) : [],
)
const shown = computed(() => pages.value.find(one => one.id === page.value) ?? pages.value[0])
const chord = (id: string): string => chordInWords(keys.value[id]?.[0] ?? '')

/** A paragraph in pieces: plain text, and the keys of commands. */
function pieces(text: string): { text: string; key: boolean }[] {
  return text
    .split(/(\{[a-z0-9-]+\})/)
    .filter(Boolean)
    .map(part => {
      const id = /^\{(.+)\}$/.exec(part)?.[1]
      if (!id) return { text: part, key: false }
      // A command without a key is named.
      return keyOf(id)
        ? { text: keyOf(id), key: true }
        : { text: `“${commandOf(id)?.name ?? ACTION_NAMES[id] ?? id}”`, key: false }
    })
    .filter(part => part.text !== '')
}
</script>

<template>
  <PorchDialog v-model:visible="visible" dismissable-mask header="Help" :style="{ width: 'min(760px, 95vw)' }">
    <InputText v-model="query" fluid placeholder="Search the help" aria-label="Search the help" />
    <div class="help">
      <nav aria-label="Help pages">
        <button
          v-for="one in pages"
          :key="one.id"
          :aria-current="shown?.id === one.id ? 'page' : undefined"
          @click="page = one.id">
          {{ one.title }}
        </button>
      </nav>
      <article v-if="shown">
        <h2>{{ shown.title }}</h2>
        <p v-for="(text, i) in shown.body" :key="i">
          <template v-for="(part, n) in pieces(text)" :key="n"
            ><kbd v-if="part.key">{{ part.text }}</kbd
            ><template v-else>{{ part.text }}</template></template
          >
        </p>
        <template v-if="commands.length">
          <h3>Commands</h3>
          <dl>
            <template v-for="command in commands" :key="command.id"
              ><dt>
                {{ command.name }} <kbd v-if="chord(command.id)">{{ chord(command.id) }}</kbd>
              </dt>
              <dd>{{ lineOf(command.id) }}</dd></template
            >
          </dl>
        </template>
      </article>
      <article v-else-if="commands.length">
        <dl>
          <template v-for="command in commands" :key="command.id"
            ><dt>
              {{ command.name }} <kbd v-if="chord(command.id)">{{ chord(command.id) }}</kbd>
            </dt>
            <dd>{{ lineOf(command.id) }}</dd></template
          >
        </dl>
      </article>
      <p v-else class="quiet">Nothing in the help has these words.</p>
    </div>
  </PorchDialog>
</template>

<style scoped>
.help {
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr);
  gap: 20px;
  margin-top: 12px;
  height: min(56vh, 460px);
}
nav {
  display: flex;
  flex-direction: column;
  gap: 1px;
  overflow: auto;
}
nav button {
  border: 0;
  background: none;
  text-align: left;
  padding: 6px 10px;
  border-radius: 6px;
  cursor: pointer;
}
nav button:hover {
  background: var(--hover);
}
nav [aria-current] {
  background: var(--ceiling);
  font-weight: 600;
}
article {
  overflow: auto;
  line-height: 1.55;
}
article p {
  margin: 8px 0;
}
h3 {
  font: 600 13px var(--text);
  color: var(--quiet);
  margin: 16px 0 4px;
}
dt {
  font-weight: 600;
  margin-top: 6px;
}
dd {
  margin: 0;
  color: var(--quiet);
}
@media (max-width: 700px) {
  .help {
    grid-template-columns: 1fr;
    height: auto;
  }
  nav {
    flex-direction: row;
    flex-wrap: wrap;
  }
}
</style>
