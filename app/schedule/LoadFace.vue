<script setup lang="ts">
import { EVEN_RULE, type EvenOut, evenOut } from '#core/schedule/even-out'
import { addDays } from '#core/schedule/days'
import { isTooMuch, type LoadCell, loadOf } from '#core/schedule/load'
import type { Plan } from '#core/schedule/plan'
import { daysInWords } from '#core/schedule/plan-words'
import { shorten, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'

/** Who has how much to do, week by week, and what makes it up; evened out by pressing a name. */
const { plan } = defineProps<{ plan: Plan }>()
const desk = useDesk()
/** What people can do isn't part of the plan; the load is another when it is. */
const capacities = computed(() => {
  void desk.tick.value
  return desk.tree.fields.capacities
})
const load = computed(() => {
  void capacities.value
  return loadOf(desk.tree, plan)
})
const titled = (id: TopicId): string => shorten(desk.tree.topics.get(id)?.title || 'untitled', 44)
const hours = (n: number): string =>
  new Intl.NumberFormat(ownLocale(), { maximumFractionDigits: 1 }).format(Math.round(n * 10) / 10)
const weekName = (monday: string): string =>
  new Intl.DateTimeFormat(ownLocale(), { day: 'numeric', month: 'short', timeZone: 'UTC' }).format(
    new Date(`${monday}T00:00Z`),
  )

const chosen = ref<{ person: string; week: string } | null>(null)
const cell = computed<LoadCell | null>(() => {
  const at = chosen.value
  if (!at) return null
  return load.value.rows.find(({ person }) => person === at.person)?.cells[load.value.weeks.indexOf(at.week)] ?? null
})
const says = ({ hours: planned, can }: LoadCell): string =>
  planned === 0 ? 'free' : isTooMuch({ hours: planned, can }) ? `${hours(planned - can)} h too much` : ''
const share = ({ hours: planned, can }: LoadCell): number =>
  can === 0 ? (planned > 0 ? 1 : 0) : Math.min(1, planned / can)

const offer = shallowRef<{ person: string; made: EvenOut } | null>(null)
function propose(person: string): void {
  const made = evenOut(desk.tree, desk.treeDay, new Set([person]))
  offer.value = made && { person, made }
}
watch(
  () => plan,
  () => {
    offer.value = null
  },
)
function take(): void {
  const { made, person } = offer.value!
  if (!desk.guard()) return
  desk.run({ changes: made.changes })
  desk.say(`${desk.nameOf(person)}: evened out.`, true)
}
/** Whose hours and days off are shown. */
const whose = ref<string | null>(null)
const capacity = ref()
function ask(event: Event, person: string): void {
  whose.value = person
  capacity.value.toggle(event)
}
const overloaded = (cells: readonly LoadCell[]): boolean => cells.some(isTooMuch)
</script>

<template>
  <div class="load">
    <p v-if="load.rows.length === 0" class="quiet none">
      Nobody has anything to do in the plan yet. Give tasks to people, and their weeks stand here.
    </p>
    <div v-else class="scroll" tabindex="0" role="region" aria-label="Hours by person and week">
      <table>
        <caption class="visually-hidden">
          Hours that are planned, of those that somebody can do, by person and week
        </caption>
        <thead>
          <tr>
            <th scope="col">Week of</th>
            <th v-for="week in load.weeks" :key="week" scope="col">{{ weekName(week) }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in load.rows" :key="row.person">
            <th scope="row">
              <PersonFace :id="row.person" :name="desk.nameOf(row.person)" :size="24" />
              <button
                class="plain who"
                :aria-label="`What ${desk.nameOf(row.person)} can do`"
                @click="ask($event, row.person)">
                {{ desk.nameOf(row.person) }}
              </button>
              <button
                v-if="desk.session.canEdit && overloaded(row.cells)"
                class="plain"
                :aria-label="`Even out ${desk.nameOf(row.person)}`"
                @click="propose(row.person)">
                Even out
              </button>
            </th>
            <td v-for="(one, i) in row.cells" :key="load.weeks[i]">
              <button
                class="cell"
                :class="{
                  much: isTooMuch(one),
                  chosen: chosen?.person === row.person && chosen.week === load.weeks[i],
                }"
                :style="{ '--share': `${share(one) * 100}%` }"
                :aria-label="`${desk.nameOf(row.person)}, week of ${weekName(load.weeks[i]!)}: ${hours(one.hours)} of ${hours(one.can)} hours ${says(one)}`"
                @click="chosen = { person: row.person, week: load.weeks[i]! }">
                <b>{{ one.hours ? hours(one.hours) : '–' }}</b>
                <small>{{ isTooMuch(one) ? says(one) : `of ${hours(one.can)}` }}</small>
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <PorchPopover ref="capacity"><CapacityPart v-if="whose" :key="whose" :person="whose" /></PorchPopover>
    <aside v-if="cell && chosen" class="about" aria-label="What makes it up" role="status">
      <h3>
        {{ desk.nameOf(chosen.person) }}, {{ weekName(chosen.week) }} to {{ weekName(addDays(chosen.week, 6)) }}:
        {{ hours(cell.hours) }} of {{ hours(cell.can) }} hours
      </h3>
      <p v-if="cell.parts.length === 0" class="quiet">Nothing is planned in this week.</p>
      <ul>
        <li v-for="part in cell.parts" :key="part.topic">
          <button class="plain" @click="desk.visit(part.topic)">{{ titled(part.topic) }}</button>
          <span class="quiet">{{ hours(part.hours) }} h</span>
        </li>
      </ul>
    </aside>
    <aside v-if="offer" class="about offer" aria-label="Evening out" role="status">
      <h3>Evening out {{ desk.nameOf(offer.person) }}: {{ EVEN_RULE }}</h3>
      <p v-if="offer.made.moved.length === 0">
        Nothing can make way: what is too much is fixed, under way, or one task alone.
      </p>
      <template v-else>
        <ul>
          <li v-for="one in offer.made.moved" :key="one.topic">
            {{ titled(one.topic) }} <span class="quiet">{{ dayInWords(one.from) }}</span> → {{ dayInWords(one.to) }}
          </li>
        </ul>
        <p>
          {{
            offer.made.cost === 0
              ? 'All is done as early as before.'
              : `All is done ${daysInWords(offer.made.cost)} later, on ${dayInWords(offer.made.after)}.`
          }}
          <template v-if="offer.made.left.length">
            Still too much on {{ offer.made.left.length }}
            {{ offer.made.left.length === 1 ? 'day' : 'days' }}.</template
          >
        </p>
        <Button size="small" label="Take it over" @click="take" />
      </template>
      <button class="plain" @click="offer = null">Leave it</button>
    </aside>
  </div>
</template>

<style scoped>
.load {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.none {
  padding: 24px;
}
.scroll {
  flex: 1;
  min-height: 0;
  overflow: auto;
}
table {
  border-collapse: separate;
  border-spacing: 0;
  font-size: 13px;
}
th {
  text-align: left;
  font-weight: 600;
  padding: 6px 10px;
  background: var(--surface);
  white-space: nowrap;
}
thead th {
  position: sticky;
  top: 0;
  z-index: 2;
  border-bottom: 1px solid var(--line);
  color: var(--quiet);
  font-size: 12px;
}
tbody th {
  position: sticky;
  left: 0;
  z-index: 1;
  border-right: 1px solid var(--line);
}
tbody th > * {
  vertical-align: middle;
  margin-right: 7px;
}
td {
  padding: 2px;
}
/* A cell fills from its sill up as the week does; what doesn't fit stands over the edge, and says so. */
.cell {
  width: 98px;
  height: 46px;
  border: 1px solid var(--line);
  border-bottom: 3px solid var(--porch);
  background: linear-gradient(var(--ceiling), var(--ceiling)) bottom / 100% var(--share) no-repeat;
  color: var(--ink);
  cursor: pointer;
  padding: 2px;
  font: inherit;
  font-variant-numeric: tabular-nums;
}
.cell b,
.cell small {
  display: block;
  line-height: 17px;
}
.cell small {
  font-size: 11px;
  color: var(--quiet);
  white-space: nowrap;
}
.cell.much {
  border: 2px solid var(--clay);
  border-bottom: 5px double var(--clay);
}
.cell.much small {
  color: var(--clay);
  font-weight: 700;
}
.cell.chosen {
  outline: 2px solid var(--porch);
  outline-offset: 1px;
}
.about {
  border-top: 1px solid var(--line);
  padding: 8px 14px;
  max-height: 40%;
  overflow: auto;
  font-size: 13px;
}
.about.offer {
  border-left: 4px solid var(--sun);
}
.about h3 {
  margin: 0 0 4px;
  font: 600 14px var(--display);
}
.about ul {
  margin: 0 0 6px;
  padding: 0;
  list-style: none;
}
.about p {
  margin: 4px 0;
}
.plain {
  min-height: 26px;
}
.who {
  color: var(--ink);
}
.who:hover {
  text-decoration: underline;
}
</style>
