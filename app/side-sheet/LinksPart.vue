<script setup lang="ts">
import {
  allTopics,
  type Link,
  linkInWords,
  mailAddress,
  readAddress,
  shorten,
  targetOf,
  topicOf,
  type Topic,
  type TopicId,
} from '#core/tree'
import { linkIcon } from '#core/scene/link-signs'
import { useDesk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import { openLink } from '~/files/opening'
import PageCard from '~/files/PageCard.vue'
import { pagesOf } from '~/files/pages'
import { useDraft } from './useDraft'

/** How long the pointer rests on a link before its page is shown, ms. */
const REST_MS = 250

/** The links of a topic: to the web, to somebody by mail, to a file, a topic or a tree. */
const props = defineProps<{ topic: Topic }>()
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const address = useDraft('link', props.topic.id)
const choosing = ref(false)
const changed = ref<{ id: string; name: string; subject: string } | null>(null)
/** Files that hang anywhere in the tree, looked up when somebody wants to link to one. */
const files = ref<readonly { readonly file: string; readonly name: string; readonly on: string }[]>([])
function lookUpFiles(): void {
  files.value = [...allTopics(desk.tree)].flatMap(one =>
    one.files.map(({ file, name }) => ({ file, name, on: shorten(one.title, 30) })),
  )
  if (files.value.length === 0) desk.say('No file hangs in this tree yet. Drop one on a topic first.')
}
function toFile(event: Event): void {
  const field = event.target as HTMLSelectElement
  const chosen = files.value[Number(field.value)]
  files.value = []
  if (chosen) put({ id: newId(), url: `attachment:${chosen.file}`, title: chosen.name })
}

const pages = pagesOf(desk)
watch(
  () => props.topic.links.length > 0,
  some => {
    // Without a line links are named by their addresses, as before.
    if (some) void pages.load().catch(() => {})
  },
  { immediate: true },
)
/** The link whose page is shown: the pointer rests on it, or it has the focus. */
const shown = ref<string | null>(null)
let resting = 0
function rest(link: Link): void {
  clearTimeout(resting)
  if (targetOf(link.url)?.kind === 'web') resting = window.setTimeout(() => (shown.value = link.id), REST_MS)
}
function leave(): void {
  clearTimeout(resting)
  shown.value = null
}
/** The link whose page stays shown: for fingers, which rest on nothing. */
const pinned = ref<string | null>(null)
const hasPage = (link: Link): boolean => pages.on.value && targetOf(link.url)?.kind === 'web'
onBeforeUnmount(() => clearTimeout(resting))

function nameOf(link: Link): string {
  const target = targetOf(link.url)
  if (link.title) return link.title
  const page = pages.known.get(link.url)
  if (page?.title) return shorten(page.title, 60)
  if (target?.kind === 'topic')
    return desk.tree.topics.has(target.topic)
      ? shorten(topicOf(desk.tree, target.topic).title, 60)
      : 'a topic that isn’t there any more'
  if (target?.kind === 'tree') return 'another tree'
  return linkInWords(link)
}
function put(link: Link): void {
  desk.put(props.topic.id, { op: 'put', topic: props.topic.id, set: 'links', member: link })
}
function add(): void {
  const said = address.value.trim()
  if (!said) return
  const url = readAddress(said, location.origin)
  if (!url) {
    desk.say(
      'That isn’t an address that can be opened: web and mail addresses, and those of trees here, are. Nothing was changed.',
    )
    return
  }
  put({ id: newId(), url: url.toWellFormed(), title: '' })
  address.value = ''
}
function toTopic(id: TopicId): void {
  choosing.value = false
  put({ id: newId(), url: `topic:${id}`, title: '' })
}
function begin(link: Link): void {
  const target = targetOf(link.url)
  changed.value = { id: link.id, name: link.title, subject: target?.kind === 'mail' ? target.subject : '' }
}
function keep(link: Link): void {
  const at = changed.value
  changed.value = null
  if (!at) return
  const target = targetOf(link.url)
  const url = target?.kind === 'mail' ? mailAddress(target.to, at.subject) : link.url
  if (at.name !== link.title || url !== link.url)
    put({ ...link, title: at.name.trim().toWellFormed().slice(0, 500), url })
}
</script>

<template>
  <div class="links">
    <template v-for="link in topic.links" :key="link.id">
      <div class="line" @pointerenter="rest(link)" @pointerleave="leave">
        <div v-if="shown === link.id || pinned === link.id" class="page" :class="{ pinned: pinned === link.id }">
          <PageCard :address="link.url" />
        </div>
        <button
          v-if="hasPage(link)"
          class="icon-button"
          :aria-label="`What the page of ${nameOf(link)} says`"
          :aria-pressed="pinned === link.id"
          @click="pinned = pinned === link.id ? null : link.id">
          <Icon :name="linkIcon(link)" size="15" />
        </button>
        <Icon v-else :name="linkIcon(link)" size="15" class="quiet" />
        <a
          v-if="['web', 'mail', 'place'].includes(targetOf(link.url)?.kind ?? '')"
          class="open"
          @focus="rest(link)"
          @blur="leave"
          :href="link.url"
          :title="link.url"
          target="_blank"
          rel="noopener noreferrer"
          >{{ nameOf(link) }}</a
        >
        <button v-else class="open" @click="openLink(desk, link)">{{ nameOf(link) }}</button>
        <button
          v-if="may"
          class="icon-button"
          :aria-label="`Change the link ${nameOf(link)}`"
          @click="changed?.id === link.id ? keep(link) : begin(link)">
          <Icon name="lucide:pencil" size="13" />
        </button>
        <button
          v-if="may"
          class="icon-button"
          :aria-label="`Remove the link ${nameOf(link)}`"
          @click="desk.put(topic.id, { op: 'take', topic: topic.id, set: 'links', member: link.id })">
          <Icon name="lucide:x" size="14" />
        </button>
      </div>
      <form
        v-if="changed?.id === link.id"
        class="change"
        @submit.prevent="keep(link)"
        @keydown.esc.stop="changed = null">
        <InputText v-model="changed.name" size="small" placeholder="Name" aria-label="Name of the link" />
        <InputText
          v-if="targetOf(link.url)?.kind === 'mail'"
          v-model="changed.subject"
          size="small"
          placeholder="Subject"
          aria-label="Subject of the mail" />
        <Button type="submit" size="small" label="Keep" />
      </form>
    </template>
    <form v-if="may" class="add" @submit.prevent="add">
      <InputText v-model="address" size="small" fluid placeholder="Web, mail or tree address" aria-label="Add a link" />
      <button
        type="button"
        class="icon-button from-right"
        data-tip="To a topic of this tree"
        aria-label="Link to a topic"
        @click="choosing = !choosing">
        <Icon name="lucide:milestone" size="16" />
      </button>
      <button
        type="button"
        class="icon-button from-right"
        data-tip="To a file of this tree"
        aria-label="Link to a file"
        @click="files.length ? (files = []) : lookUpFiles()">
        <Icon name="lucide:paperclip" size="16" />
      </button>
    </form>
    <select
      v-if="files.length"
      class="pick-file"
      aria-label="File to link to"
      value=""
      @change="toFile"
      @keydown.esc.stop="files = []">
      <option value="">Which file?</option>
      <option v-for="(one, i) in files" :key="i" :value="i">{{ one.name }}, on {{ one.on }}</option>
    </select>
    <TargetPicker v-if="choosing" label="Link to" :without="[]" @chosen="toTopic" @closed="choosing = false" />
  </div>
</template>

<style scoped>
.links {
  display: flex;
  flex-direction: column;
  gap: 3px;
  position: relative;
}
.line {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
}
.line {
  position: relative;
  flex-wrap: wrap;
}
.page {
  position: absolute;
  top: 100%;
  left: 0;
  right: 0;
  z-index: 5;
  box-shadow: var(--shadow);
  border-radius: 8px;
}
/* What stays lies over nothing. */
.page.pinned {
  position: static;
  order: 1;
  flex: 0 0 100%;
  box-shadow: none;
}
.open {
  text-decoration: none;
  line-height: 24px;
  flex: 1;
  min-width: 0;
  text-align: left;
  border: 0;
  background: none;
  padding: 3px 0;
  min-height: 24px;
  color: var(--porch);
  cursor: pointer;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 13px;
}
.open:hover {
  text-decoration: underline;
}
.icon-button {
  min-width: 26px;
  height: 26px;
}
.pick-file {
  font: inherit;
  font-size: 13px;
  color: inherit;
  background: var(--page);
  border: 1px solid var(--porch);
  border-radius: 6px;
  padding: 5px 7px;
}
.add,
.change {
  display: flex;
  gap: 4px;
  align-items: center;
}
.change {
  flex-wrap: wrap;
  padding-left: 21px;
}
.add :deep(input),
.change :deep(input) {
  font-size: 13px;
  flex: 1;
  min-width: 80px;
}
</style>
