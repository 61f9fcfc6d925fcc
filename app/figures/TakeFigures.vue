<script setup lang="ts">
import type { ReadTable } from '#core/figures/table'
import { useDesk } from '~/desk/desk'

/** Asks for a workbook or a table, and shows what of it would change figures. */
const desk = useDesk()
const TakingDialog = defineAsyncComponent(() => import('./TakingDialog.vue'))
const field = ref<HTMLInputElement>()
const tables = shallowRef<readonly ReadTable[] | null>(null)
const shown = ref(false)
const { busy, wrong, attempt } = useAttempt()
const bring = (event: Event): Promise<void> =>
  attempt(async () => {
    const input = event.target as HTMLInputElement
    const file = input.files?.[0]
    input.value = ''
    if (!file) return
    tables.value = await callApi<ReadTable[]>(`/api/trees/${desk.session.treeId}/figures/tables`, {
      method: 'POST',
      query: { name: file.name.slice(0, 300) },
      body: file,
      headers: { 'Content-Type': 'application/octet-stream' },
    })
    shown.value = true
  })
</script>

<template>
  <button
    class="icon-button"
    :disabled="busy"
    data-tip="Figures from a table …"
    :aria-label="busy ? 'Reading the table' : 'Figures from a table …'"
    @click="field?.click()">
    <Icon :name="busy ? 'lucide:loader-circle' : 'lucide:file-spreadsheet'" size="17" />
  </button>
  <input
    ref="field"
    type="file"
    class="visually-hidden"
    accept=".xlsx,.xlsm,.csv,.tsv,.txt"
    aria-label="Table with figures"
    tabindex="-1"
    @change="bring" />
  <span v-if="wrong" class="late" role="alert">{{ wrong }}</span>
  <TakingDialog v-if="shown && tables" v-model:visible="shown" :tables="tables" />
</template>

<style scoped>
.late {
  color: var(--clay);
  font-weight: 600;
}
</style>
