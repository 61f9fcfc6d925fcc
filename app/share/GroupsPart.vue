<script setup lang="ts">
import { idsOf, missingOf, offerOf, settled } from '#core/access/groups'
import type { GroupShared } from '#core/tree'
import { useDesk } from '~/desk/desk'
import GroupEditor from './GroupEditor.vue'
import { inviteTo } from './inviting'
import { dropGroup, freshGroup, groupsOf, keepGroup, loadOwnGroups, ownGroups, type ShownGroup } from './own-groups'
import { ROLES } from './roles'

/**
 * Groups of people, the tree's and one's own: let in by one press, and offered again when somebody came or went since. `asked`:
 * addresses whose invitation waits.
 */
const props = defineProps<{
  owner: boolean
  role: GroupShared['role']
  asked: readonly string[]
  /** Invites addresses with a role, and says how it went; resolves to whether it did. */
  invite: (mails: readonly string[], role: GroupShared['role']) => Promise<boolean>
  /** Takes somebody's role away; resolves to whether it did. */
  sendAway: (user: string) => Promise<boolean>
}>()
const desk = useDesk()
const wrong = ref('')
const open = ref<string | null>(null)
const making = ref<ShownGroup | null>(null)
const mayTree = computed(() => desk.status.ready && desk.session.canEdit)
async function attempt(what: () => Promise<unknown>): Promise<boolean> {
  wrong.value = ''
  try {
    await what()
    return true
  } catch (error) {
    wrong.value = (error as Error).message
    return false
  }
}
onMounted(() => attempt(loadOwnGroups))

const groups = computed(() => {
  void desk.lateTick.value
  return groupsOf(desk).map(group => ({
    ...group,
    here: idsOf(group.who, desk.status.people),
    missing: missingOf(group.who, desk.status.people, props.asked),
    offer: offerOf(group.who, group.shared, desk.status.people, props.asked),
  }))
})
type Row = (typeof groups.value)[number]
const plain = ({ id, name, who, shared, own }: Row): ShownGroup => ({ id, name, who, shared, own })
const count = (all: number, one: string, many: string): string => `${all} ${all === 1 ? one : many}`
const inWords = ({ who, here, own }: Row): string =>
  [
    count(who.length, 'person', 'people'),
    here.length === who.length ? '' : `${here.length} of them in this tree`,
    own ? 'yours' : '',
  ]
    .filter(Boolean)
    .join(', ')
const roleWords = (role: string): string => ROLES.find(({ value }) => value === role)?.label ?? role

/**
 * From now on what changes in the group is offered here, counted from whom it was seen to have. The rest of it is kept as it
 * is by now: somebody may have changed it while invitations went out.
 */
async function follow(seen: Row, role: GroupShared['role']): Promise<void> {
  const now = groupsOf(desk).find(({ id, own }) => id === seen.id && own === seen.own)
  if (now) await keepGroup(desk, { ...now, shared: { role, who: settled(seen.who, desk.status.people) } })
}
async function letIn(group: Row): Promise<void> {
  if (group.missing.length > 0 && !(await props.invite(group.missing, props.role))) return
  await attempt(() => follow(group, props.role))
}
async function takeOffer(group: Row): Promise<void> {
  const { come, gone } = group.offer
  const { role } = group.shared!
  if (come.length > 0 && !(await props.invite(come, role))) return
  // Where one can't be sent away the offer stays.
  for (const user of gone) if (!(await props.sendAway(user))) return
  await attempt(() => follow(group, role))
}
async function keep(group: ShownGroup): Promise<void> {
  if (!(await attempt(() => keepGroup(desk, group)))) return
  open.value = making.value = null
}
async function remove(group: ShownGroup): Promise<void> {
  if (await attempt(() => dropGroup(desk, group))) open.value = null
}
/** Other trees that one of one's own groups was let in to, where those who are new in it can be invited at once. */
const elsewhere = (group: Row): [string, GroupShared][] => {
  if (!group.own) return []
  const kept = ownGroups.value.find(({ id }) => id === group.id)
  return Object.entries(kept?.shared ?? {}).filter(
    ([tree, { who }]) => tree !== desk.session.treeId && kept!.who.some(mail => !who.includes(mail)),
  )
}
async function inviteElsewhere(group: Row): Promise<void> {
  await attempt(async () => {
    const kept = ownGroups.value.find(({ id }) => id === group.id)!
    const shared = { ...kept.shared }
    try {
      for (const [tree, { role, who }] of elsewhere(group)) {
        const emails = kept.who.filter(mail => !who.includes(mail))
        await inviteTo(tree, emails, role)
        shared[tree] = { role, who: [...who, ...emails] }
      }
    } finally {
      // What went well stays done, also where a later tree refused.
      await callApi(`/api/groups/${group.id}`, { method: 'PUT', body: { name: kept.name, who: kept.who, shared } })
      await loadOwnGroups()
    }
  })
}
</script>

<template>
  <section aria-label="Groups">
    <div class="head">
      <h3>Groups</h3>
      <button v-if="!making" class="plain" @click="making = freshGroup(!mayTree)">New group</button>
    </div>
    <Message v-if="wrong" severity="error" role="alert">{{ wrong }}</Message>
    <GroupEditor
      v-if="making"
      :key="making.id"
      :group="making"
      fresh
      :may-tree="mayTree"
      @keep="keep"
      @close="making = null" />
    <p v-if="groups.length === 0 && !making" class="quiet">
      A group lets people in together, gives them something together, and finds what is theirs.
    </p>
    <ul class="groups">
      <li v-for="group in groups" :key="group.id">
        <div class="row">
          <span class="who"
            >{{ group.name }}<small class="quiet">{{ inWords(group) }}</small></span
          >
          <button
            v-if="owner && group.offer.come.length === 0 && (!group.shared || group.missing.length > 0)"
            class="plain"
            :aria-label="`Let ${group.name} in: they ${roleWords(role)}`"
            @click="letIn(group)">
            {{ group.missing.length > 0 ? `Invite ${group.missing.length}` : 'Keep in step' }}
          </button>
          <button
            v-if="group.own || mayTree"
            class="plain"
            :aria-expanded="open === group.id"
            :aria-label="`Change the group ${group.name}`"
            @click="open = open === group.id ? null : group.id">
            Change
          </button>
        </div>
        <p v-if="owner && (group.offer.come.length || group.offer.gone.length)" class="offer" role="status">
          <span v-if="group.offer.come.length"
            >New in {{ group.name }}: {{ group.offer.come.join(', ') }}, to be invited; they
            {{ roleWords(group.shared!.role) }}.
          </span>
          <span v-if="group.offer.gone.length"
            >No longer in it: {{ group.offer.gone.map(id => desk.nameOf(id)).join(', ') }}, to lose their role.
          </span>
          <button class="plain" @click="takeOffer(group)">Do so</button>
          <button class="plain" @click="attempt(() => follow(group, group.shared!.role))">Leave it as it is</button>
        </p>
        <p v-if="elsewhere(group).length" class="offer">
          <button class="plain" @click="inviteElsewhere(group)">
            Invite the new ones to {{ count(elsewhere(group).length, 'other tree', 'other trees') }} of
            {{ group.name }} as well
          </button>
        </p>
        <GroupEditor
          v-if="open === group.id"
          :group="plain(group)"
          :fresh="false"
          :may-tree="mayTree"
          @keep="keep"
          @close="open = null"
          @remove="remove(plain(group))" />
      </li>
    </ul>
  </section>
</template>

<style scoped>
.head,
.row {
  display: flex;
  align-items: center;
  gap: 10px;
}
h3 {
  font: 600 13px var(--text);
  color: var(--quiet);
  margin: 0;
  flex: 1;
}
.groups {
  list-style: none;
  padding: 0;
  margin: 6px 0 16px;
}
.row {
  padding: 5px 0;
}
.who {
  flex: 1;
  display: flex;
  flex-direction: column;
  line-height: 1.25;
}
.offer {
  margin: 2px 0 6px;
  padding: 6px 10px;
  border-left: 3px solid var(--offer);
  font-size: 13px;
}
.plain {
  min-height: 30px;
  padding: 0 4px;
}
</style>
