import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { database } from '../../../database/connect'
import { editsOfTopic, readLog } from '../../../trees/log'

export default answer(OPERATIONS.listEdits, async ({ params, query, version }) => {
  return query.topic === undefined
    ? { version, edits: await readLog(database(), params.id, query.since, { most: 500 }) }
    : { version, edits: await editsOfTopic(params.id, query.topic, query.since) }
})
