<script setup lang="ts">
import { topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import type { Panel } from '~/keys/commands'
import { usePage } from './page'

/** The tree's title, its views, the signs of the page, and who is here. */
const desk = useDesk()
const page = usePage()
const account = useAccount()

const VIEWS = [
  { id: 'canvas', name: 'Canvas' },
  { id: 'outline', name: 'Outline' },
  { id: 'schedule', name: 'Schedule' },
  { id: 'board', name: 'Board' },
  { id: 'figures', name: 'Figures' },
  { id: 'meeting', name: 'Meeting' },
] as const
const PANELS: readonly { readonly id: Panel; readonly name: string; readonly word: string; readonly icon: string }[] = [
  { id: 'arrange', name: 'Arrangement', word: 'Arrange', icon: 'lucide:network' },
  { id: 'markers', name: 'Markers', word: 'Markers', icon: 'lucide:bookmark' },
  { id: 'dress', name: 'Colour and style', word: 'Colour', icon: 'lucide:palette' },
]

const title = computed(() => {
  void desk.lateTick.value
  return topicOf(desk.tree, desk.tree.centre).title
})
function rename(event: Event): void {
  const said = (event.target as HTMLInputElement).value.trim().toWellFormed()
  if (said !== title.value) desk.set('title', said, [desk.tree.centre])
}

const unread = computed(() => {
  void desk.talking.tick.value
  return desk.talking.talk.value?.unread ?? 0
})
const here = computed(() => {
  const seen = new Map<string, { id: string; name: string; presents?: boolean }>()
  if (account.me) seen.set(account.me.id, account.me)
  // In one of their tabs they may present.
  for (const person of desk.status.present) if (!seen.get(person.id)?.presents) seen.set(person.id, person)
  return [...seen.values()]
})
function follow({ id, name, presents }: (typeof here.value)[number]): void {
  if (id === account.me?.id) return
  if (presents) page.present(id)
  else desk.following.toggle(id, name)
}
</script>

<template>
  <header class="top">
    <input
      class="tree-title"
      v-kept="title"
      :readonly="!desk.session.canEdit"
      aria-label="Title of the tree"
      @change="rename"
      @keydown.enter="($event.target as HTMLInputElement).blur()" />
    <div class="views" role="tablist" aria-label="Views">
      <button
        v-for="view in VIEWS"
        :key="view.id"
        role="tab"
        :aria-selected="desk.view.value === view.id"
        :class="{ on: desk.view.value === view.id }"
        @click="desk.view.value = view.id">
        {{ view.name }}
      </button>
    </div>
    <span class="grow" />
    <button data-tip="Find" class="icon-button" aria-label="Find" @click="page.find()">
      <Icon name="lucide:search" size="17" /><span class="word">Find</span>
    </button>
    <button data-tip="Undo" class="icon-button" aria-label="Undo" :disabled="!desk.status.canUndo" @click="desk.undo()">
      <Icon name="lucide:undo-2" size="17" /><span class="word">Undo</span>
    </button>
    <button
      data-tip="Redo"
      class="icon-button redo"
      aria-label="Redo"
      :disabled="!desk.status.canRedo"
      @click="desk.redo()">
      <Icon name="lucide:redo-2" size="17" /><span class="word">Redo</span>
    </button>
    <template v-if="desk.view.value !== 'meeting'">
      <button
        data-tip="Side sheet"
        class="icon-button"
        aria-label="Side sheet"
        :aria-pressed="desk.sheetOpen.value"
        @click="desk.sheetOpen.value = !desk.sheetOpen.value">
        <Icon name="lucide:panel-right" size="17" /><span class="word">Sheet</span>
      </button>
      <button
        v-for="panel in PANELS"
        :key="panel.id"
        :data-tip="panel.name"
        class="icon-button extra"
        :aria-label="panel.name"
        :aria-pressed="page.side.value === panel.id"
        @click="page.togglePanel(panel.id)">
        <Icon :name="panel.icon" size="17" /><span class="word">{{ panel.word }}</span>
      </button>
    </template>
    <button
      data-tip="Talk of the tree"
      class="icon-button talk"
      :class="{ fresh: unread > 0 }"
      :aria-label="unread ? `Talk of the tree, ${unread} unread` : 'Talk of the tree'"
      :aria-pressed="page.side.value === 'bench'"
      @click="page.togglePanel('bench')">
      <Icon name="lucide:sofa" size="17" /><b v-if="unread" class="unread">{{ unread > 99 ? '99+' : unread }}</b
      ><span class="word">Talk</span>
    </button>
    <button
      data-tip="History"
      class="icon-button extra"
      aria-label="History"
      @click="page.history(desk.focus.value === desk.tree.centre ? null : desk.focus.value, false)">
      <Icon name="lucide:history" size="17" /><span class="word">History</span>
    </button>
    <button data-tip="Help" class="icon-button extra" aria-label="Help" @click="page.open('help')">
      <Icon name="lucide:circle-help" size="17" /><span class="word">Help</span>
    </button>
    <button data-tip="Keys" class="icon-button keys" aria-label="Keys" @click="page.open('keys')">
      <Icon name="lucide:keyboard" size="17" /><span class="word">Keys</span>
    </button>
    <span class="here" role="group" aria-label="Who is here">
      <button
        v-for="person in here"
        :key="person.id"
        :data-tip="person.name"
        class="face-button"
        :aria-pressed="person.id === account.me?.id ? undefined : desk.following.who.value === person.id"
        :class="{ presents: person.presents }"
        :aria-label="
          person.id === account.me?.id
            ? `${person.name}, you`
            : `${person.name} ${person.presents ? 'presents: go along' : 'is here'}`
        "
        @click="follow(person)">
        <PersonFace :id="person.id" :name="person.name" :size="26" />
      </button>
    </span>
    <Button label="Hand out" size="small" outlined class="hand-out" @click="page.open('handout')" />
    <Button label="Share" size="small" @click="page.open('share')" />
  </header>
</template>

<style scoped>
.top {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 0 16px 0 14px;
  background: var(--surface);
  border-bottom: 1px solid var(--line);
  min-width: 0;
}
.tree-title {
  font: 600 19px var(--display);
  letter-spacing: -0.01em;
  border: 1px solid transparent;
  background: none;
  color: inherit;
  border-radius: 6px;
  padding: 4px 6px;
  min-width: 60px;
  max-width: 420px;
  field-sizing: content;
  text-overflow: ellipsis;
}
.tree-title:hover,
.tree-title:focus {
  border-color: var(--line);
}
.views {
  display: flex;
  gap: 2px;
  margin-left: 10px;
}
.views button {
  border: 0;
  background: none;
  padding: 6px 11px;
  border-radius: 7px;
  color: var(--quiet);
  font-weight: 500;
  cursor: pointer;
}
.views button:hover {
  color: var(--ink);
}
.views .on {
  background: var(--ceiling);
  color: var(--ink);
  font-weight: 600;
}
.grow {
  flex: 1;
}
.here {
  display: flex;
  padding: 0 12px 0 10px;
}
.hand-out {
  white-space: nowrap;
}
.face-button {
  display: grid;
  border: 1px solid var(--surface);
  border-radius: 50%;
  background: none;
  /* They lie a little over one another, and 24 px of each are left to point at. */
  margin-left: -4px;
  cursor: pointer;
  padding: 0;
}
.face-button.presents {
  box-shadow: 0 0 0 2px var(--sun);
}
.here [aria-pressed='true'] {
  box-shadow:
    0 0 0 2px var(--surface),
    0 0 0 4px var(--sun);
}
.unread {
  position: absolute;
  top: 0;
  right: 0;
  min-width: 16px;
  border-radius: 8px;
  padding: 0 4px;
  background: var(--clay);
  color: var(--surface);
  font: 700 10.5px/16px var(--text);
}
.icon-button {
  position: relative;
}
.icon-button[aria-pressed='true'] {
  background: var(--ceiling);
  color: var(--ink);
}
/* With room for it each sign says its word. */
.word {
  display: none;
}
@media (min-width: 1280px) {
  .icon-button {
    flex-direction: column;
    gap: 2px;
    width: auto;
    min-width: 44px;
    height: 42px;
    padding: 0 5px;
  }
  .word {
    display: block;
    font: 500 11px/1 var(--text);
  }
}
@media (min-width: 901px) and (max-width: 1440px) {
  .top {
    gap: 3px;
  }
  .views {
    margin-left: 4px;
    gap: 0;
  }
  .views button {
    padding: 6px 8px;
  }
  .icon-button {
    min-width: 38px;
    padding: 0 2px;
  }
  .views button {
    padding: 6px 8px;
  }
  .hand-out {
    margin-right: 3px;
  }
}
@media (max-width: 900px) {
  /* The list of all commands has it; the title needs the room, but for what waits to be read. */
  .hand-out,
  .talk:not(.fresh) {
    display: none;
  }
  /* Two rows: the title with the signs, then the views. */
  .top {
    padding: 4px 8px 0;
    gap: 0;
    flex-wrap: wrap;
    align-content: flex-start;
  }
  .tree-title {
    flex: 1;
    min-width: 0;
    width: 0;
    max-width: none;
  }
  .grow {
    display: none;
  }
  .icon-button {
    width: 44px;
    height: 44px;
  }
  .views {
    order: 1;
    width: 100%;
    margin: 0;
  }
  .views button {
    flex: 1;
    height: 44px;
  }
}
@media (max-width: 700px) {
  .keys,
  .here,
  .redo,
  .extra {
    display: none;
  }
  .tree-title {
    font-size: 16px;
    padding: 4px 3px;
  }
  .views button {
    padding: 6px 2px;
  }
}
@media (max-width: 380px) {
  .tree-title {
    font-size: 14.5px;
  }
  .icon-button {
    width: 40px;
  }
}
</style>
