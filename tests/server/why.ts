import { afterEach, inject } from 'vitest'
import { endOf, openHouses } from '../house'

/* Where a test fails, what its house has warned of stands under the first line: that is often why. */
afterEach(({ task }) => {
  if (task.result?.state !== 'fail') return
  const words = [inject('log'), ...[...openHouses].map(({ log }) => log)]
    .map(endOf)
    .filter(said => said)
    .map(said => `the house said: ${said.replaceAll('\n', ' | ').slice(-600)}`)
  for (const error of task.result.errors ?? []) {
    const [first = '', ...rest] = (error.stack ?? error.message).split('\n')
    error.stack = [first, ...words, ...rest].join('\n')
  }
})
