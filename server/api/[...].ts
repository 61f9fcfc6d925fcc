import { sayError } from '../access/answer'
import { Fault } from '../access/fault'

export default defineEventHandler(event =>
  sayError(event, new Fault(404, 'no-route', 'There is nothing at this address. See /api/openapi.json.')),
)
