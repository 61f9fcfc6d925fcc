import { OPERATIONS } from '#core/contract'
import { answer, rawBody } from '../../../../access/answer'
import { keepPicture } from '../../../../files/keep-picture'

const MOST = 25 * 1024 * 1024

export default answer(
  OPERATIONS.addTalkPicture,
  async ({ event, params, account }) => keepPicture(params.id, account.id, await rawBody(event, MOST)),
  0,
)
