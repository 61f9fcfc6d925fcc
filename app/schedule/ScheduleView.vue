<script setup lang="ts">
import { waitsAbroad } from '#core/schedule/abroad'
import { slipsSince } from '#core/schedule/baseline'
import type { NoPlan } from '#core/schedule/compiled'
import { brokenInWords, daysInWords, noPlanInWords } from '#core/schedule/plan-words'
import { shorten, type TopicId } from '#core/tree'
import { useDesk } from '~/desk/desk'
import { beginPlan } from './acting'
import { glanceAbroad, lookAgain } from './abroad'
import { planningOf } from './planning'
import { useBaseline } from './useBaseline'

/** When everything is: the plan of the tree, with its faces. */
defineEmits<{ menu: [event: MouseEvent] }>()
const desk = useDesk()
const planning = planningOf(desk)
const plan = computed(() => {
  void desk.tick.value
  return planning.get()
})
const on = computed(() => (typeof plan.value === 'string' ? null : plan.value))
/** Why there is none, where there is none. */
const why = computed<NoPlan>(() => (typeof plan.value === 'string' ? plan.value : 'off'))
const NO_PLAN_HEADS: Record<NoPlan, string> = {
  off: 'When can it be done?',
  'no-working-day': 'No day is worked on',
  'too-large': 'More than can be reckoned with',
}

const FACES = [
  { id: 'bars', name: 'Bars' },
  { id: 'calendar', name: 'Calendar' },
  { id: 'load', name: 'Load' },
  { id: 'chances', name: 'Chances' },
  { id: 'progress', name: 'Progress' },
] as const
const face = ref<(typeof FACES)[number]['id']>('bars')
const CalendarFace = defineAsyncComponent(() => import('./CalendarFace.vue'))
const LoadFace = defineAsyncComponent(() => import('./LoadFace.vue'))
const ProgressFace = defineAsyncComponent(() => import('./ProgressFace.vue'))
const ChancesFace = defineAsyncComponent(() => import('./ChancesFace.vue'))
const bars = ref<{ zoomBy(by: number | 'whole'): void; fit(): void; focus(): void; escape(): boolean }>()
const calendar = ref<{ escape(): boolean }>()
/** A title is typed where it can be seen: on the bars, or in the calendar, which also stands without a plan. */
watch(
  desk.editing,
  now => {
    if (now && face.value !== 'calendar' && (face.value !== 'bars' || !on.value))
      face.value = on.value ? 'bars' : 'calendar'
  },
  { immediate: true },
)

const said = computed(() => {
  if (!on.value) return null
  let [critical, late] = [0, 0]
  for (const one of on.value.tasks.values()) {
    if (one.critical) critical++
    if (one.late && one.state !== 'done') late++
  }
  return { tasks: on.value.tasks.size, finish: on.value.finish, critical, late, broken: on.value.broken }
})
const baseline = useBaseline(desk)
const slips = computed(() => (on.value && baseline.against.value ? slipsSince(on.value, baseline.against.value) : null))
const slipWords = computed(() => {
  if (!slips.value || !baseline.against.value) return ''
  const { whole } = slips.value
  const than = `“${baseline.against.value.name || 'as agreed'}”`
  return whole === 0
    ? `as early as in ${than}`
    : `${daysInWords(Math.abs(whole))} ${whole > 0 ? 'later' : 'sooner'} than ${than}`
})
const baselines = ref()
const settings = ref()
const brokenMenu = ref()
const speaker = { titleOf: (id: TopicId): string => shorten(desk.tree.topics.get(id)?.title || 'untitled', 40) }
function mend(by: TopicId): void {
  brokenMenu.value?.hide()
  desk.visit(by)
}

/** What waits for other trees, the soonest first. */
const abroad = computed(() => {
  void desk.tick.value
  return on.value ? waitsAbroad(desk.tree) : []
})
const abroadMenu = ref()

const stage = ref<HTMLElement>()
/** Where there are no rows, the keys still have a home. */
onMounted(() => {
  if ((!on.value || face.value !== 'bars') && !desk.editing.value) stage.value?.focus({ preventScroll: true })
  void glanceAbroad(desk)
})
watch(face, now => {
  if (now !== 'bars' && now !== 'calendar') stage.value?.focus({ preventScroll: true })
})
defineExpose({
  zoomBy: (by: number | 'whole') => bars.value?.zoomBy(by),
  fit: () => bars.value?.fit(),
  escape: () => (bars.value?.escape() || calendar.value?.escape()) ?? false,
})
</script>

<template>
  <section ref="stage" class="schedule" aria-label="Schedule of the tree" tabindex="-1" data-home>
    <header class="strip">
      <div class="faces" role="tablist" aria-label="Faces of the schedule">
        <button
          v-for="one in on ? FACES : FACES.slice(0, 2)"
          :key="one.id"
          role="tab"
          :aria-selected="face === one.id"
          :class="{ on: face === one.id }"
          @click="face = one.id">
          {{ one.name }}
        </button>
      </div>
      <p v-if="said" class="sum">
        <template v-if="said.finish"
          >All is done by <b>{{ dayInWords(said.finish) }}</b></template
        ><template v-else>Nothing is a task yet</template
        ><span v-if="said.critical" class="quiet"> · {{ said.critical }} must not slip</span
        ><span v-if="said.late" class="late"> · {{ said.late }} late</span
        ><span v-if="slipWords" :class="{ late: slips && slips.whole > 0 }"> · {{ slipWords }}</span>
      </p>
      <button v-if="said?.broken.length" class="plain broken" @click="brokenMenu.toggle($event)">
        <Icon name="lucide:unlink" size="14" />
        {{ said.broken.length === 1 ? 'One dependency' : `${said.broken.length} dependencies` }} can’t be kept to
      </button>
      <PorchPopover ref="brokenMenu">
        <ul v-if="said" class="mending" aria-label="Dependencies that can’t be kept to">
          <li v-for="one in said.broken" :key="`${one.by} ${one.wait.id}`">
            <button class="plain" @click="mend(one.by)">{{ brokenInWords(one, speaker) }}</button>
          </li>
        </ul>
      </PorchPopover>
      <button v-if="abroad.length" class="plain" @click="abroadMenu.toggle($event)">
        <Icon name="lucide:trees" size="14" />
        {{ abroad.length === 1 ? 'One waits' : `${abroad.length} wait` }} for other trees
      </button>
      <PorchPopover ref="abroadMenu">
        <AbroadList :waits="abroad" @gone="abroadMenu.hide()" @again="lookAgain(desk)" />
      </PorchPopover>
      <span class="grow" />
      <span v-if="on && face === 'bars'" class="together">
        <button class="icon-button" data-tip="Narrower days" aria-label="Narrower days" @click="bars?.zoomBy(0.5)">
          <Icon name="lucide:minus" size="15" />
        </button>
        <button class="icon-button" data-tip="Wider days" aria-label="Wider days" @click="bars?.zoomBy(2)">
          <Icon name="lucide:plus" size="15" />
        </button>
        <button class="plain" @click="bars?.fit()">Fit</button>
      </span>
      <template v-if="on">
        <button class="plain" @click="baselines.toggle($event)">Baselines …</button>
        <PorchPopover ref="baselines"
          ><BaselinePart :baseline="baseline" :slips="slips" @gone="baselines.hide()"
        /></PorchPopover>
        <button class="plain" @click="settings.toggle($event)">Working days …</button>
        <PorchPopover ref="settings"><PlanSettings @left="settings.hide()" /></PorchPopover>
      </template>
    </header>
    <BarsFace
      v-if="on && face === 'bars'"
      ref="bars"
      :plan="on"
      :against="baseline.against.value"
      @menu="$emit('menu', $event)" />
    <CalendarFace v-else-if="face === 'calendar'" ref="calendar" :plan="on" @menu="$emit('menu', $event)" />
    <LoadFace v-else-if="on && face === 'load'" :plan="on" />
    <ChancesFace v-else-if="on && face === 'chances'" :plan="on" />
    <ProgressFace v-else-if="on" :plan="on" :against="baseline.against.value" />
    <div v-else class="none">
      <h2>{{ NO_PLAN_HEADS[why] }}</h2>
      <p>{{ noPlanInWords(why) }}</p>
      <template v-if="why === 'off'">
        <p class="quiet">
          A plan says of every task when it can begin, what it waits for, what must not slip, and when all is done.
          Starts that were typed become “not before”, due dates stay deadlines. It can be switched off again.
        </p>
        <Button v-if="desk.session.canEdit" label="Begin a plan" @click="beginPlan(desk)" />
        <p v-else class="quiet">Whoever may edit the tree can begin one.</p>
      </template>
      <PlanSettings v-else-if="why === 'no-working-day'" />
    </div>
  </section>
</template>

<style scoped>
/* What belongs together goes to the next line together. */
.together {
  display: flex;
  align-items: center;
  gap: 4px;
}
.together .plain {
  min-width: 32px;
  text-align: center;
}
.schedule {
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
}
.late,
.broken {
  color: var(--clay);
  font-weight: 650;
}
.plain {
  font-size: 13px;
  min-height: 28px;
}
.plain.broken {
  color: var(--clay);
  display: inline-flex;
  gap: 5px;
  align-items: center;
}
.grow {
  flex: 1;
}
.mending {
  list-style: none;
  margin: 0;
  padding: 0;
  max-width: 380px;
}
@media (max-width: 700px) {
  .strip {
    gap: 2px 6px;
    padding: 2px 8px;
  }
  .sum {
    order: 1;
    width: 100%;
  }
}
.none {
  max-width: 480px;
  margin: 12vh auto 0;
  padding: 0 20px;
}
.none h2 {
  font: 650 24px/1.2 var(--display);
  margin: 0 0 8px;
}
</style>
