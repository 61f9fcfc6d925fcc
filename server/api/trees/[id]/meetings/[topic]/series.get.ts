import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { seriesLog } from '../../../../../meetings/series'

export default answer(OPERATIONS.seriesLog, ({ params, version }) => seriesLog(params.id, params.topic, version))
