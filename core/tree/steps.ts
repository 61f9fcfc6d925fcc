import { z } from 'zod'
import { id } from './atoms'
import { orderKey } from './order-key'

/** A step of presenting the tree in an order of one's own: the topic, which is its id, and its place among the steps. */
export const stepSchema = z.strictObject({ id, order: orderKey })
