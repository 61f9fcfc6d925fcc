<script setup lang="ts">
import { isTemplateFor } from '#core/handing/choice'
import { lacksInWords, TEMPLATE_FIELDS, type TemplateSaid, type TemplateUse } from '#core/handing/template'
import { useDesk } from '~/desk/desk'
import { bringTemplate, saidOf, useOwnTemplates } from './templates'

/** In whose look a Word document is written, or whose theme slides wear: as it looks by itself, or by a template that the tree keeps, or oneself. */
const chosen = defineModel<string | null>({ required: true })
const { as = 'docx', ...use } = defineProps<TemplateUse & { as?: 'docx' | 'pptx' }>()
const desk = useDesk()
const { busy, wrong, attempt } = useAttempt()
const templates = computed(() => {
  void desk.lateTick.value
  return desk.tree.fields.templates.filter(one => isTemplateFor(as, one))
})
const mine = useOwnTemplates()
const own = computed(() => mine.own.value.filter(one => isTemplateFor(as, one)))
void mine.look()
const isOwn = computed(() => own.value.some(({ id }) => id === chosen.value))
const template = computed(() => [...templates.value, ...own.value].find(({ id }) => id === chosen.value) ?? null)
const isSlides = computed(() => as === 'pptx')
const mayKeep = computed(() => desk.status.ready && desk.session.canEdit)
// Forgotten by somebody else meanwhile, or in another window.
watch([templates, own], () => {
  if (chosen.value !== null && !template.value) chosen.value = null
})
// A template for documents is none for slides, nor the other way round.
if ([...desk.tree.fields.templates, ...mine.own.value].some(one => one.id === chosen.value && !isTemplateFor(as, one)))
  chosen.value = null

const said = shallowRef<TemplateSaid | null>(null)
const lacks = computed(() => (said.value ? lacksInWords(said.value, use) : []))
watch(
  () => template.value?.file,
  async file => {
    said.value = null
    wrong.value = ''
    if (file === undefined) return
    try {
      const found = isOwn.value ? await mine.saidOf(template.value!) : await saidOf(desk, file)
      // Another one may have been chosen meanwhile.
      if (file === template.value?.file) said.value = found
    } catch (error) {
      if (file === template.value?.file) wrong.value = (error as Error).message
    }
  },
  { immediate: true },
)

const field = useTemplateRef<HTMLInputElement>('field')
/** For whom a Word document is brought: everybody of the tree, or oneself. */
let forMe = false
function choose(own: boolean): void {
  forMe = own
  field.value?.click()
}
async function bring(): Promise<void> {
  const file = field.value?.files?.[0]
  field.value!.value = ''
  if (!file || (!forMe && !desk.guard())) return
  await attempt(async () => {
    chosen.value = (await (forMe ? mine.bring(file) : bringTemplate(desk, file))).id
  })
}
async function forget(): Promise<void> {
  const { value } = template
  if (!value) return
  if (isOwn.value) {
    await attempt(async () => {
      await mine.forget(value.id)
      chosen.value = null
    })
    return
  }
  if (!desk.guard()) return
  desk.run({ changes: [{ op: 'tree-take', set: 'templates', member: value.id }] })
  chosen.value = null
  desk.say(`“${value.name}” is forgotten.`, true)
}
</script>

<template>
  <div class="template" role="group" aria-label="In whose look">
    <label
      >In the look of
      <select v-model="chosen" aria-label="Template">
        <option :value="null">Sun Porch</option>
        <option v-for="one in templates" :key="one.id" :value="one.id">{{ one.name }}</option>
        <optgroup v-if="own.length" label="Your own">
          <option v-for="one in own" :key="one.id" :value="one.id">{{ one.name }}</option>
        </optgroup>
      </select></label
    >
    <template v-if="desk.status.ready">
      <button v-if="mayKeep" type="button" class="plain" :disabled="busy" @click="choose(false)">
        {{ busy ? 'Reading it …' : `Bring ${isSlides ? 'slides' : 'a Word document'} …` }}
      </button>
      <button type="button" class="plain" :disabled="busy" @click="choose(true)">
        {{ busy && !mayKeep ? 'Reading it …' : 'one for me alone …' }}
      </button>
      <button
        v-if="template && (isOwn || mayKeep)"
        type="button"
        class="away"
        :aria-label="`Forget the template ${template.name}`"
        :data-tip="`Forget “${template.name}”`"
        @click="forget">
        <Icon name="lucide:x" size="13" />
      </button>
      <input
        ref="field"
        type="file"
        hidden
        :accept="
          isSlides
            ? '.pptx,.potx'
            : '.docx,.dotx,application/vnd.openxmlformats-officedocument.wordprocessingml.document'
        "
        :aria-label="isSlides ? 'Slides to use the theme of' : 'Word document to use as a template'"
        @change="bring" />
    </template>
    <ul v-if="lacks.length" aria-label="What the template lacks">
      <li v-for="one in lacks" :key="one">{{ one }}</li>
    </ul>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <p v-if="said?.theme" class="theme">
      <span
        v-for="(hue, i) in [said.theme.ground, said.theme.ink, said.theme.cover, ...said.theme.hues]"
        :key="i"
        class="swatch"
        :style="{ background: hue }" />
      {{ [...new Set([said.theme.heading, said.theme.body])].filter(Boolean).join(', ') }}
    </p>
    <details v-if="!isSlides">
      <summary>What can stand in a template</summary>
      <p>
        Its paper, styles, header, footer and pictures stay. Where these stand comes what they name; what is more than a
        few words needs a line of its own:
        <template v-for="(one, i) in TEMPLATE_FIELDS" :key="one"
          >{{ i > 0 ? ', ' : '' }}<code v-text="`{{${one}}}`" /></template
        >.
      </p>
    </details>
  </div>
</template>

<style scoped src="./fields.css"></style>
<style scoped>
.template {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: center;
  margin-bottom: 12px;
}
.away {
  border: 0;
  background: none;
  color: var(--quiet);
  cursor: pointer;
  min-width: 28px;
  min-height: 28px;
}
ul,
p,
details {
  flex-basis: 100%;
  margin: 0;
  font-size: 14px;
  color: var(--quiet);
}
ul {
  padding-left: 18px;
}
summary {
  cursor: pointer;
  width: fit-content;
}
.theme {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px;
}
.swatch {
  width: 18px;
  height: 18px;
  border: 1px solid var(--line);
}
.wrong {
  color: var(--clay);
}
code {
  color: var(--ink);
}
</style>
