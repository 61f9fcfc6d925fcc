<script setup lang="ts">
import QRCode from 'qrcode'
import type { LinkShown } from '#core/contract/operations/links'
import { shorten } from '#core/tree'
import type { LinkRight } from '#core/access/principal'
import { useDesk } from '~/desk/desk'
import type { Choice } from '#core/handing/choice'

/** Links that need no account: each a sentence that one edits in place. Nothing is open before somebody makes one here. */
const { part, along, what } = defineProps<{
  /** What a new link would open; null when that has gone meanwhile. */
  part: Choice['part'] | null
  along: Choice['with']
  /** The same in words: “Lift” and what is below. */
  what: string
}>()
const desk = useDesk()
const base = `/api/trees/${desk.session.treeId}/links`
const links = ref<readonly LinkShown[]>([])
const fresh = ref<{ id: string; url: string; picture: string } | null>(null)
const { busy, wrong, attempt } = useAttempt()
/** One at a time: a second press while the first is under way means the same. The button keeps the focus meanwhile. */
const act = async (work: () => Promise<unknown>): Promise<void> => {
  if (!busy.value) await attempt(work)
}
const said = ref('')

async function look(): Promise<void> {
  links.value = await callApi<LinkShown[]>(base)
}
look().catch((error: unknown) => (wrong.value = (error as Error).message))

/** Shows an address, which nobody can look up again. */
async function tell(id: string, address: string): Promise<void> {
  const url = location.origin + address
  fresh.value = { id, url, picture: await QRCode.toDataURL(url, { margin: 1, width: 220 }) }
  await look()
}
const make = (): Promise<void> =>
  act(async () => {
    if (!part) throw new Error('What was chosen isn’t there any more. Choose again.')
    // Comments aren't for strangers unless somebody says so by hand.
    const { id, address } = await callApi<{ id: string; address: string }>(base, {
      method: 'POST',
      body: { part, with: along.filter(one => one !== 'comments' && one !== 'files') },
    })
    await tell(id, address)
  })
const change = (link: LinkShown, body: object, done: string): Promise<void> =>
  act(async () => {
    await callApi(`${base}/${link.id}`, { method: 'PATCH', body })
    said.value = done
    await look()
  })
const renew = (link: LinkShown): Promise<void> =>
  act(async () => {
    const { address } = await callApi<{ address: string }>(`${base}/${link.id}/address`, { method: 'POST' })
    said.value = 'The old address leads nowhere any more.'
    await tell(link.id, address)
  })
const withdraw = (link: LinkShown): Promise<void> =>
  act(async () => {
    await callApi(`${base}/${link.id}`, { method: 'DELETE' })
    said.value = 'Withdrawn. The address leads nowhere any more.'
    if (fresh.value?.id === link.id) fresh.value = null
    await look()
  })
async function copy(): Promise<void> {
  try {
    await navigator.clipboard.writeText(fresh.value!.url)
    said.value = 'The address is on the clipboard.'
  } catch {
    said.value = 'This browser doesn’t let the page write to the clipboard. Select the address and copy it.'
  }
}

/** What a link opens, in words. */
function opens({ part: opened }: LinkShown): string {
  switch (opened.kind) {
    case 'tree':
      return 'the whole tree'
    case 'branch':
      return `“${shorten(desk.tree.topics.get(opened.topic)?.title ?? 'a branch that is gone', 40)}”`
    case 'topics':
      return `${opened.topics.length} ${opened.topics.length === 1 ? 'topic' : 'topics'}`
    case 'filter':
      return 'what a filter leaves'
    case 'view':
      return `the view “${shorten(desk.tree.fields.views.find(({ id }) => id === opened.view)?.name ?? 'that is gone', 40)}”`
  }
}
const openedInWords = ({ opened, lastOpened }: LinkShown): string =>
  opened === 0 || lastOpened === null
    ? 'never opened'
    : `opened ${opened === 1 ? 'once' : `${opened} times`}, last ${agoInWords(lastOpened)}`

const RIGHTS_SAID: Readonly<Record<LinkRight, string>> = {
  look: 'It’s for looking only.',
  comment: 'Whoever has it may say things about what it shows, under a name they give.',
  edit: 'Whoever has it may change what it shows, under a name they give. History says who did what.',
}

// — In other sites' pages
const framing = ref<string | null>(null)
const hosts = ref('')
const bare = (origin: string): string => origin.replace(/^https?:\/\//, '')
function openHosts(link: LinkShown): void {
  framing.value = framing.value === link.id ? null : link.id
  hosts.value = link.hosts.join('\n')
}
const setHosts = (link: LinkShown): Promise<void> => {
  const said = hosts.value
    .split(/[\s,]+/)
    .map(each => each.replace(/\/+$/, '').toLowerCase())
    .filter(Boolean)
    .map(each => (/^https?:/.test(each) ? each : `https://${each}`))
  return change(
    link,
    { hosts: said },
    said.length > 0 ? 'Pages of these sites may show it.' : 'No other page shows it.',
  )
}
const snippet = computed(() =>
  fresh.value
    ? `<iframe src="${fresh.value.url}?frame" title="${desk.tree.topics.get(desk.tree.centre)!.title.replaceAll('"', '&quot;')}" width="100%" height="520" loading="lazy" style="border:0"></iframe>`
    : '',
)

/** The one whose word is being typed. */
const asking = ref<string | null>(null)
const word = ref('')
async function setWord(link: LinkShown): Promise<void> {
  await change(link, { word: word.value }, 'Whoever opens it has to know the word too.')
  if (wrong.value) return
  asking.value = null
  word.value = ''
}
</script>

<template>
  <section class="links" aria-label="Links without an account">
    <h3>By a link, without an account</h3>
    <p v-if="fresh" class="fresh">
      <img :src="fresh.picture" alt="The address as a picture, for a wall" width="110" height="110" />
      <span>
        <input
          :value="fresh.url"
          readonly
          aria-label="Address of the link"
          @focus="($event.target as HTMLInputElement).select()" />
        <button class="plain" @click="copy">Copy</button>
        <small class="quiet">It’s shown this once: what is kept of it can’t be turned back.</small>
      </span>
    </p>
    <ul>
      <li v-for="link in links" :key="link.id">
        <p>
          Whoever has it<template v-if="link.hasWord"
            >, and knows
            <button class="part" @click="change(link, { word: null }, 'No word is asked for any more.')">
              the word</button
            >,</template
          ><template v-else
            >{{ ' '
            }}<button class="part none" @click="asking = asking === link.id ? null : link.id">
              (no word)
            </button></template
          >{{ ' ' }}may
          <select
            :value="link.may"
            class="part"
            aria-label="What they may do"
            @change="
              change(
                link,
                { may: ($event.target as HTMLSelectElement).value },
                RIGHTS_SAID[($event.target as HTMLSelectElement).value as LinkRight],
              )
            ">
            <option value="look">look at</option>
            <option value="comment">comment on</option>
            <option value="edit">edit</option></select
          >{{ ' ' }}{{ opens(link) }}, until
          <DayField
            class="until"
            :model-value="link.until"
            label="Until"
            placeholder="it’s withdrawn"
            @update:model-value="change(link, { until: $event }, 'The end was set.')" />,
          <select
            :value="String(link.copying)"
            class="part"
            aria-label="Copies"
            @change="change(link, { copying: ($event.target as HTMLSelectElement).value === 'true' }, 'Kept.')">
            <option value="false">without taking a copy</option>
            <option value="true">and may take a copy</option></select
          >{{ link.hosts.length > 0 ? ', also in pages of ' : ', '
          }}<button class="part" :class="{ none: link.hosts.length === 0 }" @click="openHosts(link)">
            {{ link.hosts.length > 0 ? link.hosts.map(bare).join(', ') : '(in no other page)' }}</button
          >.
        </p>
        <form v-if="asking === link.id" @submit.prevent="setWord(link)">
          <input
            v-model="word"
            minlength="4"
            maxlength="200"
            aria-label="A word that has to be known"
            autocomplete="off" />
          <button class="plain" :disabled="word.length < 4">Ask for it</button>
        </form>
        <form v-if="framing === link.id" class="hosts" @submit.prevent="setHosts(link)">
          <label
            >Sites whose pages may show it, one a line
            <textarea v-model="hosts" rows="2" placeholder="https://www.haven-library.example" />
          </label>
          <button class="plain">Keep</button>
          <label v-if="link.hosts.length && fresh?.id === link.id"
            >To be put into such a page
            <textarea :value="snippet" rows="3" readonly @focus="($event.target as HTMLTextAreaElement).select()" />
          </label>
          <small v-else-if="link.hosts.length" class="quiet"
            >What is put into such a page needs the address, which is shown once: take a new one.</small
          >
        </form>
        <small class="quiet">
          {{ [link.name, `made by ${link.by}`, openedInWords(link)].filter(Boolean).join(' · ') }}
          <button class="plain" @click="renew(link)">New address</button>
          <button class="plain" @click="withdraw(link)">Withdraw</button>
        </small>
      </li>
    </ul>
    <p class="quiet">A link without copies sends no file. What can be read can still be written down, though.</p>
    <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
    <p v-if="said" class="quiet" role="status">{{ said }}</p>
    <Button :label="`Make a link to ${what}`" outlined size="small" :disabled="!part" @click="make" />
  </section>
</template>

<style scoped>
.links {
  border-top: 1px solid var(--line);
  margin-top: 14px;
  padding-top: 10px;
}
h3 {
  font: 600 13px var(--text);
  color: var(--quiet);
  margin: 0 0 6px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 8px;
}
li {
  border-left: 3px solid var(--sun);
  padding: 2px 0 2px 10px;
  margin: 8px 0;
}
li p {
  margin: 0;
  line-height: 1.9;
}
.part {
  font: inherit;
  font-weight: 600;
  color: var(--porch);
  background: none;
  border: 0;
  border-bottom: 2px solid var(--sun);
  padding: 0 2px;
  min-height: 26px;
  cursor: pointer;
  field-sizing: content;
}
.part.none {
  border-bottom-style: dotted;
}
.hosts {
  margin: 4px 0 8px;
}
.hosts .plain {
  margin: 2px 0 8px;
}
.hosts label {
  display: block;
  font-size: 13px;
  color: var(--quiet);
}
.hosts textarea {
  display: block;
  width: 100%;
  box-sizing: border-box;
  font: inherit;
  color: var(--ink);
  background: var(--surface);
  border: 1px solid var(--line);
  padding: 5px 8px;
}
.until {
  display: inline-flex;
  width: 150px;
  vertical-align: middle;
}
.plain {
  margin-left: 10px;
  min-height: 28px;
}
.fresh {
  display: flex;
  gap: 12px;
  align-items: center;
  background: var(--ceiling);
  padding: 10px;
  margin: 0 0 8px;
}
.fresh img {
  background: #fff;
}
.fresh span {
  flex: 1;
  min-width: 0;
}
.fresh input {
  width: 100%;
  font: inherit;
  color: inherit;
  background: var(--surface);
  border: 1px solid var(--line);
  padding: 5px 8px;
  box-sizing: border-box;
}
.fresh small {
  display: block;
}
</style>
