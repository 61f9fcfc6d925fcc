<script setup lang="ts">
import { BEGINNINGS } from '#core/figures/beginnings'
import { againstTarget } from '#core/figures/target'
import { topicOf } from '#core/tree'
import { useDesk } from '~/desk/desk'
import type { Aside } from './asides'
import { chartingOf, FACES } from './charting'
import TakeFigures from './TakeFigures.vue'
import { beginWith, figuresOf, measuresOf, shownResult } from './figuring'
import { useFiguresThen } from './useFiguresThen'

/** What things cost, take and count, with its faces. */
defineEmits<{ menu: [event: MouseEvent] }>()
const desk = useDesk()
const { face } = chartingOf(desk)
const ChartsFace = defineAsyncComponent(() => import('./ChartsFace.vue'))
const WhatIfFace = defineAsyncComponent(() => import('./WhatIfFace.vue'))
const ChoosingFace = defineAsyncComponent(() => import('./ChoosingFace.vue'))

const measures = computed(() => {
  void desk.tick.value
  return measuresOf(desk)
})
const { moments, then, wrong, hold } = useFiguresThen(desk)
const chosen = ref<readonly Aside[]>([])
const asides = computed<readonly Aside[]>(() => (then.value ? [...chosen.value, 'since'] : chosen.value))
const toggleAside = (aside: Aside): void => {
  chosen.value = chosen.value.includes(aside) ? chosen.value.filter(one => one !== aside) : [...chosen.value, aside]
}
const since = (number: string): Promise<void> => hold(number === '' ? null : Number(number))
/** What the shown branch comes to in each measure. */
const sums = computed(() => {
  void desk.tick.value
  const at = desk.only.value ?? desk.tree.centre
  const figures = figuresOf(desk)
  return measures.value.slice(0, 2).flatMap(measure => {
    const result = figures.of(at, measure.id)
    const { text, fault } = shownResult(desk, result, measure, { topic: at, measure: measure.id })
    if (text === '') return []
    const against = againstTarget(desk.tree, figures, at, measure)
    return [
      {
        id: measure.id,
        name: measure.name,
        text,
        fault,
        of:
          against &&
          `${Math.round(against.part * 100)} % of ${shownResult(desk, { value: against.target, fault: null }, measure, { topic: at, measure: measure.id }).text}`,
        bad: against?.bad ?? false,
      },
    ]
  })
})
const settings = ref()
/** The sheet takes the keys itself; the other faces leave them to the view. */
const onSheet = computed(() => face.value === 'sheet' && (measures.value.length > 0 || desk.editing.value !== null))
const sheet = ref<{ escape(): boolean }>()
const stage = ref<HTMLElement>()
onMounted(() => {
  if ((measures.value.length === 0 || face.value !== 'sheet') && !desk.editing.value)
    stage.value?.focus({ preventScroll: true })
})
watch([face, () => measures.value.length === 0], () => {
  if (face.value !== 'sheet') stage.value?.focus({ preventScroll: true })
})
/** A title is typed where it can be seen. */
watch(
  desk.editing,
  now => {
    if (now) face.value = 'sheet'
  },
  { immediate: true },
)
const title = computed(() => {
  void desk.tick.value
  return topicOf(desk.tree, desk.only.value ?? desk.tree.centre).title
})
defineExpose({ escape: () => sheet.value?.escape() ?? false })
</script>

<template>
  <section
    ref="stage"
    class="figures"
    aria-label="Figures of the tree"
    tabindex="-1"
    :data-home="onSheet ? undefined : ''">
    <header class="strip">
      <div class="faces" role="tablist" aria-label="Faces of the figures">
        <button
          v-for="one in measures.length ? FACES : FACES.slice(0, 1)"
          :key="one.id"
          role="tab"
          :aria-selected="face === one.id"
          :class="{ on: face === one.id }"
          @click="face = one.id">
          {{ one.name }}
        </button>
      </div>
      <p class="sum" :aria-label="`What ${title} comes to`">
        <template v-for="one in sums" :key="one.id">
          <span :class="{ late: one.bad || one.fault }" :data-tip="one.fault ?? undefined"
            >{{ one.name }} <b>{{ one.text }}</b></span
          >
          <span v-if="one.of" class="quiet">{{ one.of }}</span>
        </template>
      </p>
      <template v-if="measures.length && face === 'sheet'">
        <button class="plain" :aria-pressed="asides.includes('share')" @click="toggleAside('share')">Of parent</button>
        <button class="plain" :aria-pressed="asides.includes('target')" @click="toggleAside('target')">
          Against target
        </button>
      </template>
      <select
        v-if="measures.length && face === 'sheet' && moments.length"
        class="since"
        aria-label="Since a kept moment"
        :value="then?.number ?? ''"
        @change="since(($event.target as HTMLSelectElement).value)">
        <option value="">since …</option>
        <option v-for="one in moments" :key="one.number" :value="one.number">
          {{ one.name || dayInWords(isoDay(new Date(one.at))) }}
        </option>
      </select>
      <span v-if="wrong" class="late" role="alert">{{ wrong }}</span>
      <TakeFigures v-if="measures.length && face === 'sheet' && desk.session.canEdit" />
      <button v-if="measures.length" class="plain" @click="settings.toggle($event)">Measures …</button>
      <PorchPopover ref="settings"><MeasuresPart /></PorchPopover>
    </header>
    <template v-if="measures.length || desk.editing.value">
      <SheetFace
        v-if="face === 'sheet'"
        ref="sheet"
        :measures="measures"
        :asides="asides"
        :then="then"
        @menu="$emit('menu', $event)" />
      <ChartsFace v-else-if="face === 'charts'" :measures="measures" />
      <WhatIfFace v-else-if="face === 'what-if'" :measures="measures" />
      <ChoosingFace v-else :measures="measures" />
    </template>
    <div v-else class="none">
      <h2>What does it come to?</h2>
      <p class="quiet">
        Give topics numbers: what they cost, hours, seats, marks. They add up to the centre, to the cent; formulas
        reckon with them and with the plan’s days.
      </p>
      <template v-if="desk.session.canEdit">
        <ul aria-label="What to begin with">
          <li v-for="one in BEGINNINGS" :key="one.id">
            <Button :label="one.name" @click="beginWith(desk, one.id)" /> <span class="quiet">{{ one.purpose }}</span>
          </li>
        </ul>
        <button class="plain" @click="settings.toggle($event)">Or measures of your own …</button>
      </template>
      <p v-else class="quiet">Whoever may edit the tree can begin.</p>
    </div>
  </section>
</template>

<style scoped>
.figures {
  position: absolute;
  inset: 0;
  display: flex;
  flex-direction: column;
  background: var(--surface);
  outline: none;
}
.strip {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 5px 12px;
  border-bottom: 1px solid var(--line);
  flex-wrap: wrap;
}
.faces {
  display: flex;
}
.faces button {
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  padding: 5px 10px;
  color: var(--quiet);
  font-weight: 600;
  cursor: pointer;
  min-height: 32px;
}
.faces .on {
  color: var(--ink);
  border-color: var(--sun);
}
.sum {
  margin: 0;
  font-size: 13px;
  display: flex;
  flex: 1 1 120px;
  min-width: 0;
  gap: 4px 10px;
  flex-wrap: wrap;
  height: 20px;
  overflow: hidden;
  font-variant-numeric: tabular-nums;
}
.sum > span {
  white-space: nowrap;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
}
.late {
  color: var(--clay);
}
.plain {
  font-size: 13px;
  min-height: 28px;
  border-radius: 6px;
  padding: 2px 8px;
}
.since {
  width: 84px;
  font: inherit;
  font-size: 13px;
  padding: 4px 6px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--surface);
  color: var(--ink);
}
.plain[aria-pressed='true'] {
  background: var(--hover);
  box-shadow: inset 0 -2px 0 var(--sun);
}
.none {
  max-width: 560px;
  margin: 10vh auto 0;
  padding: 0 20px;
}
.none h2 {
  font: 650 24px/1.2 var(--display);
  margin: 0 0 8px;
}
.none ul {
  list-style: none;
  margin: 14px 0;
  padding: 0;
  display: grid;
  gap: 10px;
}
.none li {
  display: flex;
  gap: 12px;
  align-items: center;
}
@media (max-width: 700px) {
  .strip {
    gap: 2px 6px;
    padding: 2px 8px;
  }
  .sum {
    order: 1;
    flex-basis: 100%;
  }
}
</style>
