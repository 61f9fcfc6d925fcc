import { nanoid } from 'nanoid'
import type { TopicId } from '#core/tree'

/** An address for a new topic, or a part of one: made by whoever adds it. */
export const newId = (): TopicId => nanoid(12)
