import { openApi, OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'

/** It's the same for as long as the app runs, and takes a while to be written. */
let written: ReturnType<typeof openApi> | undefined

export default answer(OPERATIONS.openapi, () => (written ??= openApi()))
