<script setup lang="ts">
import type { NewsEdit } from '#core/contract'
import { heardOf } from '#core/history/heard'
import { inWords } from '#core/history/words'
import { useDesk } from '~/desk/desk'
import { speakerOf } from '~/history/speaking'

/** What others do in the open tree, for those who hear the screen: said when there is a pause, and never over something else. */
const desk = useDesk()
/** A pause after which it's said, and how long it waits for one at most. */
const PAUSE_MS = 1200
const LONGEST_MS = 6000
/** Happenings that are said one by one; further ones are counted. */
const MOST = 3

const said = ref('')
let waiting: { readonly who: string; readonly what: string }[] = []
let timer = 0
let since = 0
function tell(): void {
  timer = 0
  const lines: string[] = []
  let before = ''
  for (const { who, what } of waiting.slice(0, MOST)) {
    lines.push(who === before ? what : `${who} ${what}`)
    before = who
  }
  const more = waiting.length - MOST
  said.value = `${lines.join('; ')}${more > 0 ? `; and ${more} more` : ''}.`
  waiting = []
}
function hear(edits: readonly NewsEdit[]): void {
  const speaker = speakerOf(desk, {})
  for (const { user, behalf, actor, changes } of edits) {
    if (user === desk.userId || behalf === desk.userId) continue
    const who = actor ? 'Somebody' : desk.nameOf(user)
    for (const one of heardOf(desk.tree, changes)) waiting.push({ who, what: inWords(one, speaker) })
  }
  if (waiting.length === 0) return
  const now = performance.now()
  if (timer === 0) since = now
  clearTimeout(timer)
  timer = window.setTimeout(tell, Math.min(PAUSE_MS, Math.max(0, since + LONGEST_MS - now)))
}
onMounted(() => {
  desk.heard = hear
})
onBeforeUnmount(() => {
  clearTimeout(timer)
  desk.heard = null
})
</script>

<template>
  <p class="visually-hidden" aria-live="polite">{{ said }}</p>
</template>
