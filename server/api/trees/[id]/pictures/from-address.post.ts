import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { fetchPicture } from '../../../../files/fetch-picture'
import { keepPicture } from '../../../../files/keep-picture'

export default answer(OPERATIONS.addPictureFrom, async ({ params, body, account }) =>
  keepPicture(params.id, account.id, await fetchPicture(body.address, account.id)),
)
