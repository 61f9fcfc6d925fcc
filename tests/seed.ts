import fc from 'fast-check'

/*
 * `npm test` rolls the same dice each time, so that what was green stays green until something changes; by itself, as
 * somebody works, `vitest` rolls new ones each time, and finds what nobody thought of.
 */
const seed = Number(process.env.LAW_SEED)
if (seed) fc.configureGlobal({ seed })
