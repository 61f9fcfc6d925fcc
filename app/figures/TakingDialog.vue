<script setup lang="ts">
import { figureChanges, typedText } from '#core/figures/entry'
import { sayFigure } from '#core/figures/numbers'
import { fixedOf } from '#core/figures/fixed'
import type { ReadTable } from '#core/figures/table'
import { type Column, type Difference, type Matching, matchingOf, takingOf } from '#core/figures/taking'
import { numberOf, pathTo, shorten } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { figuresOf, formulaNames, measuresOf } from './figuring'

/** Figures out of a table: which column is what, and every difference before it's taken, as one edit. */
const { tables } = defineProps<{ tables: readonly ReadTable[] }>()
const visible = defineModel<boolean>('visible', { required: true })
const desk = useDesk()
const at = ref(
  Math.max(
    0,
    tables.findIndex(table => matchingOf(table, desk.tree).columns.some(one => one?.is === 'measure')),
  ),
)
const table = computed(() => tables[at.value]!)
const matching = shallowRef<Matching>(matchingOf(table.value, desk.tree))
watch(at, () => {
  matching.value = matchingOf(table.value, desk.tree)
  left.value = new Set()
})
const measures = computed(() => {
  void desk.tick.value
  return measuresOf(desk)
})
/** Differences that aren't to be taken. */
const left = ref<ReadonlySet<string>>(new Set())
const keyOf = ({ topic, measure }: Difference): string => `${topic} ${measure}`
const taking = computed(() => {
  void desk.tick.value
  return takingOf(
    table.value,
    matching.value,
    desk.tree,
    figuresOf(desk),
    id => (desk.numbers.any ? desk.numbers.of(id) : numberOf(desk.tree, id)) ?? '',
    ownLocale(),
  )
})
const MOST_SHOWN = 300
const rows = computed(() =>
  taking.value.differences.slice(0, MOST_SHOWN).map(one => {
    const measure = measures.value.find(({ id }) => id === one.measure)!
    const say = (text: string): string => {
      const value = fixedOf(text)
      return value === null
        ? typedText(text, measure, desk.tree, formulaNames(desk), ownLocale())
        : sayFigure(value, measure, ownLocale(), true)
    }
    const comes = figuresOf(desk).of(one.topic, one.measure).value
    return {
      ...one,
      key: keyOf(one),
      title: shorten(desk.tree.topics.get(one.topic)?.title ?? '', 44),
      path: pathTo(desk.tree, one.topic)
        .slice(1, -1)
        .map(({ title }) => shorten(title, 18))
        .join(' › '),
      measure,
      was: one.before ? say(one.before) : comes === null ? '' : `Σ ${sayFigure(comes, measure, ownLocale(), true)}`,
      will: say(one.after),
    }
  }),
)
const wanted = computed(() => taking.value.differences.filter(one => !left.value.has(keyOf(one))))
/** The first cells of a column, so that one knows which it is. */
const columns = computed(() =>
  matching.value.columns.map((column, i) => ({
    i,
    column,
    name: matching.value.head >= 0 ? (table.value.rows[matching.value.head]?.[i]?.text ?? '') : '',
    sample: table.value.rows
      .slice(matching.value.head + 1)
      .flatMap(row => row[i]?.text || [])
      .slice(0, 2)
      .join(', '),
  })),
)
const isKey = computed(() => matching.value.columns.some(one => one !== null && one.is !== 'measure'))
const valueOf = (column: Column): string =>
  column === null ? '' : column.is === 'measure' ? `m ${column.measure}` : column.is
function match(i: number, said: string): void {
  const column: Column =
    said === '' ? null : said.startsWith('m ') ? { is: 'measure', measure: said.slice(2) } : { is: said as 'title' }
  matching.value = {
    ...matching.value,
    // One column a meaning.
    columns: matching.value.columns.map((one, n) =>
      n === i ? column : said !== '' && valueOf(one) === said ? null : one,
    ),
  }
  left.value = new Set()
}
function turn(key: string): void {
  const now = new Set(left.value)
  if (!now.delete(key)) now.add(key)
  left.value = now
}
function take(): void {
  if (!desk.guard()) return
  const given = wanted.value.map(({ topic, measure, after }) => ({ topic, measure, text: after }))
  const changes = figureChanges(desk.tree, given)
  if (changes.length > 0 && !desk.run({ changes })) return
  visible.value = false
  desk.say(
    `${given.length === 1 ? 'One figure' : `${given.length.toLocaleString('en')} figures`} taken from the table.`,
    true,
  )
}
const many = (count: number, one: string, more: string): string =>
  `${count.toLocaleString('en')} ${count === 1 ? one : more}`
</script>

<template>
  <PorchDialog v-model:visible="visible" header="Figures from a table" :style="{ width: 'min(860px, 96vw)' }">
    <div class="taking">
      <label v-if="tables.length > 1" class="which"
        >Sheet
        <select v-model.number="at" aria-label="Sheet">
          <option v-for="(one, i) in tables" :key="i" :value="i">{{ one.name }}</option>
        </select></label
      >
      <p v-for="words in table.left" :key="words" class="warn">{{ words }}</p>
      <h3>What the columns are</h3>
      <ul class="columns" aria-label="Columns">
        <li v-for="one in columns" :key="one.i">
          <label
            ><span
              ><b>{{ one.name || `Column ${one.i + 1}` }}</b>
              <span class="quiet">{{ shorten(one.sample, 30) }}</span></span
            >
            <select
              :value="valueOf(one.column)"
              :data-first="one.i === 0 ? '' : undefined"
              @change="match(one.i, ($event.target as HTMLSelectElement).value)">
              <option value="">left out</option>
              <optgroup label="Which topic">
                <option value="title">its title</option>
                <option value="path">its path</option>
                <option value="number">its number</option>
              </optgroup>
              <optgroup label="Measure">
                <option v-for="measure in measures" :key="measure.id" :value="`m ${measure.id}`">
                  {{ measure.name }}
                </option>
              </optgroup>
            </select></label
          >
        </li>
      </ul>
      <p v-if="!isKey" class="warn">
        No column says which topic a row is of. Choose the one with titles, paths or numbers.
      </p>
      <template v-else>
        <h3>
          {{ many(taking.differences.length, 'difference', 'differences') }}
          <span class="quiet"
            >{{ many(taking.same, 'cell says', 'cells say') }} what is so<template v-if="taking.formulas"
              >, {{ many(taking.formulas, 'is', 'are') }} worked out there and left</template
            ></span
          >
        </h3>
        <div v-if="rows.length" class="scroll" tabindex="0" role="region" aria-label="Differences">
          <table>
            <thead>
              <tr>
                <th scope="col"><span class="visually-hidden">Take it</span></th>
                <th scope="col">Topic</th>
                <th scope="col">Measure</th>
                <th scope="col" class="n">Is</th>
                <th scope="col" class="n">Will be</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in rows" :key="row.key" :class="{ off: left.has(row.key) }">
                <td>
                  <input
                    type="checkbox"
                    :checked="!left.has(row.key)"
                    :aria-label="`${row.measure.name} of ${row.title}`"
                    @change="turn(row.key)" />
                </td>
                <td>
                  {{ row.title }} <small class="quiet">{{ row.path }}</small>
                </td>
                <td>{{ row.measure.name }}</td>
                <td class="n">{{ row.was }}</td>
                <td class="n">
                  <b>{{ row.will }}</b>
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="taking.differences.length > rows.length" class="quiet">
            and {{ (taking.differences.length - rows.length).toLocaleString('en') }} more, which are taken too.
          </p>
        </div>
        <details v-if="taking.without.length || taking.unread.length">
          <summary>
            {{
              [
                taking.without.length ? `${many(taking.without.length, 'row has', 'rows have')} no topic here` : '',
                taking.unread.length ? `${many(taking.unread.length, 'cell', 'cells')} can’t be taken` : '',
              ]
                .filter(Boolean)
                .join(', ')
            }}
          </summary>
          <ul>
            <li v-for="one in taking.without.slice(0, 100)" :key="`w${one.row}`">
              Row {{ one.row + 1 }}: {{ one.words ? `“${shorten(one.words, 60)}”` : 'nothing says which topic' }}
              {{
                one.why === 'several'
                  ? 'is the title of several topics; a path or a number would tell.'
                  : 'isn’t there.'
              }}
            </li>
            <li v-for="(one, i) in taking.unread.slice(0, 100)" :key="`u${i}`">
              Row {{ one.row + 1 }}, {{ one.words }}: {{ one.why }}
            </li>
          </ul>
        </details>
      </template>
    </div>
    <template #footer>
      <Button
        :label="wanted.length ? `Take ${many(wanted.length, 'figure', 'figures')}` : 'Nothing to take'"
        :disabled="wanted.length === 0"
        @click="take" />
    </template>
  </PorchDialog>
</template>

<style scoped>
.taking {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
h3 {
  font: 650 15px var(--display);
  margin: 6px 0 0;
}
h3 .quiet {
  font: 400 13px var(--text);
  margin-left: 6px;
}
.columns {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 6px 16px;
  max-height: 170px;
  overflow: auto;
}
.columns label {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  font-size: 13px;
}
.columns .quiet {
  margin-left: 6px;
}
.columns label > span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
select {
  font: inherit;
  color: inherit;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 4px 6px;
  max-width: 130px;
}
.which select {
  max-width: 260px;
  margin-left: 8px;
}
.warn {
  margin: 0;
  padding: 6px 10px;
  border-left: 3px solid var(--sun);
  background: var(--hover);
}
.scroll {
  max-height: 300px;
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: 8px;
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: 13px;
}
th {
  position: sticky;
  top: 0;
  background: var(--ceiling);
  text-align: left;
  font-weight: 600;
  padding: 5px 8px;
}
td {
  padding: 4px 8px;
  border-bottom: 1px solid var(--line);
}
.n {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.off td {
  opacity: 0.5;
}
.off b {
  text-decoration: line-through;
}
details ul {
  margin: 4px 0 0;
  padding-left: 18px;
  font-size: 13px;
}
</style>
