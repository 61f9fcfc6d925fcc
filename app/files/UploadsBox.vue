<script setup lang="ts">
import { useDesk } from '~/desk/desk'

/** Files on their way: how far each is, and a way to stop it or try again. */
const desk = useDesk()
const { list } = desk.uploads
</script>

<template>
  <section data-over-tree class="uploads" aria-label="Files on their way">
    <div v-for="one in list" :key="one.id" class="one" :class="one.state">
      <span class="name">{{ one.name }}</span>
      <progress v-if="one.state !== 'failed'" :value="one.part" max="1" :aria-label="`${one.name} sent`" />
      <span v-else class="why" role="alert">{{ one.why }}</span>
      <span v-if="one.state !== 'failed'" class="quiet">{{
        one.state === 'waiting' ? 'waits' : `${Math.round(one.part * 100)} %`
      }}</span>
      <button v-else class="again" @click="desk.uploads.retry(one.id)">Again</button>
      <button
        class="icon-button"
        :aria-label="one.state === 'failed' ? `Take ${one.name} off the list` : `Stop sending ${one.name}`"
        @click="desk.uploads.stop(one.id)">
        <Icon name="lucide:x" size="15" />
      </button>
    </div>
  </section>
</template>

<style scoped>
.uploads {
  position: absolute;
  left: 12px;
  bottom: 12px;
  z-index: 7;
  width: min(380px, calc(100% - 24px));
  max-height: 45%;
  overflow: auto;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 9px;
  box-shadow: var(--shadow);
  padding: 6px 8px 6px 12px;
  display: flex;
  flex-direction: column;
  gap: 2px;
}
.one {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 90px 40px 28px;
  gap: 8px;
  align-items: center;
  font-size: 13px;
}
.failed {
  grid-template-columns: minmax(0, 1fr) auto 28px;
}
.failed .name {
  font-weight: 600;
}
.failed .why {
  grid-column: 1 / -1;
  grid-row: 2;
  color: var(--clay);
  font-size: 12.5px;
  padding-bottom: 4px;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
progress {
  width: 100%;
  height: 8px;
  accent-color: var(--porch);
}
.again {
  border: 0;
  background: none;
  color: var(--porch);
  font-weight: 600;
  cursor: pointer;
  min-height: 24px;
}
.icon-button {
  min-width: 28px;
  height: 28px;
}
</style>
