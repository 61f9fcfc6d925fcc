<script setup lang="ts">
import VChart from 'vue-echarts'
import { chartOf, emptinessOf } from '#core/figures/chart'
import { chartOption } from '#core/figures/chart-option'
import { type HungChart, inOrder, type Topic } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { planNow } from '~/schedule/planning'
import './chart-parts'
import { EMPTY_WORDS } from './chart-words'
import { kindName, showChart } from './charting'
import { figuresOf } from './figuring'
import { useChartLook } from './useChartLook'

/** The charts that hang on a topic, small; a click opens one where it's large. `lasting`: they may be taken off here. */
const { topic, lasting = false } = defineProps<{ topic: Topic; lasting?: boolean }>()
const emit = defineEmits<{ opened: [] }>()
const desk = useDesk()
const look = useChartLook(desk)
const charts = computed(() => {
  void desk.tick.value
  const plan = planNow(desk)
  return inOrder(topic.charts).map(one => {
    const chart = chartOf(desk.tree, figuresOf(desk), topic.id, one, id => plan?.tasks.get(id)?.finish ?? null)
    const why = chart && emptinessOf(chart)
    return {
      one,
      name: chart ? `${kindName(one.kind)}: ${chart.measure.name}` : kindName(one.kind),
      empty: chart === null ? 'Its measure isn’t there any more.' : why ? EMPTY_WORDS[why] : '',
      option: chart ? chartOption(chart, look.value, { locale: ownLocale(), day: dayInWords, small: true }) : {},
    }
  })
})
const may = computed(() => lasting && desk.status.ready && desk.session.canEdit)
function open({ kind, measure, each }: HungChart): void {
  showChart(desk, { at: topic.id, kind, measure, each })
  emit('opened')
}
function off({ id }: HungChart): void {
  if (desk.guard()) desk.run({ changes: [{ op: 'take', topic: topic.id, set: 'charts', member: id }] })
}
</script>

<template>
  <div class="hung">
    <figure v-for="{ one, name, empty, option } in charts" :key="one.id">
      <figcaption>
        <button class="plain" :aria-label="`Open the chart ${name}`" @click="open(one)">{{ name }}</button>
        <button v-if="may" class="icon-button" :aria-label="`Take the chart ${name} off`" @click="off(one)">
          <Icon name="lucide:x" size="14" />
        </button>
      </figcaption>
      <p v-if="empty" class="quiet">{{ empty }}</p>
      <div v-else class="drawn">
        <VChart :option="option" autoresize :aria-label="`${name} of ${topic.title}`" />
      </div>
    </figure>
  </div>
</template>

<style scoped>
.hung {
  display: grid;
  gap: 10px;
}
figure {
  margin: 0;
  min-width: 0;
}
figcaption {
  display: flex;
  justify-content: space-between;
  align-items: center;
  font-size: 13px;
}
.plain {
  font-size: 13px;
  min-height: 28px;
}
.drawn {
  height: 190px;
}
p {
  margin: 0;
  font-size: 12.5px;
}
</style>
