<script setup lang="ts">
import { useDesk } from '~/desk/desk'

/** Whose walls the tree's times of day are on: a zone's, or those of whoever reads them. */
defineProps<{ inputId?: string }>()
const desk = useDesk()
const own = computed(() => {
  void desk.tick.value
  return desk.tree.fields.zone
})
const may = computed(() => desk.status.ready && desk.session.canEdit)
const zones = computed(() => [
  { id: '', name: 'whoever reads it' },
  ...[...new Set([own.value ?? ownZone(), ownZone(), 'UTC', ...Intl.supportedValuesOf('timeZone')])].map(id => ({
    id,
    name: id.replaceAll('_', ' '),
  })),
])
function set(id: string): void {
  if (desk.guard()) desk.run({ changes: [{ op: 'tree', field: 'zone', value: id || null }] })
}
</script>

<template>
  <Select
    :input-id="inputId"
    :model-value="own ?? ''"
    :options="zones"
    option-label="name"
    option-value="id"
    filter
    size="small"
    placeholder="whoever reads it"
    :disabled="!may"
    aria-label="Times on the wall of"
    @update:model-value="set" />
</template>
