<script setup lang="ts">
import { useEventListener } from '@vueuse/core'

const account = useAccount()
const theme = useTheme()
const route = useRoute()
const newer = useNewerApp()
const menu = ref()
const places = [
  { to: '/', name: 'Home', icon: 'lucide:house' },
  { to: '/trees', name: 'Trees', icon: 'lucide:shapes' },
  { to: '/work', name: 'My work', icon: 'lucide:list-todo' },
  { to: '/meetings', name: 'Meetings', icon: 'lucide:presentation' },
  { to: '/news', name: 'News', icon: 'lucide:bell' },
  { to: '/letterbox', name: 'Letterbox', icon: 'lucide:mail' },
]
const items = computed(() => [
  { label: account.me?.email ?? '', disabled: true },
  { label: 'Your account', command: () => navigateTo('/account') },
  { label: 'Light or dusk', command: theme.toggle },
  { label: 'Sign out', command: () => leave(false) },
  { label: 'Sign out everywhere', command: () => leave(true) },
])
/** Edits that would be lost with what this browser keeps: asked about before. */
const losing = ref<{ count: number; everywhere: boolean } | null>(null)
async function leave(everywhere: boolean, anyhow = false): Promise<void> {
  const count = anyhow ? 0 : await account.waiting().catch(() => 0)
  if (count > 0) {
    losing.value = { count, everywhere }
    return
  }
  try {
    await account.signOut(everywhere)
  } catch (error) {
    losing.value = null
    warning.value = `You aren’t signed out. ${(error as Error).message}`
  }
}
/** Letters that wait to be read: asked for now and then, and when one goes from place to place. */
const unread = ref(0)
async function countLetters(): Promise<void> {
  if (account.me && document.visibilityState === 'visible')
    unread.value = (
      await callApi<{ count: number }>('/api/letters/unread').catch(() => ({ count: unread.value }))
    ).count
}
/** What waits in this browser goes out wherever one is, not only where the tree is opened again. */
async function deliver(): Promise<void> {
  if (!account.me || !navigator.onLine) return
  const { deliverWaiting } = await import('~/session/deliver')
  const open = /^\/trees\/([^/]+)/.exec(route.path)?.[1] ?? null
  await deliverWaiting(account.me.id, open, said => {
    warning.value = said
  })
}
/** What went wrong wherever one is. */
const warning = ref('')
useEventListener(window, 'online', () => void deliver())
const told = useTold()
/** What waits to be read at a place of the rail. */
const waitingAt = (to: string): number => (to === '/letterbox' ? unread.value : to === '/news' ? told.count : 0)
function look(): void {
  // Out of sight it's asked for where the browser rings.
  if (account.me && (told.rings || document.visibilityState === 'visible')) void told.refresh()
}
useEventListener(window, 'told', look)
useEventListener(document, 'visibilitychange', look)
let timer = 0
onMounted(() => {
  look()
  requestIdleCallback(() => void deliver(), { timeout: 5000 })
  void countLetters()
  timer = window.setInterval(() => {
    void countLetters()
    look()
  }, 30_000)
  document.addEventListener('visibilitychange', countLetters)
})
onBeforeUnmount(() => {
  clearInterval(timer)
  document.removeEventListener('visibilitychange', countLetters)
})
watch(() => route.fullPath, countLetters)
watch(() => route.fullPath, look)
provide('count-letters', countLetters)
const isOn = (to: string): boolean => (to === '/' ? route.path === '/' : route.path.startsWith(to))
</script>

<template>
  <div class="house">
    <nav class="rail" aria-label="Main">
      <PorchMark class="mark" />
      <NuxtLink
        v-for="place in places"
        :key="place.to"
        :data-tip="place.name"
        :to="place.to"
        :class="{ on: isOn(place.to) }"
        :aria-current="isOn(place.to) ? 'page' : undefined"
        :aria-label="waitingAt(place.to) ? `${place.name}, ${waitingAt(place.to)} unread` : place.name">
        <Icon :name="place.icon" size="20" /><span v-if="waitingAt(place.to)" class="unread" aria-hidden="true">{{
          waitingAt(place.to) > 99 ? '99+' : waitingAt(place.to)
        }}</span>
      </NuxtLink>
      <span class="grow" />
      <button
        v-if="account.me"
        class="me"
        :style="{ background: hueOf(account.me.id) }"
        :aria-label="`${account.me.name}: account`"
        aria-haspopup="menu"
        @click="menu.toggle($event)">
        <PersonFace
          :id="account.me.id"
          :name="account.me.name"
          :picture="account.me.picture"
          :square="account.me.square"
          :size="30" />
      </button>
      <Menu ref="menu" :model="items" popup />
      <PorchDialog v-if="losing" header="Sign out?" :style="{ width: 'min(440px, 94vw)' }" @closed="losing = null">
        <p>
          {{ losing.count === 1 ? 'One edit of yours waits' : `${losing.count} edits of yours wait` }} here and
          {{ losing.count === 1 ? 'isn’t' : 'aren’t' }} stored yet. Signing out wipes what this browser keeps.
        </p>
        <template #footer>
          <Button label="Stay, and let them go out" data-first @click="losing = null" />
          <Button text class="grave" label="Sign out and lose them" @click="leave(losing.everywhere, true)" />
        </template>
      </PorchDialog>
    </nav>
    <div class="room">
      <slot />
    </div>
    <Message v-if="warning" class="warning" severity="warn" role="status" closable @close="warning = ''">{{
      warning
    }}</Message>
    <LazySignedOut v-if="account.ended" :why="account.ended" />
    <LazyNewerApp v-else-if="newer" />
  </div>
</template>

<style scoped>
.house {
  height: 100%;
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr);
}
.rail {
  background: var(--ceiling);
  display: flex;
  flex-direction: column;
  align-items: center;
  padding: 10px 0;
  gap: 4px;
}
.mark {
  margin-bottom: 12px;
}
.rail a {
  width: 40px;
  height: 40px;
  border-radius: 8px;
  display: grid;
  place-items: center;
  color: var(--porch);
}
.rail a:hover {
  background: color-mix(in srgb, var(--surface) 50%, transparent);
}
.rail a.on {
  background: var(--surface);
}
.rail a {
  position: relative;
}
.unread {
  position: absolute;
  top: 1px;
  right: 0;
  min-width: 17px;
  height: 17px;
  border-radius: 9px;
  padding: 0 4px;
  background: var(--clay);
  color: #fff;
  font: 700 10.5px/17px var(--text);
  text-align: center;
}
.grow {
  flex: 1;
}
.warning {
  position: fixed;
  left: 50%;
  bottom: calc(16px + env(safe-area-inset-bottom));
  translate: -50%;
  z-index: 900;
  max-width: 94vw;
}
.me {
  width: 34px;
  height: 34px;
  padding: 0;
  display: grid;
  place-items: center;
  border-radius: 50%;
  border: 2px solid var(--surface);
  color: #fff;
  font: 700 12px var(--text);
  cursor: pointer;
}
.room {
  min-width: 0;
  min-height: 0;
  height: 100%;
  overflow: clip;
}
@media (max-width: 700px) {
  .house {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(0, 1fr) 52px;
  }
  .rail {
    grid-row: 2;
    flex-direction: row;
    padding: 0 12px;
  }
  .mark {
    display: none;
  }
}
</style>
