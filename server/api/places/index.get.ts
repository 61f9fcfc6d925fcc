import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { findPlaces } from '../../places/places'

export default answer(OPERATIONS.findPlaces, ({ query }) => findPlaces(query.text))
