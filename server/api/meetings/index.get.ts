import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { listMeetings } from '../../meetings/list'

export default answer(OPERATIONS.listMeetings, ({ query, account }) => listMeetings(account.id, query.from ?? null))
