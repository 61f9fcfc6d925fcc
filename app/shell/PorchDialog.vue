<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { closing } from '~/focus/opened'

/**
 * A dialog that keeps the one rule for the focus. PrimeVue's chooses a focus after its animation, again when somebody
 * types already, and gives it back to whatever had it before, also when that has gone; both are left to `v-opened`.
 */
defineOptions({ inheritAttrs: false })
defineProps<{ header?: string }>()
const visible = defineModel<boolean>('visible', { default: true })
const emit = defineEmits<{ closed: [] }>()
const slots = defineSlots<{ default?(): unknown; footer?(): unknown }>()
const body = ref<HTMLElement>()

const methods = (Dialog as unknown as { methods: Record<string, unknown> }).methods
const Quiet = {
  ...(Dialog as object),
  methods: {
    ...methods,
    focus() {},
    onLeave(this: { target: unknown }) {
      this.target = null
    },
  },
} as unknown as typeof Dialog

function close(): void {
  visible.value = false
}
watch(visible, now => {
  if (now) return
  if (body.value) closing(body.value)
  emit('closed')
})
</script>

<template>
  <Quiet v-model:visible="visible" modal :header="header" :close-on-escape="false" v-bind="$attrs">
    <div ref="body" v-opened="{ manner: 'dialog', close }" class="dialog-body"><slot /></div>
    <template v-if="slots.footer" #footer><slot name="footer" /></template>
  </Quiet>
</template>
