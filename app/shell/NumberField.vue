<script setup lang="ts">
/**
 * A whole number between two others. It counts once it has been typed to its end; what others change meanwhile doesn't
 * write over what is being typed.
 */
const props = defineProps<{ modelValue: number; min: number; max: number }>()
const emit = defineEmits<{ 'update:modelValue': [number] }>()
const field = ref<HTMLInputElement>()
const typed = computed({
  get: () => props.modelValue,
  set(said: number | string) {
    const whole = Math.max(props.min, Math.min(props.max, Math.round(Number(said)) || 0))
    emit('update:modelValue', whole)
    // A number out of reach is shown as the one that was taken.
    void nextTick(() => {
      if (field.value) field.value.value = String(props.modelValue)
    })
  },
})
</script>

<template>
  <input ref="field" v-model.lazy="typed" type="number" :min="min" :max="max" />
</template>
