<script setup lang="ts">
import { type Difference, fieldInWords } from '#core/compare/differences'
import { headOf, timeOf } from '#core/formats/minutes-markdown'
import { handTo } from '#core/meeting/agenda'
import { deliveredInWords } from '#core/meeting/delivered'
import { INTENT_NAMES } from '#core/meeting/invitation'
import { minutesOf } from '#core/meeting/minutes'
import { readDay } from '#core/schedule/day-words'
import type { TopicId } from '#core/tree'
import { fetchFile, saveFile } from '~/handing/making'
import { useMeeting } from '~/meeting/useMeeting'
import { STANDING_ICONS } from './delivered-icons'

/** The minutes, assembled from the meeting's topics and changed as the topics they are. */
const meeting = useMeeting()
const emit = defineEmits<{ next: [] }>()
const { desk, brief, may, busy } = meeting
const minutes = computed(() => {
  void desk.lateTick.value
  return meeting.id.value !== null && desk.tree.topics.has(meeting.id.value)
    ? minutesOf(desk.tree, meeting.id.value, desk.nameOf, meeting.zone.value)
    : null
})
/** The tree's template that the Word document is written into. */
const template = ref<string | null>(null)
const address = (format: string): string =>
  `/api/trees/${desk.session.treeId}/meetings/${meeting.id.value}/minutes/${format}${
    format === 'docx' && template.value !== null ? `?template=${template.value}` : ''
  }`
const DOCUMENTS = [
  { format: 'docx', name: 'Word document' },
  { format: 'pdf', name: 'PDF' },
  { format: 'markdown', name: 'Markdown' },
  { format: 'tasks', name: 'Tasks for a calendar' },
] as const

/** Which is being made. */
const making = ref<string | null>(null)
/** As the link would, but what goes wrong is said here and not by a page without a way back. */
async function save(format: string): Promise<void> {
  if (making.value !== null) return
  making.value = format
  try {
    saveFile(await fetchFile(address(format)))
  } catch (error) {
    desk.say((error as Error).message)
  } finally {
    making.value = null
  }
}

// — The letters, seen before they go
interface Preview {
  readonly to: readonly string[]
  readonly without: readonly string[]
  readonly subject: string
  readonly text: string
  readonly html: string
}
const preview = shallowRef<Preview | null>(null)
async function mail(): Promise<void> {
  try {
    preview.value = await callApi<Preview>(`/api/trees/${desk.session.treeId}/meetings/${meeting.id.value}/letters`)
  } catch (error) {
    desk.say((error as Error).message)
  }
}
async function send(): Promise<void> {
  preview.value = null
  const done = await meeting.ask<{ letters: number }>('mail', 'letters')
  if (done)
    desk.say(
      `The minutes are out in ${done.letters} ${done.letters === 1 ? 'letter' : 'letters'}, each with that person’s actions first.`,
    )
}

defineExpose({ mail })
function keepTitle(id: TopicId, title: string, event: Event): void {
  const said = (event.target as HTMLInputElement).value.trim().toWellFormed()
  if (said !== '' && said !== title) desk.set('title', said, [id])
}
const people = computed(() => {
  void desk.lateTick.value
  return [{ id: '', name: 'nobody yet' }, ...desk.status.people.map(({ id, name }) => ({ id, name }))]
})
function setDue(id: TopicId, before: string | null, event: Event): void {
  const field = event.target as HTMLInputElement
  const text = field.value.trim()
  const due = text === '' ? null : text === (before ? dayInWords(before) : '') ? before : readDay(text, daySense())
  if (text !== '' && due === null) {
    desk.say(`“${text}” isn’t a day. Write it like “fri” or “12 May”.`)
    field.value = before ? dayInWords(before) : ''
  } else if (due !== before) desk.set('due', due, [id])
}

// — What changed in the tree since
const since = shallowRef<readonly Difference[] | null>(null)
const sinceWrong = ref('')
async function showSince(): Promise<void> {
  sinceWrong.value = ''
  try {
    since.value = await callApi<Difference[]>(`/api/trees/${desk.session.treeId}/meetings/${meeting.id.value}/since`)
  } catch (error) {
    sinceWrong.value = (error as Error).message
  }
}
const inWords = ({ kind, fields, was }: Difference): string =>
  kind === 'changed'
    ? [
        was !== null ? `was “${was}”` : '',
        fields
          .filter(one => one !== 'title')
          .map(fieldInWords)
          .filter((one, i, all) => all.indexOf(one) === i)
          .join(', '),
      ]
        .filter(Boolean)
        .join('; ')
    : ''
</script>

<template>
  <div v-if="minutes" class="minutes">
    <PorchDialog
      v-if="preview"
      header="The minutes as letters"
      :style="{ width: 'min(760px, 95vw)' }"
      @closed="preview = null">
      <p class="to"><b>To</b> {{ preview.to.join(', ') || 'nobody' }}</p>
      <p v-if="preview.without.length" class="quiet">
        Without an address, so without a letter: {{ preview.without.join(', ') }}.
      </p>
      <p class="to"><b>Subject</b> {{ preview.subject }}</p>
      <p class="quiet">As it comes to you; each gets their own actions first.</p>
      <iframe class="letter" :srcdoc="preview.html" sandbox="" title="The letter" />
      <template #footer>
        <Button text label="Not yet" @click="preview = null" />
        <Button
          data-first
          :label="`Send ${preview.to.length === 1 ? 'it' : `${preview.to.length} letters`}`"
          :disabled="preview.to.length === 0"
          @click="send" />
      </template>
    </PorchDialog>
    <article>
      <header>
        <h1>{{ minutes.title }}</h1>
        <dl>
          <template v-for="[name, value] in headOf(minutes)" :key="name"
            ><dt>{{ name }}</dt>
            <dd>{{ value }}</dd></template
          >
        </dl>
      </header>
      <p v-if="brief.stage === 'planned'" class="quiet">
        It hasn’t been held yet; this is what the record will look like.
      </p>
      <section v-if="minutes.musts.length">
        <h2>What was to be settled</h2>
        <ul class="musts">
          <li v-for="must in minutes.musts" :key="must.text">
            <Icon :name="STANDING_ICONS[must.is ?? 'open']" size="16" :class="{ ok: must.is === 'reached' }" /><span
              ><b>{{ must.text }}</b
              >: {{ deliveredInWords(must) }}</span
            >
          </li>
        </ul>
      </section>
      <section v-if="minutes.actions.length">
        <h2>Actions</h2>
        <table>
          <thead>
            <tr>
              <th scope="col">What</th>
              <th scope="col">Who</th>
              <th scope="col">Due</th>
              <th scope="col">From</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in minutes.actions" :key="one.id">
              <td>
                <input
                  v-kept="one.title"
                  :readonly="!may"
                  :aria-label="`Action: ${one.title}`"
                  @blur="keepTitle(one.id, one.title, $event)"
                  @keydown.enter="($event.target as HTMLElement).blur()" />
              </td>
              <td>
                <Select
                  :model-value="one.ownerIds[0] ?? ''"
                  :options="people"
                  option-label="name"
                  option-value="id"
                  size="small"
                  placeholder="nobody yet"
                  :disabled="!may"
                  :class="{ missing: one.ownerIds.length === 0 }"
                  :aria-label="`Who does ${one.title}`"
                  @update:model-value="meeting.run(handTo({ id: one.id, people: one.ownerIds }, $event || null))" />
              </td>
              <td>
                <input
                  class="due"
                  v-kept="one.due ? dayInWords(one.due) : ''"
                  placeholder="no date"
                  :readonly="!may"
                  :aria-label="`Due day of ${one.title}`"
                  @blur="setDue(one.id, one.due, $event)"
                  @keydown.enter="($event.target as HTMLElement).blur()" />
              </td>
              <td class="quiet">{{ one.item }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <section v-for="item in minutes.items" :key="item.id">
        <h2>
          <span class="n">{{ item.number }}</span><input
            v-kept="item.title"
            :readonly="!may"
            :aria-label="`Item ${item.number}`"
            @blur="keepTitle(item.id, item.title, $event)"
            @keydown.enter="($event.target as HTMLElement).blur()" />
        </h2>
        <p class="about">
          {{ [INTENT_NAMES[item.intent], item.owners.join(', '), timeOf(item)].filter(Boolean).join(' · ') }}
        </p>
        <p v-if="item.note" class="note">{{ item.note }}</p>
        <ul v-if="item.prepared.length" class="prepared">
          <li v-for="part in item.prepared" :key="part.id" :style="{ marginLeft: `${part.level * 18}px` }">
            <b v-if="part.level === 0">{{ part.title }}</b><template v-else>{{ part.title }}</template>
            <p v-if="part.note" class="note">{{ part.note }}</p>
          </li>
        </ul>
        <MeetingRecord :under="item.id" />
        <p v-if="item.files.length || item.links.length" class="quiet small">
          {{ [...item.files.map(one => one.name), ...item.links.map(one => one.words)].join(' · ') }}
        </p>
      </section>
      <section v-if="minutes.besides.length"><MeetingRecord :under="null" title="Besides" /></section>
    </article>
    <aside>
      <h2>Give it out</h2>
      <template v-for="one in DOCUMENTS" :key="one.format">
        <a
          :href="address(one.format)"
          download
          :aria-busy="making === one.format"
          @click.exact.prevent="save(one.format)"
          ><Icon name="lucide:download" size="15" /> {{ one.name
          }}<span v-if="making === one.format" class="quiet"> is being made …</span></a
        >
        <LazyTemplatePart v-if="one.format === 'docx'" v-model="template" what="minutes" :headings="2" />
      </template>
      <Button
        v-if="may"
        label="Mail to everybody"
        size="small"
        :disabled="brief.stage !== 'ended' || busy !== ''"
        @click="mail" />
      <MeetingAttendance class="came" />
      <h2>Go on</h2>
      <button
        v-if="may && brief.stage === 'ended'"
        class="plain"
        :disabled="busy !== ''"
        @click="meeting.move({ to: 'reopen' })">
        It isn’t over yet: go on with it
      </button>
      <Button
        v-if="may"
        label="Next meeting"
        size="small"
        outlined
        :disabled="brief.stage !== 'ended'"
        @click="emit('next')" />
      <PlanSlips
        v-if="brief.run && desk.tree.fields.planFrom !== null"
        :since="brief.run.version"
        head="The plan since it began" />
      <h2>The tree since it began</h2>
      <Button v-if="!since" label="What has changed" size="small" outlined :disabled="!brief.run" @click="showSince" />
      <p v-if="sinceWrong" class="wrong" role="alert">{{ sinceWrong }}</p>
      <p v-if="since?.length === 0" class="quiet">Nothing.</p>
      <ul v-if="since" class="since">
        <li v-for="one in since.slice(0, 300)" :key="one.kind + one.id">
          <button
            :disabled="one.kind === 'removed'"
            @click="
              () => {
                desk.view.value = 'canvas'
                desk.visit(one.id)
              }
            ">
            <i :class="one.kind">{{ one.kind }}</i> {{ one.title || 'untitled'
            }}<small>{{ inWords(one) || one.path.slice(-2).join(' › ') }}</small>
          </button>
        </li>
      </ul>
      <p v-if="since && since.length > 300" class="quiet">and {{ since.length - 300 }} more</p>
      <button v-if="since" class="plain" @click="showSince">Look again</button>
    </aside>
  </div>
</template>

<style scoped src="./MeetingMinutes.css"></style>
