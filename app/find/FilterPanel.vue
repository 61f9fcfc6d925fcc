<script setup lang="ts">
import { countConditions, type Group, isGroup, type Names, queryInWords } from '#core/find/conditions'
import type { SavedView } from '#core/tree/view'
import { markersOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { groupName } from '~/share/own-groups'
import { newId } from '~/desk/new-id'
import { LEFT_FORMATS, LEFT_NAMES, saveLeft } from '~/files/exporting'
import { takeView, viewNow } from './views'

/**
 * The filter: what topics must be, what becomes of the rest, what can be done with what is left, and views kept under
 * a name.
 */
const desk = useDesk()
const { query, rest, matches } = desk.finding
const may = computed(() => desk.status.ready && desk.session.canEdit)
const group = computed<Group>(() =>
  query.value === null
    ? { join: 'all', of: [] }
    : isGroup(query.value)
      ? query.value
      : { join: 'all', of: [query.value] },
)
const names: Names = {
  measure: id => desk.tree.fields.measures.find(one => one.id === id)?.name ?? 'a measure that is gone',
  marker: id => markersOf(desk.tree.fields).find(marker => marker.id === id)?.name ?? 'a marker that is gone',
  person: id => desk.nameOf(id),
  group: id => groupName(desk, id),
}
const sentence = computed(() => (countConditions(group.value) > 0 ? queryInWords(group.value, names) : ''))
const READY: readonly { readonly name: string; readonly group: Group }[] = [
  {
    name: 'Mine and open',
    group: {
      join: 'all',
      of: [
        { about: 'person', person: 'me' },
        { about: 'state', is: 'open' },
      ],
    },
  },
  { name: 'Late', group: { join: 'all', of: [{ about: 'due', is: 'late' }] } },
  {
    name: 'Due this week',
    group: {
      join: 'all',
      of: [
        { about: 'due', is: 'within', days: 7 },
        { about: 'state', is: 'open' },
      ],
    },
  },
  { name: 'Changed lately', group: { join: 'all', of: [{ about: 'changed', days: 7 }] } },
  {
    name: 'With substance',
    group: {
      join: 'any',
      of: [
        { about: 'has', what: 'note' },
        { about: 'has', what: 'file' },
        { about: 'has', what: 'link' },
      ],
    },
  },
]
function set(now: Group): void {
  query.value = now.of.length > 0 ? now : null
}

/** Words that are typed first of all are a condition like others. */
const said = ref('')
function addWords(): void {
  const words = said.value.trim().slice(0, 200)
  said.value = ''
  if (words) set({ ...group.value, of: [...group.value.of, { about: 'text', words, where: 'anywhere' }] })
}

// — Saved views
const own = ref<readonly SavedView[]>([])
const shared = computed(() => {
  void desk.lateTick.value
  return desk.tree.fields.views
})
const name = ref('')
const trouble = ref('')
const base = `/api/trees/${desk.session.treeId}/views`
onMounted(() =>
  callApi<SavedView[]>(base).then(
    list => {
      own.value = list
    },
    () => {
      trouble.value = 'Your own views can’t be read just now.'
    },
  ),
)
async function keep(forAll: boolean): Promise<void> {
  if (!name.value.trim()) return
  trouble.value = ''
  const view = viewNow(desk, newId(), name.value)
  name.value = ''
  if (forAll) {
    if (desk.guard()) desk.run({ changes: [{ op: 'tree-put', set: 'views', member: view }] })
    return
  }
  try {
    const { id, ...body } = view
    await callApi(`${base}/${id}`, { method: 'PUT', body })
    own.value = [...own.value, view]
  } catch (error) {
    trouble.value = (error as Error).message
  }
}
async function drop(view: SavedView, isShared: boolean): Promise<void> {
  if (isShared) {
    if (desk.guard()) desk.run({ changes: [{ op: 'tree-take', set: 'views', member: view.id }] })
    desk.say(`Dropped the view “${view.name}”.`, true)
    return
  }
  own.value = own.value.filter(one => one.id !== view.id)
  await callApi(`${base}/${view.id}`, { method: 'DELETE' }).catch(() => {
    trouble.value = 'That view couldn’t be dropped. It will be back.'
  })
}
</script>

<template>
  <div class="filter">
    <form class="words" @submit.prevent="addWords">
      <InputText
        v-model="said"
        size="small"
        fluid
        maxlength="200"
        placeholder="With these words, Enter"
        aria-label="With these words" />
    </form>
    <p class="sentence" role="status">
      <template v-if="sentence"
        >Topics <b>{{ sentence }}</b>: {{ matches.length.toLocaleString('en') }} of
        {{ desk.topicCount.value.toLocaleString('en') }}</template
      ><template v-else
        ><span class="quiet">Everything is shown. Add a condition, or begin with one of these.</span></template
      >
    </p>
    <div v-if="!sentence" class="ready">
      <button v-for="one in READY" :key="one.name" class="chip" @click="set(one.group)">{{ one.name }}</button>
    </div>
    <QueryGroup :group="group" :names="names" @change="set" />
    <template v-if="sentence">
      <span class="segments" role="group" aria-label="What becomes of the rest"
        ><button :aria-pressed="rest === 'dim'" @click="rest = 'dim'">Dim the rest</button
        ><button :aria-pressed="rest === 'hide'" @click="rest = 'hide'">Hide the rest</button></span
      >
      <div class="row">
        <button class="plain" :disabled="!matches.length" @click="desk.selectAll(matches)">
          Select all {{ matches.length.toLocaleString('en') }}
        </button>
        <select
          aria-label="Save what is left as a file"
          value=""
          :disabled="!matches.length"
          @change="
            event => {
              saveLeft(desk, (event.target as HTMLSelectElement).value as never)
              ;(event.target as HTMLSelectElement).value = ''
            }
          ">
          <option value="">Save what is left …</option>
          <option v-for="format in LEFT_FORMATS" :key="format" :value="format">{{ LEFT_NAMES[format] }}</option>
        </select>
        <button class="plain" @click="query = null">Show all</button>
      </div>
    </template>
    <h3>Views</h3>
    <template v-for="(list, i) in [shared, own]" :key="i">
      <div v-for="view in list" :key="view.id" class="view">
        <button class="line" @click="takeView(desk, view)">
          {{ view.name }} <span class="quiet">{{ i === 0 ? 'shared' : 'mine' }}</span>
        </button>
        <button
          v-if="i === 1 || may"
          class="icon-button"
          :aria-label="`Drop the view ${view.name}`"
          @click="drop(view, i === 0)">
          <Icon name="lucide:x" size="14" />
        </button>
      </div>
    </template>
    <form class="keep" @submit.prevent="keep(false)">
      <InputText
        v-model="name"
        size="small"
        fluid
        placeholder="Keep this view as …"
        aria-label="Name of the view"
        maxlength="120" />
      <span v-if="name.trim()" class="row"
        ><Button type="submit" size="small" label="For me" /><Button
          v-if="may"
          type="button"
          size="small"
          severity="secondary"
          label="For everyone here"
          @click="keep(true)"
      /></span>
    </form>
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.filter {
  display: flex;
  flex-direction: column;
  gap: 8px;
  font-size: 13px;
}
.sentence {
  margin: 0;
  line-height: 1.45;
}
.ready {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
}
.chip {
  border: 1px solid var(--line);
  background: var(--page);
  border-radius: 6px;
  padding: 3px 9px;
  cursor: pointer;
  min-height: 28px;
  font-size: 12.5px;
}
.chip:hover {
  border-color: var(--porch);
}
.row {
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
.row select {
  font: inherit;
  font-size: 13px;
  color: var(--porch);
  font-weight: 600;
  border: 0;
  background: none;
  cursor: pointer;
  min-height: 26px;
  max-width: 150px;
}
.plain {
  padding: 3px 0;
  min-height: 26px;
}
.plain:disabled {
  color: var(--quiet);
  cursor: default;
}
h3 {
  font: 600 12px var(--text);
  color: var(--quiet);
  margin: 10px 4px 0;
}
.view {
  display: flex;
  align-items: center;
}
.line {
  flex: 1;
  text-align: left;
  border: 0;
  background: none;
  border-radius: 6px;
  padding: 5px 6px;
  cursor: pointer;
  min-height: 28px;
}
.line:hover {
  background: var(--hover);
}
.icon-button {
  min-width: 26px;
  height: 26px;
}
.keep {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.trouble {
  color: var(--clay);
  margin: 0;
}
</style>
