import Aura from '@primeuix/themes/aura'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { AURA } from './aura'

it('every PrimeVue component that the app has keeps its design tokens', () => {
  const [, listed] = /include: \[([^\]]*)\]/.exec(readFileSync('nuxt.config.ts', 'utf8'))!
  const names = [...listed!.matchAll(/'(\w+)'/g)].map(([, name]) => name!.toLowerCase())
  const imported = readdirSync('app', { recursive: true, encoding: 'utf8' })
    .filter(file => /\.(?:vue|ts)$/.test(file))
    .flatMap(file =>
      [...readFileSync(join('app', file), 'utf8').matchAll(/from 'primevue\/(\w+)'/g)].map(([, name]) => name!),
    )
    // What is no component has none.
    .filter(name => name in Aura.components!)
  expect(names.length).toBeGreaterThan(10)
  for (const name of [...names, ...imported]) expect(AURA.components, name).toHaveProperty(name)
})
it('the tokens are the preset’s own', () => {
  const whole = Aura.components as Record<string, unknown>
  for (const [name, tokens] of Object.entries(AURA.components!)) expect(tokens).toBe(whole[name])
  expect(AURA.css).toBe(Aura.css)
})
