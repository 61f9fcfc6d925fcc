import { dayThatCounts, isAsKnown, type WaitAbroad, waitsAbroad } from '#core/schedule/abroad'
import { waitedFor } from '#core/schedule/plan-words'
import { type Change, type Elsewhere, isLive, topicOf, type TopicId, type Wait } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'

/* Dependencies on topics of other trees: made, and looked at again. */

/** What is waited for is named by itself: there is no title of this tree. */
const speaker = { titleOf: () => '' }
export const namedAbroad = (wait: Wait): string => waitedFor(wait, speaker)

/** When a topic begins and ends, asked of its tree now. Throws `ApiError`. */
function ask(tree: string, topic: TopicId): Promise<Elsewhere> {
  return callApi<Elsewhere>(`/api/trees/${tree}/topics/${topic}/days`)
}

/** Lets topics wait for one of another tree, by its days as they are now. */
export async function waitAbroad(desk: Desk, ids: readonly TopicId[], tree: string, on: TopicId): Promise<void> {
  if (!desk.guard()) return
  let elsewhere: Elsewhere
  try {
    elsewhere = await ask(tree, on)
  } catch (error) {
    desk.say((error as Error).message)
    return
  }
  const changes = ids
    .filter(id => isLive(desk.tree, id))
    .filter(id => !topicOf(desk.tree, id).waits.some(wait => wait.on === on && wait.elsewhere?.tree === tree))
    .map((topic): Change => {
      const member: Wait = { id: newId(), on, elsewhere, kind: 'FS', lag: 0, days: 'working' }
      return { op: 'put', topic, set: 'waits', member }
    })
  const [first] = changes
  if (!first) desk.say('That waits for it already.')
  else if (desk.run({ changes })) {
    const wait = (first as { member: Wait }).member
    const day = dayThatCounts(wait, elsewhere)
    desk.say(`Waits for ${namedAbroad(wait)}${day ? `, ${dayInWords(day)}` : ', which has no date yet'}.`, true)
  }
}

/** What other trees say now of what is waited for here. */
export interface LookedAgain {
  /** With their days as they are now, and what moved among them. */
  readonly seen: readonly (WaitAbroad & { readonly now: Elsewhere })[]
  readonly moved: readonly (WaitAbroad & { readonly now: Elsewhere })[]
  /** Those in trees that one can't see, or that are gone there. */
  readonly unseen: readonly WaitAbroad[]
}

/** Most topics of other trees that are asked of at a time. */
const AT_A_TIME = 6

/** Asks the other trees. Nothing is changed by it. Throws `ApiError` without a line. */
export async function lookAbroad(waits: readonly WaitAbroad[]): Promise<LookedAgain> {
  const keyOf = ({ wait, elsewhere }: WaitAbroad): string => `${elsewhere.tree} ${wait.on}`
  const answers = new Map<string, Elsewhere | null>()
  const wanted = [...new Map(waits.map(one => [keyOf(one), one])).values()]
  for (let at = 0; at < wanted.length; at += AT_A_TIME)
    await Promise.all(
      wanted.slice(at, at + AT_A_TIME).map(async one => {
        const answer = await ask(one.elsewhere.tree, one.wait.on).catch((error: unknown) => {
          if (error instanceof ApiError && (error.status === 404 || error.status === 403)) return null
          throw error
        })
        answers.set(keyOf(one), answer)
      }),
    )
  const seen = waits.flatMap(one => {
    const now = answers.get(keyOf(one))
    return now ? [{ ...one, now }] : []
  })
  return {
    seen,
    moved: seen.filter(({ elsewhere, now }) => !isAsKnown(elsewhere, now)),
    unseen: waits.filter(one => !answers.get(keyOf(one))),
  }
}

/** Takes over what other trees say, as one edit: those that are still waited for. */
export function takeOver(desk: Desk, found: LookedAgain['seen']): boolean {
  const changes = found.flatMap(({ by, wait, now }): Change[] => {
    const still = isLive(desk.tree, by) ? topicOf(desk.tree, by).waits.find(({ id }) => id === wait.id) : undefined
    // What somebody made another dependency of meanwhile, or looked at later, stays.
    if (still?.on !== wait.on || still.elsewhere?.tree !== now.tree || still.elsewhere.asked >= now.asked) return []
    return [{ op: 'put', topic: by, set: 'waits', member: { ...still, elsewhere: now } }]
  })
  return changes.length > 0 && desk.run({ changes })
}

/** “Permit” of “Council” ends on 14 May 2027 now, 12 May before. */
export function movedInWords({ wait, elsewhere, now }: LookedAgain['moved'][number]): string {
  const [before, after] = [dayThatCounts(wait, elsewhere), dayThatCounts(wait, now)]
  const what = namedAbroad({ ...wait, elsewhere: now })
  if (now.state === 'done' && elsewhere.state !== 'done') return `${what} is done.`
  if (before === after) return `${what} has changed.`
  const then = before ? `, not ${dayInWords(before)}` : ''
  return after
    ? `${what} ${wait.kind[0] === 'F' ? 'ends' : 'begins'} on ${dayInWords(after)} now${then}.`
    : `${what} has no date any more.`
}

/** Looks again at everything that is waited for in other trees, takes it over, and says what moved. */
export async function lookAgain(desk: Desk): Promise<void> {
  if (!desk.guard()) return
  const waits = waitsAbroad(desk.tree)
  if (waits.length === 0) {
    desk.say('Nothing here waits for another tree.')
    return
  }
  let found: LookedAgain
  try {
    found = await lookAbroad(waits)
  } catch (error) {
    desk.say((error as Error).message)
    return
  }
  const hidden =
    found.unseen.length === 0
      ? ''
      : ` ${found.unseen.length === 1 ? 'One stands' : `${found.unseen.length} stand`} in trees that you can’t see, or not any more: as last known.`
  const told = found.moved.slice(0, 2).map(movedInWords).join(' ')
  const more = found.moved.length > 2 ? ` And ${found.moved.length - 2} more moved.` : ''
  if (takeOver(desk, found.seen))
    desk.say(`${found.moved.length === 0 ? 'Nothing has moved there.' : `${told}${more}`}${hidden}`, true)
  else desk.say(`Nothing could be looked at.${hidden}`)
}

/** From how old on what is known is looked at again by itself when the schedule is opened, ms. */
const OLD = 60 * 60_000

/** When the schedule is opened: says what has moved in other trees, and offers to take it over. Quiet where nothing has. */
export async function glanceAbroad(desk: Desk): Promise<void> {
  if (!desk.status.ready || !desk.session.canEdit) return
  const waits = waitsAbroad(desk.tree).filter(({ elsewhere }) => Date.now() - elsewhere.asked > OLD)
  if (waits.length === 0) return
  const found = await lookAbroad(waits).catch(() => null)
  const [first] = found?.moved ?? []
  if (!found || !first) return
  const more = found.moved.length > 1 ? ` ${found.moved.length - 1} more moved.` : ''
  desk.say(`${movedInWords(first)}${more}`, {
    name: 'Take over',
    run: () => {
      if (takeOver(desk, found.seen)) desk.say('The plan goes by it now.', true)
    },
  })
}
