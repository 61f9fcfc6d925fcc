import { OPERATIONS, pathHere } from '#core/contract'
import { addressOf } from '../../../access/address'
import { answer } from '../../../access/answer'
import { beginAtOrganisation } from '../../../access/organisation'
import { backWith } from '../../../access/organisation-way'
import { mustSpend } from '../../../access/tries'

export default answer(OPERATIONS.organisationBegin, async ({ event, query }) => {
  const then = pathHere(query.then)
  try {
    await mustSpend('organisation', addressOf(event), 300, 3600)
    await sendRedirect(event, await beginAtOrganisation(event, then, query.again !== undefined), 303)
  } catch (error) {
    await backWith(event, error, then)
  }
})
