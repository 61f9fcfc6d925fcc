import { noteBytes, type Patch, Refused, shorten, type Topic, weightOf } from '#core/tree'
import { settings } from '../settings'

/* How heavy a note, a topic and a tree may be (see the settings). What gets lighter is never refused. */

const MB = 1024 * 1024
const inMb = (bytes: number): string => `${Math.round((bytes / MB) * 10) / 10} MB`

function checkTopic(topic: Topic): void {
  const { NOTE_MB, TOPIC_MB } = settings()
  const words = (what: string, most: number): string =>
    `${what} of “${shorten(topic.title)}” would be over ${inMb(most * MB)}, which is the most. Nothing was changed.`
  if (noteBytes(topic.note) > NOTE_MB * MB) throw new Refused('heavy', words('The note', NOTE_MB))
  if (weightOf(topic) > TOPIC_MB * MB)
    throw new Refused('heavy', words('What hangs on the topic, or the note,', TOPIC_MB))
}

/** Throws `Refused` (`heavy`) when changes make something heavier than it may be. `after`: what the tree weighs with them. */
export function checkWeights(patches: readonly Patch[], added: number, after: number): void {
  for (const { before, after: topic } of patches)
    if (topic && topic !== before && weightOf(topic) > (before ? weightOf(before) : 0)) checkTopic(topic)
  const most = settings().TREE_MB * MB
  if (added > 0 && after > most)
    throw new Refused(
      'heavy',
      `This tree has ${inMb(after - added)} of the ${inMb(most)} that a tree may have, and there’s no room for this. Take some of it out, or begin another tree. Nothing was changed.`,
    )
}

/** The same for a whole tree that comes in at once. */
export function checkWholeWeight(topics: Iterable<Topic>, bytes: number): void {
  for (const topic of topics) checkTopic(topic)
  const most = settings().TREE_MB * MB
  if (bytes > most)
    throw new Refused('heavy', `This tree would have ${inMb(bytes)}; ${inMb(most)} is the most. Nothing was changed.`)
}

/** Shares of what a tree may have from which on the people in it are told. */
export const NEARLY = [0.8, 0.9, 0.95] as const

/** How many of the shares a weight has reached. */
export const nearness = (bytes: number): number =>
  NEARLY.filter(share => bytes >= share * settings().TREE_MB * MB).length
export const mostBytes = (): number => Math.floor(settings().TREE_MB * MB)
