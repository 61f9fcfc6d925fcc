import type { Plugin } from 'vite'

/** The tables in which each field and set of a tree is said once (docs/decisions/0018). */
const TABLES = /\/core\/tree\/(?:fields|sets|tree-fields|style-fields)\.ts$/
const MAKERS: ReadonlySet<unknown> = new Set(['field', 'set'])
const LEFT_OUT: Readonly<Record<string, string>> = { about: "''", examples: '[]' }

interface Node {
  readonly type: string
  readonly start: number
  readonly end: number
  readonly [part: string]: unknown
}
const isNode = (it: unknown): it is Node => typeof it === 'object' && it !== null && 'type' in it && 'start' in it

/**
 * What fields say of themselves for the docs and the laws stands beside them, and is never asked for by a browser: it stays out of the
 * script on the way to the first look.
 */
export function leanFields(): Plugin {
  return {
    name: 'sun-porch:lean-fields',
    apply: 'build',
    enforce: 'post',
    transform(code, id) {
      if (!TABLES.test(id)) return null
      const cuts: { readonly start: number; readonly end: number; readonly by: string }[] = []
      const walk = (it: unknown): void => {
        if (Array.isArray(it)) {
          for (const one of it) walk(one)
          return
        }
        if (!isNode(it)) return
        const { callee, arguments: given } = it as { callee?: Node; arguments?: readonly Node[] }
        if (it.type === 'CallExpression' && MAKERS.has(callee?.name))
          for (const property of (given?.[0]?.properties ?? []) as readonly Node[]) {
            const { key, value } = property as unknown as { key?: Node; value?: Node }
            const by = LEFT_OUT[String(key?.name)]
            if (by !== undefined && value) cuts.push({ start: value.start, end: value.end, by })
          }
        for (const part of Object.values(it)) if (typeof part === 'object') walk(part)
      }
      walk(this.parse(code))
      let lean = code
      for (const { start, end, by } of cuts.sort((a, b) => b.start - a.start))
        lean = lean.slice(0, start) + by + lean.slice(end)
      return { code: lean, map: null }
    },
  }
}
