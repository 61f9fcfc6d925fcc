import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { keepPicture } from '../../../../files/keep-picture'
import { runJob } from '../../../../jobs/runner'

export default answer(OPERATIONS.addPictureFromShelf, async ({ params, body, account }) => {
  const drawn = await runJob('shelfPicture', { id: body.picture }, { person: account.id })
  return keepPicture(params.id, account.id, Buffer.from(drawn))
})
