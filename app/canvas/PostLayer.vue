<script setup lang="ts">
import type { StandingPost } from './standing'

/** Names of big branches, put up over their planks where these are too small to be read. */
const { posts } = defineProps<{ posts: readonly StandingPost[] }>()
</script>

<template>
  <div
    v-for="post in posts"
    :key="post.id"
    class="post"
    :class="{ centre: post.centre, left: post.left, focused: post.focused }"
    :style="post.style"
    aria-hidden="true">
    <span v-for="(line, i) in post.lines" :key="i">{{ line }}</span>
  </div>
</template>

<style scoped>
.post {
  position: absolute;
  left: 0;
  top: 0;
  transform-origin: 0 0;
  padding: 2px 4px 2px 8px;
  background: var(--surface);
  border-left: 3px solid var(--rim);
  color: var(--ink);
  font: 650 12px/14px var(--text);
  white-space: nowrap;
  pointer-events: none;
  box-sizing: border-box;
}
.post.left {
  padding: 2px 8px 2px 4px;
  border-left: 0;
  border-right: 3px solid var(--rim);
  text-align: right;
}
.post span {
  display: block;
}
.post.centre {
  border-left-color: transparent;
  background: var(--centre);
  color: var(--on-centre);
  font: 650 15px/18px var(--display);
}
.post.focused {
  outline: 2px solid var(--porch);
  outline-offset: 1px;
}
</style>
