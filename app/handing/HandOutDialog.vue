<script setup lang="ts">
import { type Choice, KIND_NAMES, KINDS, type Kind, LANGUAGES, TAKEN, type Taken } from '#core/handing/choice'
import { LANGUAGE_NAMES } from '#core/handing/words'
import { useDesk } from '~/desk/desk'
import { usePage } from '~/page/page'
import { CLIPBOARD, makeFile } from './making'
import { useHandOut } from './useHandOut'
import { useMade } from './useMade'

/** One place for whatever leaves the tree: a sentence that one edits in place says what, how much of it, and as what. */
const visible = defineModel<boolean>('visible', { required: true })
const desk = useDesk()
const page = usePage()
const handing = useHandOut(desk)
const {
  choice,
  parts,
  partKey,
  guess,
  kind,
  holds,
  toggle,
  whole,
  wholeOrSay,
  make,
  busy,
  wrong,
  done,
  save,
  copy,
  cancel,
  kept,
  keep,
  forget,
} = handing

const GROUPS: readonly (readonly [string, (typeof KINDS)[Kind]['group']])[] = [
  ['Documents', 'document'],
  ['Pictures', 'picture'],
  ['Outlines', 'outline'],
]
const WORDS: Readonly<Record<Taken, string>> = {
  notes: 'Notes',
  tasks: 'Tasks, people, dates',
  markers: 'Markers',
  key: 'Key of the markers',
  links: 'Links and places',
  files: 'Files',
  pictures: 'Pictures and sketches',
  comments: 'Comments',
  'cross-links': 'Cross-links',
  numbers: 'Numbers',
  figures: 'Figures',
}
const isPicture = computed(() => kind.value.group === 'picture')
const isText = computed(() => kind.value.group === 'document' || choice.as === 'markdown')
/** Bars are drawn where there is a plan. */
const hasPlan = computed(() => {
  void desk.lateTick.value
  return desk.tree.fields.planFrom !== null
})
const name = ref('')
const mailing = ref(false)
const mayKeep = computed(() => desk.status.ready && desk.session.canEdit)
watch(
  visible,
  now => {
    if (!now) return
    handing.takeWanted()
    guess()
    done.value = wrong.value = ''
  },
  { immediate: true },
)
watch(visible, now => {
  if (!now) cancel()
})
/** What goes onto the projector itself, step by step: the tree, a branch, or what a filter or a selection leaves of it. */
const PROJECTED = new Set(['tree', 'branch', 'filter', 'selection'])
function present(): void {
  const part = whole()?.part
  const through = partKey.value === 'filter' ? desk.finding.matches.value : desk.selected()
  visible.value = false
  if (part?.kind === 'branch') desk.showOnly(part.topic)
  page.present(null, partKey.value === 'filter' || partKey.value === 'selection' ? [...through] : null)
}
const earlier = useMade(desk.session.treeId, visible)
/** What takes long is left to be made; whoever asked for it hears of it by letter. */
async function meanwhile(): Promise<void> {
  const wanted = wholeOrSay()
  if (!wanted) return
  cancel()
  if (await earlier.begin(wanted)) done.value = 'It’s being made. Go on: a letter says when it’s there.'
}
function keepNow(): void {
  keep(name.value)
  name.value = ''
}

// — What a picture will be, before it's made
const seen = ref('')
const trouble = ref('')
let looking = new AbortController()
let timer = 0
const wanted = computed(() => {
  const now = visible.value && isPicture.value ? whole() : null
  return now ? JSON.stringify({ ...now, as: 'svg' }) : ''
})
function drop(): void {
  if (seen.value) URL.revokeObjectURL(seen.value)
  seen.value = ''
}
watch(
  wanted,
  now => {
    looking.abort()
    clearTimeout(timer)
    trouble.value = ''
    if (now === '') {
      drop()
      return
    }
    timer = window.setTimeout(async () => {
      looking = new AbortController()
      try {
        const { blob } = await makeFile(desk.session.treeId, JSON.parse(now) as Choice, looking.signal)
        drop()
        seen.value = URL.createObjectURL(blob)
      } catch (error) {
        if ((error as Error).name !== 'AbortError') trouble.value = (error as Error).message
      }
    }, 350)
  },
  { immediate: true },
)
onBeforeUnmount(() => {
  looking.abort()
  clearTimeout(timer)
  drop()
})
</script>

<template>
  <PorchDialog v-model:visible="visible" dismissable-mask header="Hand out" :style="{ width: 'min(720px, 96vw)' }">
    <p v-if="kept.length" class="kept" role="group" aria-label="Handed out before">
      <span v-for="one in kept" :key="one.id" class="again">
        <button :disabled="busy" :data-tip="`${KINDS[one.choice.as].name}, at once`" @click="save(one.choice)">
          <Icon name="lucide:rotate-ccw" size="13" />{{ one.name }}
        </button>
        <button v-if="mayKeep" class="away" :aria-label="`Forget ${one.name}`" @click="forget(one.id)">
          <Icon name="lucide:x" size="12" />
        </button>
      </span>
    </p>
    <MadePart :of="earlier" />
    <p class="sentence">
      Hand out
      <select v-model="partKey" data-first aria-label="What">
        <option v-for="one in parts" :key="one.key" :value="one.key">{{ one.name }}</option></select
      >,
      <select v-model="choice.depth" aria-label="How deep">
        <option :value="null">all levels</option>
        <option v-for="n in 6" :key="n" :value="n">{{ n }} {{ n === 1 ? 'level' : 'levels' }} deep</option></select
      >, as
      <select v-model="choice.as" aria-label="As what">
        <optgroup v-for="[title, group] in GROUPS" :key="group" :label="title">
          <option v-for="one in KIND_NAMES.filter(each => KINDS[each].group === group)" :key="one" :value="one">
            {{ KINDS[one].name }} (.{{ KINDS[one].extension }})
          </option>
        </optgroup></select
      ><template v-if="isText"
        >, in
        <select v-model="choice.language" aria-label="Language of its own words">
          <option v-for="one in LANGUAGES" :key="one" :value="one">{{ LANGUAGE_NAMES[one] }}</option>
        </select></template
      >.
    </p>
    <div class="along" role="group" aria-label="What goes along">
      <button
        v-for="what in TAKEN"
        :key="what"
        :aria-pressed="choice.with.includes(what) && holds(what)"
        :disabled="!holds(what)"
        :data-tip="holds(what) ? undefined : `${kind.name}: can’t hold these`"
        @click="toggle(what)">
        <Icon :name="choice.with.includes(what) && holds(what) ? 'lucide:check' : 'lucide:minus'" size="13" />{{
          WORDS[what]
        }}
      </button>
    </div>
    <div class="more">
      <label v-if="isText && choice.as !== 'pptx'"
        >Headings down to
        <select v-model="choice.headings">
          <option :value="0">no level: a list</option>
          <option v-for="n in 9" :key="n" :value="n">level {{ n }}</option>
        </select></label
      >
      <label v-if="choice.as === 'markdown'"
        >Notes as
        <select v-model="choice.notesAs">
          <option value="fitting">paragraphs, in lists quotes</option>
          <option value="paragraphs">paragraphs</option>
          <option value="quotes">quotes</option>
        </select></label
      >
      <label v-if="kind.group === 'document'"
        ><input v-model="choice.drawn" type="checkbox" /> The picture at the front</label
      >
      <template v-if="isPicture">
        <label v-if="hasPlan"
          >It shows
          <select v-model="choice.shows">
            <option value="tree">the tree, as it’s laid out</option>
            <option value="bars">the schedule, as bars</option>
          </select></label
        >
        <label><input v-model="choice.dusk" type="checkbox" /> By dusk</label>
        <label><input v-model="choice.clear" type="checkbox" /> No ground</label>
        <label v-if="choice.as === 'png'"
          >Fineness
          <select v-model="choice.scale">
            <option v-for="n in 4" :key="n" :value="n">{{ n }} ×</option>
          </select></label
        >
        <label v-else><input v-model="choice.shapes" type="checkbox" /> Letters as shapes</label>
        <label v-if="choice.as === 'sheet'"
          >Paper
          <select v-model="choice.paper">
            <option :value="null">one page of its size</option>
            <option value="a4">A4, tiled</option>
            <option value="a3">A3, tiled</option>
            <option value="letter">Letter, tiled</option>
          </select></label
        >
      </template>
    </div>
    <LazyTemplatePart
      v-if="choice.as === 'docx' || choice.as === 'pptx'"
      :key="choice.as"
      v-model="choice.template"
      :as="choice.as"
      what="tree"
      :headings="choice.headings" />
    <figure v-if="isPicture" class="look" :class="{ clear: choice.clear }">
      <img v-if="seen" :src="seen" alt="The picture as it will be" />
      <figcaption v-else class="quiet">{{ trouble || 'Drawing …' }}</figcaption>
    </figure>
    <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
    <p v-if="done" class="quiet done" role="status">{{ done }}</p>
    <footer class="to">
      <Button :label="busy ? 'Making it …' : 'To my machine'" :disabled="busy" @click="save()" />
      <Button v-if="CLIPBOARD[choice.as]" label="To the clipboard" outlined :disabled="busy" @click="copy" />
      <PrintPart
        :wanted="wholeOrSay"
        :is-picture="isPicture"
        :make="make"
        :busy="busy"
        @said="done = $event"
        @failed="wrong = $event" />
      <Button label="By mail" outlined :aria-expanded="mailing" @click="mailing = !mailing" />
      <Button v-if="PROJECTED.has(partKey)" label="To the projector" outlined @click="present" />
      <template v-if="busy">
        <button class="plain" @click="cancel">Stop</button>
        <button class="plain" @click="meanwhile">Meanwhile I do something else</button>
      </template>
      <span class="grow" />
      <form v-if="mayKeep" class="keep" @submit.prevent="keepNow">
        <input
          v-model="name"
          maxlength="120"
          placeholder="Keep this under a name"
          aria-label="Keep this under a name" />
        <button class="plain" :disabled="name.trim() === ''">Keep</button>
      </form>
    </footer>
    <LazyMailPart
      v-if="mailing"
      :wanted="wholeOrSay"
      :make="make"
      :busy="busy"
      @said="done = $event"
      @failed="wrong = $event" />
    <LazyGuestLinksPart
      v-if="desk.status.role === 'owner'"
      :part="whole()?.part ?? null"
      :along="choice.with"
      :what="parts.find(one => one.key === partKey)?.name ?? 'what was chosen'" />
  </PorchDialog>
</template>

<style scoped src="./HandOutDialog.css"></style>
