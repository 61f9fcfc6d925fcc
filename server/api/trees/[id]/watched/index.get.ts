import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { watchedBy } from '../../../../telling/watching'

export default answer(OPERATIONS.listWatched, ({ params, account }) => watchedBy(account.id, params.id))
