<script setup lang="ts">
import {
  BORDERS,
  depthOf,
  drawnStyle,
  type Look,
  lookOf,
  PLAIN_STYLE,
  SHAPES,
  type Style,
  styleOf,
  topicOf,
  type Typeface,
} from '#core/tree'
import { wearOf } from '#core/dress/wear'
import { useDesk } from '~/desk/desk'
import LanguageRow from './LanguageRow.vue'
import TypefaceRow from './TypefaceRow.vue'
import {
  changeLook,
  copyStyle,
  dropLook,
  looksOf,
  pasteStyle,
  saveLook,
  undress,
  wear,
  wearLevel,
  wearLook,
} from './wardrobe'

/** What dresses the selection, its branches, its level, or the whole tree. */
const desk = useDesk()
const may = computed(() => desk.status.ready && desk.session.canEdit)
const reach = ref<'topic' | 'branch' | 'level' | 'tree'>('topic')
const REACHES = [
  ['topic', 'Topic'],
  ['branch', 'Branch'],
  ['level', 'Its level'],
  ['tree', 'Whole tree'],
] as const

const topic = computed(() => {
  void desk.lateTick.value
  return desk.tree.topics.get(desk.focus.value) ?? topicOf(desk.tree, desk.tree.centre)
})
const level = computed(() => depthOf(desk.tree, topic.value.id))
function styleNow(): Style {
  const { levels } = desk.tree.fields
  const now = desk.tree.topics.get(topic.value.id) ?? topic.value
  return reach.value === 'level' ? drawnStyle({ ...now, ...PLAIN_STYLE }, level.value, levels) : styleOf(now)
}
const style = computed(() => {
  void desk.lateTick.value
  return styleNow()
})
const hues = computed(() => {
  void desk.lateTick.value
  return desk.dressing.wear.hues
})

function give(part: Partial<Style>): void {
  if (reach.value === 'level') wearLevel(desk, level.value, part)
  else wear(desk, part, reach.value === 'branch')
}
const flip = (name: 'bold' | 'slanted' | 'underlined'): void => give({ [name]: !styleNow()[name] })
const SIZES = [
  ['small', 'Small'],
  [null, 'Usual'],
  ['large', 'Large'],
  ['huge', 'Huge'],
] as const
const SHAPE_NAMES: Record<string, string> = {
  box: 'Box',
  round: 'Rounded',
  tag: 'Luggage tag',
  slate: 'Slate',
  awning: 'Awning',
  ticket: 'Ticket',
}
const BORDER_NAMES: Record<string, string> = { thin: 'Thin', thick: 'Thick', dashed: 'Dashed', double: 'Double' }
const COLOURS = [
  ['fill', 'Ground'],
  ['ink', 'Text'],
  ['edge', 'Edge'],
] as const

function setHue(hue: string | null): void {
  desk.set('hue', hue)
}

const looks = computed(() => {
  void desk.lateTick.value
  return looksOf(desk)
})
const look = computed(() => {
  void desk.lateTick.value
  return lookOf(desk.tree.fields)
})
const own = computed(() => {
  // Read before the search: of an empty list nothing would be read, and nothing looked at again.
  const { id } = look.value
  return desk.tree.fields.looks.some(one => one.id === id)
})
const newName = ref('')
function save(): void {
  if (!newName.value.trim()) return
  saveLook(desk, newName.value.trim().slice(0, 60))
  newName.value = ''
}
const sample = (one: Look) => wearOf(one, false)
// What is shown follows the tree a frame later; a change is made to what is there.
function setLookColour(part: 'page' | 'plank' | 'ink' | 'centre' | number, event: Event): void {
  const { value } = event.target as HTMLInputElement
  const now = lookOf(desk.tree.fields)
  changeLook(desk, typeof part === 'number' ? { ...now, hues: now.hues.with(part, value) } : { ...now, [part]: value })
}
function setLookTypeface(typeface: Typeface | null): void {
  const { typeface: _, ...rest } = lookOf(desk.tree.fields)
  changeLook(desk, typeface === null ? rest : { ...rest, typeface })
}
</script>

<template>
  <div class="dress" data-named-panel>
    <NameField placeholder="Style: a few letters, Enter" />
    <div class="segments" role="group" aria-label="What is dressed">
      <button v-for="[id, name] in REACHES" :key="id" :aria-pressed="reach === id" @click="reach = id">
        {{ name }}
      </button>
    </div>
    <template v-if="reach !== 'tree'">
      <div v-for="[part, name] in COLOURS" :key="part" class="row dots" role="group" :aria-label="`${name} colour`">
        <span>{{ name }}</span>
        <button
          v-for="(hue, i) in hues"
          :key="i"
          class="dot"
          :style="{ background: hue }"
          :disabled="!may"
          :aria-label="`${name}: palette colour ${i + 1}`"
          :aria-pressed="style[part] === String(i)"
          @click="give({ [part]: String(i) })" />
        <label
          class="dot any"
          :class="{ on: style[part]?.startsWith('#') }"
          :style="{ background: style[part]?.startsWith('#') ? style[part]! : undefined }"
          ><input
            type="color"
            :aria-label="`${name}: any colour`"
            :disabled="!may"
            :value="style[part]?.startsWith('#') ? style[part]! : '#888888'"
            @change="give({ [part]: ($event.target as HTMLInputElement).value })"
        /></label>
        <button
          class="dot none"
          :disabled="!may"
          :aria-label="`${name}: none of its own`"
          :aria-pressed="style[part] === null"
          @click="give({ [part]: null })" />
      </div>
      <TypefaceRow
        label="Letters of the titles"
        :now="style.typeface"
        :may="may"
        @chosen="give({ typeface: $event })" />
      <div class="row">
        <span>Text</span>
        <button
          v-for="[size, name] in SIZES"
          :key="name"
          class="word"
          :disabled="!may"
          :aria-pressed="style.textSize === size"
          @click="give({ textSize: size })">
          {{ name }}
        </button>
      </div>
      <div class="row">
        <span />
        <button class="word" :disabled="!may" :aria-pressed="style.bold" @click="flip('bold')"><b>Bold</b></button>
        <button class="word" :disabled="!may" :aria-pressed="style.slanted" @click="flip('slanted')">
          <i>Slanted</i>
        </button>
        <button class="word" :disabled="!may" :aria-pressed="style.underlined" @click="flip('underlined')">
          <u>Underlined</u>
        </button>
      </div>
      <div class="row">
        <span>Shape</span>
        <button class="word" :disabled="!may" :aria-pressed="style.shape === null" @click="give({ shape: null })">
          Plank
        </button>
        <button
          v-for="shape in SHAPES"
          :key="shape"
          class="word"
          :disabled="!may"
          :aria-pressed="style.shape === shape"
          @click="give({ shape })">
          {{ SHAPE_NAMES[shape] }}
        </button>
      </div>
      <div class="row">
        <span>Border</span>
        <button class="word" :disabled="!may" :aria-pressed="style.border === null" @click="give({ border: null })">
          None
        </button>
        <button
          v-for="border in BORDERS"
          :key="border"
          class="word"
          :disabled="!may"
          :aria-pressed="style.border === border"
          @click="give({ border })">
          {{ BORDER_NAMES[border] }}
        </button>
      </div>
      <div class="row">
        <span>Width</span>
        <input
          type="range"
          min="100"
          max="700"
          step="10"
          :value="style.width ?? 280"
          :disabled="!may"
          aria-label="Widest the text may run"
          @change="give({ width: Number(($event.target as HTMLInputElement).value) })" />
        <button class="word" :disabled="!may || style.width === null" @click="give({ width: null })">
          {{ style.width === null ? 'usual' : 'reset' }}
        </button>
      </div>
      <div v-if="reach !== 'level'" class="row dots" role="group" aria-label="Branch colour">
        <span>Branch</span>
        <button
          v-for="(hue, i) in hues"
          :key="i"
          class="dot"
          :style="{ background: hue }"
          :disabled="!may"
          :aria-label="`Branch: palette colour ${i + 1}`"
          :aria-pressed="topic.hue === String(i)"
          @click="setHue(String(i))" />
        <label class="dot any"
          ><input
            type="color"
            aria-label="Branch: any colour"
            :disabled="!may"
            :value="topic.hue?.startsWith('#') ? topic.hue : '#888888'"
            @change="setHue(($event.target as HTMLInputElement).value)"
        /></label>
        <button
          class="dot none"
          :disabled="!may"
          aria-label="Branch: as its place has it"
          :aria-pressed="topic.hue === null"
          @click="setHue(null)" />
      </div>
      <LanguageRow v-if="reach !== 'level'" :reach="reach" />
      <div v-if="reach !== 'level'" class="row ends">
        <button class="word" @click="copyStyle(desk)">Copy style</button>
        <button class="word" :disabled="!may" @click="pasteStyle(desk)">Paste style</button>
        <button class="word" :disabled="!may" @click="undress(desk)">Take off</button>
      </div>
      <p v-else class="quiet hint">For every topic on level {{ level }} that has no style of its own.</p>
    </template>
    <template v-else>
      <LanguageRow reach="tree" />
      <div class="looks" role="group" aria-label="Looks">
        <button
          v-for="one in looks"
          :key="one.id"
          :disabled="!may"
          :aria-pressed="look.id === one.id"
          @click="wearLook(desk, one.id)">
          <span class="swatch" :style="{ background: sample(one).page }" aria-hidden="true"
            ><i :style="{ background: sample(one).centre }" /><i
              v-for="n in 4"
              :key="n"
              class="bit"
              :style="{ background: sample(one).plank, borderColor: sample(one).hues[n - 1] }" /></span
          >{{ one.name }}
        </button>
      </div>
      <template v-if="own && may">
        <div class="row">
          <span>Ground</span
          ><label v-for="part in ['page', 'plank', 'ink', 'centre'] as const" :key="part" class="named"
            ><input
              type="color"
              :value="look[part]"
              :aria-label="`Look: ${part}`"
              @change="setLookColour(part, $event)" />{{ part }}</label
          >
        </div>
        <div class="row dots">
          <span>Palette</span
          ><label v-for="(hue, i) in look.hues" :key="i" class="dot" :style="{ background: hue }"
            ><input
              type="color"
              :value="hue"
              :aria-label="`Look: palette colour ${i + 1}`"
              @change="setLookColour(i, $event)"
          /></label>
        </div>
        <TypefaceRow
          label="Look: letters of the titles"
          :now="look.typeface ?? null"
          :may="may"
          @chosen="setLookTypeface" />
        <button class="word" @click="dropLook(desk, look.id)">Remove the look “{{ look.name }}”</button>
      </template>
      <form v-if="may" class="row" @submit.prevent="save">
        <InputText
          v-model="newName"
          size="small"
          maxlength="60"
          placeholder="Name for what it wears now"
          aria-label="Name of the new look" />
        <Button type="submit" size="small" outlined label="Save look" :disabled="!newName.trim()" />
      </form>
    </template>
  </div>
</template>

<style scoped src="./DressPanel.css"></style>
