<script setup lang="ts">
import type { AddressState, CheckedAddress } from '#core/contract'
import { webAddresses, withoutAddress } from '#core/formats/web-addresses'
import { shorten, topicOf, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { pagesOf } from '~/files/pages'

/** Whether pages behind links may be asked, which is the owners' to say; and which of the links still lead somewhere. */
const emit = defineEmits<{ went: [] }>()
const desk = useDesk()
const pages = pagesOf(desk)
const { busy, wrong, attempt } = useAttempt()
const owner = computed(() => desk.status.role === 'owner')
const mayCheck = computed(() => desk.status.ready && (owner.value || desk.status.role === 'editor'))
onMounted(() => attempt(() => pages.refresh()))
const turn = (event: Event): void => {
  const { checked } = event.target as HTMLInputElement
  void attempt(() => pages.let(checked))
}

// — The check
const AT_ONCE = 6
const all = ref(0)
const done = ref(0)
const running = ref(false)
const found = shallowRef<readonly (CheckedAddress & { readonly topics: readonly TopicId[] })[] | null>(null)
const bare = shallowRef<readonly TopicId[]>([])
let stopped = false
async function check(): Promise<void> {
  const wanted = webAddresses(desk.tree)
  bare.value = withoutAddress(desk.tree)
  all.value = wanted.length
  done.value = 0
  found.value = null
  stopped = false
  running.value = true
  const checked: CheckedAddress[] = []
  await attempt(async () => {
    for (let i = 0; i < wanted.length && !stopped; i += AT_ONCE) {
      const addresses = wanted.slice(i, i + AT_ONCE).map(({ address }) => address)
      checked.push(
        ...(await callApi<CheckedAddress[]>(`/api/trees/${desk.session.treeId}/pages/check`, {
          method: 'POST',
          body: { addresses },
        })),
      )
      done.value = checked.length
    }
  })
  running.value = false
  const topicsOf = new Map(wanted.map(({ address, topics }) => [address, topics]))
  found.value = checked.map(one => ({ ...one, topics: topicsOf.get(one.address) ?? [] }))
}
onBeforeUnmount(() => {
  stopped = true
})
const GROUPS: readonly { readonly is: AddressState; readonly name: string }[] = [
  { is: 'gone', name: 'Gone: nothing is there any more' },
  { is: 'silent', name: 'Silent: nobody answers, or with a fault' },
  { is: 'elsewhere', name: 'Led on too often' },
  { is: 'closed', name: 'Not open to be asked' },
]
const groups = computed(() =>
  GROUPS.map(group => ({ ...group, all: found.value?.filter(({ is }) => is === group.is) ?? [] })).filter(
    group => group.all.length > 0,
  ),
)
const fine = computed(() => found.value?.filter(({ is }) => is === 'there').length ?? 0)
const titleOf = (id: TopicId): string => shorten(desk.tree.topics.get(id)?.title || 'untitled', 50)
function go(id: TopicId): void {
  if (!desk.tree.topics.has(id)) return
  desk.journey.to(topicOf(desk.tree, id).id)
  emit('went')
}
</script>

<template>
  <section class="pages" aria-label="Pages behind links">
    <h3>Pages behind links</h3>
    <label class="let"
      ><input type="checkbox" :checked="pages.on.value" :disabled="!owner || busy" @change="turn" />
      <span
        >Ask the web pages that links lead to for their title, summary and picture
        <small class="quiet"
          >This server asks each once, and keeps what it says. Whoever runs a page can see that it was asked.
          {{ owner ? '' : 'Owners decide.' }}</small
        ></span
      ></label
    >
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <template v-if="mayCheck && pages.on.value">
      <div class="row">
        <Button v-if="!running" outlined size="small" label="Check the links" @click="check" />
        <template v-else>
          <progress :max="all" :value="done" aria-label="Links checked" />
          <span role="status">{{ done }} of {{ all }}</span>
          <button class="plain" @click="stopped = true">Stop</button>
        </template>
      </div>
      <div v-if="found" class="found" role="group" aria-label="What the check found">
        <p role="status">
          {{ found.length === 0 ? 'No link of this tree leads to the web.' : `${fine} of ${found.length} answer.` }}
        </p>
        <template v-for="group in groups" :key="group.is">
          <h4>{{ group.name }}</h4>
          <ul>
            <li v-for="one in group.all" :key="one.address">
              <span class="address">{{ one.address }}{{ one.status === null ? '' : ` (${one.status})` }}</span>
              <button v-for="id in one.topics.slice(0, 5)" :key="id" class="plain" @click="go(id)">
                {{ titleOf(id) }}
              </button>
            </li>
          </ul>
        </template>
        <template v-if="bare.length">
          <h4>No address yet, where others beside them have one</h4>
          <ul>
            <li v-for="id in bare.slice(0, 200)" :key="id">
              <button class="plain" @click="go(id)">{{ titleOf(id) }}</button>
            </li>
          </ul>
        </template>
      </div>
    </template>
  </section>
</template>

<style scoped>
.pages {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
h3 {
  margin: 8px 0 0;
}
h4 {
  font: 600 13px var(--text);
  margin: 8px 0 2px;
}
.let {
  display: flex;
  gap: 8px;
  align-items: flex-start;
  font-size: 13.5px;
}
.let small {
  display: block;
}
.row {
  display: flex;
  gap: 10px;
  align-items: center;
}
.found {
  max-height: 280px;
  overflow: auto;
  font-size: 13.5px;
}
.found p {
  margin: 0;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  padding: 2px 0;
}
.address {
  display: block;
  overflow-wrap: anywhere;
}
.plain {
  font: inherit;
  font-weight: 600;
  min-height: 28px;
  padding: 0 8px 0 0;
}
.wrong {
  margin: 0;
  color: var(--clay);
}
</style>
