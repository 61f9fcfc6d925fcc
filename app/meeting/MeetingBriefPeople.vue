<script setup lang="ts">
import { addDays } from '#core/schedule/days'
import { readDay } from '#core/schedule/day-words'
import type { BriefPerson } from '#core/meeting/brief'
import { personName } from '#core/meeting/minutes'
import { settleWishes } from '#core/meeting/wishes'
import { unaskedOf } from '#core/access/groups'
import { readAddresses } from '#core/capture/addresses'
import type { Answer, Change } from '#core/tree'
import { newId } from '~/desk/new-id'
import { groupsOf, loadOwnGroups } from '~/share/own-groups'
import { ANSWER_WORDS, takeReply } from '~/meeting/replies'
import { useMeeting } from '~/meeting/useMeeting'

/** Who comes, what they answered, and what is sent to them. */
const meeting = useMeeting()
const { desk, brief, items, world, isOld, may, busy } = meeting

const PARTS = [
  { id: '', name: 'takes part' },
  { id: 'chair', name: 'chair' },
  { id: 'notes', name: 'note taker' },
]
const members = computed(() => {
  void desk.lateTick.value
  const asked = new Set(brief.value.people.map(({ user }) => user))
  return desk.status.people.filter(({ id }) => !asked.has(id))
})
function put(person: BriefPerson, next: Partial<Pick<BriefPerson, 'needed' | 'role'>> = {}): void {
  const { id, user, mail, name, needed, role } = meeting.briefNow().people.find(one => one.id === person.id) ?? person
  meeting.say({ id, kind: 'person', user, mail, name, needed, role, ...next })
}
const setRole = (person: BriefPerson, role: string): void =>
  put(person, { role: role === 'chair' || role === 'notes' ? role : null })

const fresh = ref('')
const wrong = ref('')
const offered = computed(() => {
  const text = fresh.value.trim().toLocaleLowerCase()
  return members.value.filter(({ name }) => text === '' || name.toLocaleLowerCase().includes(text)).slice(0, 8)
})
function add(): void {
  const text = fresh.value.trim()
  wrong.value = ''
  if (text === '' || !desk.guard()) return
  const member =
    members.value.find(({ name }) => name.toLocaleLowerCase() === text.toLocaleLowerCase()) ??
    (text.includes('@') ? undefined : offered.value[0])
  if (member) {
    addMember(member.id)
    return
  }
  if (!text.includes('@')) {
    // A name that nobody here has yet: it waits for whoever joins with it.
    if (
      meeting
        .briefNow()
        .people.some(person => person.user === null && person.name.toLocaleLowerCase() === text.toLocaleLowerCase())
    )
      wrong.value = `${text} is asked already.`
    else if (
      meeting.say({
        id: newId(),
        kind: 'person',
        user: null,
        mail: null,
        name: text.toWellFormed().slice(0, 200),
        needed: true,
        role: null,
      })
    )
      fresh.value = ''
    return
  }
  const { good, wrong: unread } = readAddresses(text)
  const asked = meeting.briefNow().people
  const known = (mail: string): string | undefined =>
    desk.status.people.find(person => person.email?.toLowerCase() === mail)?.id
  const added = good.filter(
    ({ mail }) => !asked.some(person => person.mail === mail || (person.user !== null && person.user === known(mail))),
  )
  if (unread.length > 0) wrong.value = `${unread.map(one => `“${one}”`).join(', ')} can’t be a mail address.`
  else if (added.length === 0) wrong.value = `${good[0]?.mail ?? text} is asked already.`
  if (
    meeting.id.value !== null &&
    added.length > 0 &&
    meeting.run(
      added.map(({ mail, name }): Change => {
        const user = known(mail) ?? null
        return {
          op: 'put',
          topic: meeting.id.value!,
          set: 'meeting',
          member: {
            id: newId(),
            kind: 'person',
            user,
            mail: user === null ? mail : null,
            name: user === null ? name : '',
            needed: true,
            role: null,
          },
        }
      }),
    )
  )
    fresh.value = unread.join(', ')
}
function addMember(user: string): void {
  if (meeting.briefNow().people.some(person => person.user === user)) return
  if (meeting.say({ id: newId(), kind: 'person', user, mail: null, name: '', needed: true, role: null }))
    fresh.value = ''
}
/** Groups that have somebody who isn't asked yet; whom they name by letters or all of them. */
const offeredGroups = computed(() => {
  void desk.lateTick.value
  const text = fresh.value.trim().toLocaleLowerCase()
  return groupsOf(desk)
    .filter(({ name, who }) => name.toLocaleLowerCase().includes(text) && unasked(who).length > 0)
    .slice(0, 5)
})
/** Of a group those who aren't asked yet: accounts of the tree, and addresses. */
function unasked(who: readonly string[]): string[] {
  const asked = new Set(brief.value.people.flatMap(({ user, mail }) => [user ?? mail ?? '']))
  return unaskedOf(who, desk.status.people, asked)
}
function addGroup(who: readonly string[]): void {
  const topic = meeting.id.value
  if (topic === null || !desk.guard()) return
  const added = unasked(who).map((entry): Change => {
    const user = entry.includes('@') ? null : entry
    return {
      op: 'put',
      topic,
      set: 'meeting',
      member: {
        id: newId(),
        kind: 'person',
        user,
        mail: user === null ? entry : null,
        name: '',
        needed: true,
        role: null,
      },
    }
  })
  if (added.length > 0 && meeting.run(added)) fresh.value = ''
}
onMounted(() => {
  // Without a line the tree's own are there all the same.
  void loadOwnGroups().catch(() => {})
})
/**
 * Whoever joined while this is open gets what was meant for them; the server does the same, so that it's done with no
 * browser open too.
 */
watch(
  () => desk.status.people,
  people => {
    if (may.value) meeting.run(settleWishes(desk.tree, people))
  },
)

// — What is sent
const by = ref('')
const byDay = computed(() =>
  by.value.trim() === ''
    ? brief.value.begins
      ? addDays(brief.value.begins.day, -1)
      : null
    : readDay(by.value, daySense()),
)
async function request(): Promise<void> {
  if (!byDay.value) {
    desk.say('By which day? Write it like “fri” or “12 May”.')
    return
  }
  const done = await meeting.ask<{ asked: number }>('request', 'requests', { by: byDay.value })
  if (done)
    desk.say(
      done.asked === 0
        ? 'Nobody was left to ask: each owner has been asked for that day, or is ready.'
        : `${done.asked} ${done.asked === 1 ? 'letter asks' : 'letters ask'} for their sections by ${dayInWords(byDay.value)}.`,
    )
}
async function invite(cancel = false): Promise<void> {
  const done = await meeting.ask<{ letters: number }>(cancel ? 'cancel' : 'invite', 'invitation', { cancel })
  if (done)
    desk.say(
      cancel
        ? `Cancelled; ${done.letters} ${done.letters === 1 ? 'letter says' : 'letters say'} so.`
        : `${done.letters} ${done.letters === 1 ? 'letter is' : 'letters are'} out, each with a calendar file.`,
    )
}
async function answer(given: Answer): Promise<void> {
  await meeting.ask('answer', 'answer', { answer: given, comment: '' })
}
defineExpose({ invite, request })
const own = computed(() => brief.value.people.find(({ user }) => user === desk.userId) ?? null)

// — Answers that arrived as calendar files
function chooseFile(event: Event): void {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (file) void takeReply(desk, file)
  input.value = ''
}
const reply = ref<HTMLInputElement>()
</script>

<template>
  <section class="people">
    <h3>Who must be there</h3>
    <p v-if="own && brief.invitation && brief.stage === 'planned'" class="mine" role="group" aria-label="Your answer">
      <span>{{ own.answer === 'needs-action' ? 'Do you come?' : `You said: ${ANSWER_WORDS[own.answer]}.` }}</span>
      <button
        v-for="(words, given) in { accepted: 'I come', tentative: 'Perhaps', declined: 'I don’t come' }"
        :key="given"
        :aria-pressed="own.answer === given"
        @click="answer(given)">
        {{ words }}
      </button>
    </p>
    <ul>
      <li v-for="person in brief.people" :key="person.id" :data-person="person.id">
        <PersonFace :id="person.user ?? person.mail ?? ''" :name="personName(person, desk.nameOf) || '?'" :size="26" />
        <span class="name"
          >{{ personName(person, desk.nameOf)
          }}<small v-if="person.user === null">{{
            person.mail === null ? 'not in this tree yet' : `guest${person.name ? `, ${person.mail}` : ''}`
          }}</small></span
        >
        <span v-if="world.elsewhere[person.id]" class="clash" :title="`In ${world.elsewhere[person.id]} at that time`"
          ><Icon name="lucide:calendar-x" size="14" /> in {{ world.elsewhere[person.id] }}</span
        >
        <span class="answer" :class="person.answer" :title="person.comment"
          >{{ brief.invitation ? ANSWER_WORDS[person.answer] : ''
          }}{{ person.comment ? ` (${person.comment})` : '' }}</span
        >
        <button
          class="needed"
          :disabled="!may"
          :aria-pressed="person.needed"
          :aria-label="`${personName(person, desk.nameOf)} is ${person.needed ? 'needed' : 'optional'}`"
          @click="put(person, { needed: !person.needed })">
          {{ person.needed ? 'needed' : 'optional' }}
        </button>
        <Select
          :model-value="person.role ?? ''"
          :options="PARTS"
          option-label="name"
          option-value="id"
          size="small"
          class="role"
          placeholder="takes part"
          :disabled="!may"
          :aria-label="`Part of ${personName(person, desk.nameOf)}`"
          @update:model-value="setRole(person, $event)" />
        <button
          v-if="may"
          class="icon-button"
          :aria-label="`Take ${personName(person, desk.nameOf)} off`"
          @click="meeting.unsay(person.id)">
          <Icon name="lucide:x" size="14" />
        </button>
      </li>
    </ul>
    <div v-if="may" class="add">
      <input
        v-model="fresh"
        data-fresh-person
        placeholder="A name, or mail addresses"
        aria-label="Ask somebody to come"
        @keydown.enter.prevent="add" />
      <button v-for="member in offered" :key="member.id" class="offered" @click="addMember(member.id)">
        <Icon name="lucide:plus" size="13" /> {{ member.name }}
      </button>
      <button
        v-for="group in offeredGroups"
        :key="group.id"
        class="offered"
        :aria-label="`Ask ${group.name}, ${unasked(group.who).length} who aren’t asked yet`"
        @click="addGroup(group.who)">
        <Icon name="lucide:users" size="13" /> {{ group.name }}
      </button>
    </div>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <div v-if="may" class="send">
      <label for="sections-by">Sections filled in by</label>
      <input id="sections-by" v-model="by" class="short" :placeholder="byDay ? dayInWords(byDay) : 'a day'" />
      <Button
        label="Ask the owners"
        size="small"
        outlined
        :disabled="busy !== '' || items.length === 0"
        @click="request" />
      <span class="grow" />
      <button class="plain" @click="reply?.click()">Answer from a calendar file …</button>
      <input
        ref="reply"
        type="file"
        class="visually-hidden"
        accept=".ics,text/calendar"
        aria-label="Calendar file with an answer"
        tabindex="-1"
        @change="chooseFile" />
      <Button
        v-if="brief.stage === 'planned' && brief.invitation"
        label="Cancel it"
        size="small"
        text
        severity="danger"
        :disabled="busy !== ''"
        @click="invite(true)" />
      <Button
        v-if="brief.stage === 'planned' || brief.stage === 'cancelled'"
        data-invite
        :label="
          brief.stage === 'cancelled'
            ? 'Invite again'
            : !brief.invitation
              ? 'Invite everybody'
              : isOld
                ? 'Send the change'
                : 'Invite again'
        "
        size="small"
        :outlined="brief.invitation !== null && !isOld"
        :disabled="busy !== ''"
        @click="invite()" />
    </div>
    <p v-if="brief.invitation" class="quiet">
      Invited {{ agoInWords(new Date(brief.invitation.at).toISOString()) }} by {{ desk.nameOf(brief.invitation.by) }}.{{
        isOld ? ' Something they should hear of has changed since.' : ''
      }}
    </p>
  </section>
</template>

<style scoped src="./MeetingBriefPeople.css"></style>
