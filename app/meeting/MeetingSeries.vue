<script setup lang="ts">
import { fold } from '#core/find/text'
import { type Tally, tallyInWords } from '#core/meeting/delivered'
import { seriesFigures } from '#core/meeting/series'
import type { SeriesLog } from '#core/contract'
import type { TopicId } from '#core/tree'
import { useMeeting } from '~/meeting/useMeeting'

/**
 * What the series shows over time: decisions, actions, overruns, attendance; charts, and the same numbers as tables.
 */
const meeting = useMeeting()
const emit = defineEmits<{ choose: [id: TopicId] }>()
const { desk } = meeting
const log = shallowRef<SeriesLog>({ closedOn: {}, endedAt: {} })
async function load(): Promise<void> {
  try {
    log.value = await callApi<SeriesLog>(`/api/trees/${desk.session.treeId}/meetings/${meeting.id.value}/series`)
  } catch {
    /* offline: closed actions count as closed without a day */
  }
}
onMounted(load)
const figures = computed(() => {
  void desk.lateTick.value
  return meeting.id.value !== null && desk.tree.topics.has(meeting.id.value)
    ? seriesFigures(desk.tree, meeting.id.value, id => log.value.closedOn[id] ?? null, today())
    : null
})
/** A square a thing that had to be settled: whole, half, empty, or only its rim. */
const bitsOf = (tally: Tally): string[] =>
  (['reached', 'partly', 'not', 'open'] as const).flatMap(is => Array.from({ length: tally[is] }, () => is))
const text = ref('')
const decisions = computed(() => {
  const wanted = fold(text.value.trim())
  return (figures.value?.decisions ?? []).filter(
    one =>
      wanted === '' ||
      fold(`${one.title} ${one.meeting} ${one.item} ${one.by === null ? one.name : desk.nameOf(one.by)}`).includes(
        wanted,
      ),
  )
})
function show(id: TopicId): void {
  desk.view.value = 'canvas'
  nextTick(() => desk.visit(id))
}
const Charts = defineAsyncComponent(() => import('./SeriesCharts.vue'))
/** Meetings of which the log knows when they ended. */
const ends = computed(() =>
  (figures.value?.rows ?? []).flatMap(({ id, title, day }) => {
    const number = log.value.endedAt[id]
    return number === undefined ? [] : [{ id, title, day, number }]
  }),
)
const measured = computed(() => {
  void desk.lateTick.value
  return desk.tree.fields.measures.length > 0
})
</script>

<template>
  <div v-if="figures" class="series">
    <p v-if="figures.rows.length === 0" class="quiet none">
      No meeting of this series has been held yet. Decisions, actions and times gather here as they are.
    </p>
    <template v-else>
      <section class="facts" aria-label="At a glance">
        <div>
          <b>{{ figures.rows.length }}</b> held
        </div>
        <div>
          <b>{{ figures.decisions.length }}</b> decisions
        </div>
        <div>
          <b>{{ figures.open }}</b> actions open{{
            figures.openDays.length ? `, the oldest for ${figures.openDays[0]} days` : ''
          }}
        </div>
        <div>
          <b>{{ figures.median ?? '–' }}</b> days an action lives{{ figures.median === null ? '' : ' (median)' }}
        </div>
      </section>
      <Charts :figures="figures" />
      <section>
        <h2>Meeting by meeting</h2>
        <div class="scroll">
          <table>
            <thead>
              <tr>
                <th scope="col">Meeting</th>
                <th scope="col">Day</th>
                <th scope="col">Delivered</th>
                <th scope="col" class="n">Raised</th>
                <th scope="col" class="n">Closed</th>
                <th scope="col" class="n">Overdue</th>
                <th scope="col" class="n">There</th>
                <th scope="col" class="n">Planned</th>
                <th scope="col" class="n">Used</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in figures.rows" :key="row.id">
                <td>
                  <button class="plain" @click="emit('choose', row.id)">{{ row.title }}</button>
                </td>
                <td>{{ dayInWords(row.day) }}</td>
                <td>
                  <span class="bits" aria-hidden="true"
                    ><i v-for="(bit, i) in bitsOf(row.delivered)" :key="i" :class="bit" /></span
                  >{{ tallyInWords(row.delivered) || '–' }}
                </td>
                <td class="n">{{ row.raised }}</td>
                <td class="n">{{ row.closed }}</td>
                <td class="n" :class="{ late: row.overdue }">{{ row.overdue }}</td>
                <td class="n">{{ row.came }} of {{ row.invited }}</td>
                <td class="n">{{ row.planned }} min</td>
                <td class="n" :class="{ late: row.actual > row.planned }">{{ row.actual }} min</td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
      <LazySeriesFigures v-if="measured && ends.length" :ends="ends" @choose="emit('choose', $event)" />
      <section v-if="figures.overruns.length">
        <h2>Overrun by item</h2>
        <div class="scroll">
          <table>
            <thead>
              <tr>
                <th scope="col">Item</th>
                <th scope="col" class="n">Times</th>
                <th scope="col" class="n">Planned</th>
                <th scope="col" class="n">Used</th>
                <th scope="col" class="n">Over</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in figures.overruns" :key="row.title">
                <td>{{ row.title }}</td>
                <td class="n">{{ row.times }}</td>
                <td class="n">{{ row.planned }} min</td>
                <td class="n">{{ row.actual }} min</td>
                <td class="n" :class="{ late: row.actual > row.planned }">
                  {{ row.actual > row.planned ? '+' : '' }}{{ row.actual - row.planned }} min
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
      <section>
        <div class="log">
          <h2>Decisions</h2>
          <input v-model="text" type="search" placeholder="Find a decision" aria-label="Find a decision" />
        </div>
        <p v-if="decisions.length === 0" class="quiet">{{ text ? 'None has these words.' : 'None yet.' }}</p>
        <ul>
          <li v-for="one in decisions" :key="one.id">
            <button @click="show(one.id)">
              <MarkerSign id="decision" :size="16" /><span
                >{{ one.title
                }}<small>{{
                  [dayInWords(one.day), one.meeting, one.item, one.by === null ? one.name : desk.nameOf(one.by)]
                    .filter(Boolean)
                    .join(' · ')
                }}</small></span
              >
            </button>
          </li>
        </ul>
      </section>
    </template>
  </div>
</template>

<style scoped>
.series {
  flex: 1;
  overflow: auto;
  padding: 22px clamp(14px, 3vw, 40px) 80px;
  display: flex;
  flex-direction: column;
  gap: 26px;
}
.series > * {
  max-width: 1100px;
}
.none {
  margin: 60px auto;
  max-width: 420px;
  text-align: center;
}
h2 {
  margin-bottom: 8px;
}
.facts {
  display: flex;
  gap: 34px;
  flex-wrap: wrap;
}
.facts b {
  font: 650 26px var(--display);
  margin-right: 6px;
}
.bits {
  display: inline-flex;
  gap: 3px;
  margin-right: 8px;
}
.bits i {
  width: 11px;
  height: 11px;
  border: 1.5px solid var(--fern);
}
.bits .reached {
  background: var(--fern);
}
.bits .partly {
  background: linear-gradient(135deg, var(--fern) 50%, transparent 50%);
}
.bits .not {
  border-color: var(--clay);
  background: repeating-linear-gradient(45deg, var(--clay) 0 2px, transparent 2px 4px);
}
.bits .open {
  border-color: var(--quiet);
  border-style: dashed;
}
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
  background: var(--surface);
}
th {
  text-align: left;
  font-weight: 600;
  background: var(--ceiling);
  padding: 6px 10px;
  white-space: nowrap;
}
td {
  border-bottom: 1px solid var(--line);
  padding: 5px 10px;
}
.n {
  text-align: right;
  white-space: nowrap;
}
.late {
  color: var(--clay);
  font-weight: 650;
}
.plain {
  padding: 0;
  min-height: 26px;
}
.log {
  display: flex;
  gap: 16px;
  align-items: baseline;
  flex-wrap: wrap;
}
.log input {
  border: 1px solid var(--line);
  background: var(--surface);
  color: inherit;
  border-radius: 6px;
  padding: 5px 10px;
  font: inherit;
  width: 240px;
}
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  display: flex;
  flex-direction: column;
  gap: 3px;
}
li button {
  width: 100%;
  display: flex;
  gap: 10px;
  align-items: flex-start;
  border: 0;
  background: var(--surface);
  box-shadow: 0 0 0 0.5px var(--line);
  padding: 7px 12px;
  text-align: left;
  cursor: pointer;
  font-weight: 550;
}
li button:hover {
  background: var(--hover);
}
small {
  display: block;
  color: var(--quiet);
  font-weight: 400;
}
</style>
