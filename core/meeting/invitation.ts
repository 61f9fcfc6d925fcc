import type { TopicId } from '../tree/topic'
import { topicOf, type Tree } from '../tree/tree'
import { dayInWords } from '../schedule/days'
import { itemsOf, itemStarts, lengthOfMeeting } from './agenda'
import { briefOf, instantOfStart } from './brief'
import { digestOf } from './digest'
import { type NameOf, personName } from './minutes'
import { wallTime } from './zones'

/*
 * What an invitation says, in words for the letter and as a digest that tells whether people must hear of a change.
 */

export const INTENT_NAMES = { inform: 'to inform', discuss: 'to discuss', decide: 'to decide' } as const

/** "12 May 2027, 14:00 to 15:00 (Europe/Copenhagen)"; '' while there is no day. */
export function whenInWords(tree: Tree, meeting: TopicId): string {
  const brief = briefOf(topicOf(tree, meeting))
  const start = instantOfStart(brief)
  if (start === null || !brief.begins) return ''
  const zone = brief.begins.zone
  const [from, to] = [wallTime(start, zone), wallTime(start + lengthOfMeeting(tree, meeting) * 60_000, zone)]
  return `${dayInWords(from.day)}, ${from.time} to ${to.time} (${zone.replaceAll('_', ' ')})`
}

/** The brief and the agenda as plain text. */
export function invitationText(tree: Tree, meeting: TopicId, nameOf: NameOf): string {
  const topic = topicOf(tree, meeting)
  const brief = briefOf(topic)
  const starts = itemStarts(tree, meeting)
  const zone = brief.begins?.zone ?? 'UTC'
  const items = itemsOf(tree, meeting).map((item, i) => {
    const at = starts.get(item.id)
    const owner = item.owners.map(nameOf).join(', ')
    return `${i + 1}. ${at === undefined ? '' : `${wallTime(at, zone).time}  `}${item.title} (${[INTENT_NAMES[item.intent], item.minutes === null ? '' : `${item.minutes} min`, owner].filter(Boolean).join(', ')})`
  })
  const lines = brief.lines.map(
    ({ title, intent, minutes }, i) =>
      `${items.length + i + 1}. ${title} (${[INTENT_NAMES[intent], minutes === null ? '' : `${minutes} min`].filter(Boolean).join(', ')})`,
  )
  const { mostMusts } = tree.fields
  const must = brief.musts.slice(0, mostMusts).map(({ text }, i) => `${i + 1}. ${text}`)
  const rest = brief.musts.slice(mostMusts).map(({ text }) => `- ${text}`)
  return [
    topic.title,
    [
      `When: ${whenInWords(tree, meeting)}`,
      brief.where ? `Where: ${brief.where}` : '',
      `Who: ${brief.people.map(person => personName(person, nameOf)).join(', ')}`,
    ]
      .filter(Boolean)
      .join('\n'),
    brief.why ? `Why we meet\n${brief.why}` : '',
    must.length > 0 ? `What must be settled\n${must.join('\n')}` : '',
    rest.length > 0 ? `To a later meeting\n${rest.join('\n')}` : '',
    items.length + lines.length > 0 ? `The way there\n${[...items, ...lines].join('\n')}` : '',
  ]
    .filter(Boolean)
    .join('\n\n')
}

/**
 * What people who have been invited must hear of when it changes: title, time, length, place, and who comes.
 */
export function invitationDigest(tree: Tree, meeting: TopicId): string {
  const topic = topicOf(tree, meeting)
  const brief = briefOf(topic)
  return digestOf(
    JSON.stringify([
      topic.title,
      brief.begins && [brief.begins.day, brief.begins.time, brief.begins.zone],
      lengthOfMeeting(tree, meeting),
      brief.where,
      brief.people.map(({ user, mail, needed, role }) => [user, mail, needed, role]),
    ]),
  )
}

/** Whether something changed since the invitation was sent. */
export function invitationIsOld(tree: Tree, meeting: TopicId): boolean {
  const { invitation } = briefOf(topicOf(tree, meeting))
  return invitation !== null && invitation.digest !== invitationDigest(tree, meeting)
}
