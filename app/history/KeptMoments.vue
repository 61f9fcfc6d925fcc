<script setup lang="ts">
import { keptInWords } from '#core/history/kept'
import type { History } from './useHistory'

/** Moments that are kept: to go to, to name one, to let one go. */
const { history, mayEdit } = defineProps<{ history: History; mayEdit: boolean }>()
const box = ref<{ toggle(event: Event): void; hide(): void }>()
const name = ref('')
const { busy, wrong, attempt } = useAttempt()
const moments = computed(() => [...history.kept.value].reverse())
const here = computed(() => history.kept.value.find(one => one.number === history.at.value && one.why === 'named'))
watch(
  () => here.value?.name ?? '',
  now => {
    name.value = now
  },
)
const day = (iso: string): string => dayInWords(isoDay(new Date(iso)))
const keep = (): Promise<void> =>
  attempt(async () => {
    if (name.value.trim() === '') return
    await history.keep(name.value.trim())
  })
const letGo = (number: number): Promise<void> => attempt(() => history.letGo(number))
function goTo(number: number): void {
  history.rest()
  void history.goTo(number)
  box.value?.hide()
}
</script>

<template>
  <button class="kept" aria-haspopup="dialog" @click="box?.toggle($event)">
    <Icon name="lucide:pin" size="14" /> Kept moments{{ moments.length ? `, ${moments.length}` : '' }}
  </button>
  <PorchPopover ref="box">
    <div class="moments" role="dialog" aria-label="Kept moments">
      <form v-if="mayEdit" @submit.prevent="keep">
        <InputText
          v-model="name"
          data-first
          maxlength="200"
          aria-label="Name of this moment"
          placeholder="Name of the moment that is shown" />
        <Button type="submit" size="small" :label="here ? 'Rename' : 'Keep it'" :disabled="busy || !name.trim()" />
      </form>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <p v-if="moments.length === 0" class="quiet">
        None yet. Moments before something large, and when a meeting begins and ends, are kept by themselves.
      </p>
      <ol>
        <li
          v-for="one in moments"
          :key="`${one.number} ${one.why}`"
          :aria-current="one.number === history.at.value || undefined">
          <button class="go" @click="goTo(one.number)">
            <b v-if="one.why === 'named'" dir="auto">{{ one.name }}</b><span v-else dir="auto">{{
              keptInWords(one)
            }}</span
            ><small>{{ day(one.at) }}</small>
          </button>
          <button
            v-if="mayEdit && one.why === 'named'"
            class="icon-button"
            :aria-label="`Let “${one.name}” go`"
            @click="letGo(one.number)">
            <Icon name="lucide:x" size="14" />
          </button>
        </li>
      </ol>
    </div>
  </PorchPopover>
</template>

<style scoped>
.kept {
  display: flex;
  align-items: center;
  gap: 5px;
  height: 30px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: inherit;
  padding: 0 9px;
  cursor: pointer;
}
.moments {
  width: 340px;
  max-width: 86vw;
}
form {
  display: flex;
  gap: 6px;
  margin-bottom: 6px;
}
form > :first-child {
  flex: 1;
  min-width: 0;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 40vh;
  overflow: auto;
}
li {
  display: flex;
  align-items: center;
  border-left: 3px solid transparent;
}
li[aria-current] {
  border-left-color: var(--sun);
}
.go {
  flex: 1;
  min-width: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 13.5px;
  text-align: left;
  padding: 5px 8px;
  border-radius: 5px;
  cursor: pointer;
}
.go:hover {
  background: var(--hover);
}
small {
  display: block;
  color: var(--quiet);
}
</style>
