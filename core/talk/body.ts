import { z } from 'zod'
import { isSafeAddress } from '../tree/address'
import { fileId, id, words } from '../tree/atoms'
import { GROUP_LIMITS } from '../tree/group'

/*
 * What somebody says: formatted text as the editor has it (ProseMirror's JSON), of a few kinds of blocks. What isn't
 * named here isn't kept, so that a body can be shown without another look at what is in it.
 */

/** Characters of one comment, as plain text. */
export const MOST_SAID = 20_000
/** Blocks and pieces of text in one, at most, so that what says little doesn't weigh much. */
const MOST_NODES = 2_000
/** People that one names at most, those of groups each by themselves. */
const MOST_NAMED = 1_000
/** Levels of nodes, the body itself the first: lists in lists in lists. */
const DEEPEST = 26

const mark = z.discriminatedUnion('type', [
  z.strictObject({ type: z.enum(['bold', 'italic', 'strike', 'code', 'underline']) }),
  z.strictObject({
    type: z.literal('link'),
    attrs: z.object({ href: z.string().max(4000).refine(isSafeAddress, 'must be an address that may be opened') }),
  }),
])

const text = z.strictObject({
  type: z.literal('text'),
  text: words(MOST_SAID).min(1),
  marks: z.array(mark).max(6).optional(),
})
const lineBreak = z.strictObject({ type: z.literal('hardBreak'), marks: z.array(mark).max(6).optional() })
/**
 * A person by account, or everybody, or a group of people by its id; `label` as it was when it was said. `people`: who was in the
 * group then, since it may be the speaker's own, and may change.
 */
const person = z.strictObject({
  type: z.literal('person'),
  attrs: z.strictObject({ id, label: words(200), people: z.array(id).max(GROUP_LIMITS.people).optional() }),
  marks: z.array(mark).max(6).optional(),
})
const topic = z.strictObject({
  type: z.literal('topic'),
  attrs: z.strictObject({ id, label: words(200) }),
  marks: z.array(mark).max(6).optional(),
})
const inline = z.discriminatedUnion('type', [text, lineBreak, person, topic])
export type Inline = z.infer<typeof inline>

const line = z.array(inline).max(MOST_NODES).optional()
const paragraph = z.strictObject({ type: z.literal('paragraph'), content: line })
const code = z.strictObject({ type: z.literal('codeBlock'), content: line })
/** A picture of the tree, by its hash. */
const picture = z.strictObject({
  type: z.literal('image'),
  attrs: z.strictObject({ src: fileId, alt: words(300).default('') }),
})

export interface Item {
  readonly type: 'listItem'
  readonly content?: readonly Block[] | undefined
}
export type Block =
  | z.infer<typeof paragraph>
  | z.infer<typeof code>
  | z.infer<typeof picture>
  | { readonly type: 'blockquote'; readonly content?: readonly Block[] | undefined }
  | { readonly type: 'bulletList' | 'orderedList'; readonly content?: readonly Item[] | undefined }

const blocks: z.ZodType<Block[]> = z.lazy(() => z.array(block).max(MOST_NODES))
const item = z.strictObject({ type: z.literal('listItem'), content: blocks.optional() })
const block = z.discriminatedUnion('type', [
  paragraph,
  code,
  picture,
  z.strictObject({ type: z.literal('blockquote'), content: blocks.optional() }),
  z.strictObject({ type: z.enum(['bulletList', 'orderedList']), content: z.array(item).max(MOST_NODES).optional() }),
]) as unknown as z.ZodType<Block>

export interface Body {
  readonly type: 'doc'
  readonly content: readonly Block[]
}

/** A body as it's kept. Empty ones, too long ones and what isn't of these kinds are refused. */
export const bodySchema: z.ZodType<Body> = z
  .strictObject({ type: z.literal('doc'), content: z.array(block).min(1).max(MOST_NODES) })
  .refine(body => depthOf(body) <= DEEPEST, 'nests too deeply')
  .refine(body => countNodes(body) <= MOST_NODES, 'has too many pieces')
  .refine(body => countNamed(body) <= MOST_NAMED, `names ${MOST_NAMED.toLocaleString('en')} people at most`)
  .refine(body => textOf(body).length <= MOST_SAID, `must have ${MOST_SAID.toLocaleString('en')} characters at most`)
  .refine(body => !isEmpty(body), 'says nothing')

type Node = Body | Block | Item | Inline

/** Every node of a body, from the first to the last. */
export function* nodesOf(node: Node): Generator<Node> {
  yield node
  for (const child of ('content' in node && node.content) || []) yield* nodesOf(child as Node)
}

function depthOf(node: Node): number {
  let deepest = 0
  for (const child of ('content' in node && node.content) || []) deepest = Math.max(deepest, depthOf(child as Node))
  return deepest + 1
}

function countNodes(body: Body): number {
  let count = 0
  for (const _ of nodesOf(body)) count++
  return count
}

function countNamed(body: Body): number {
  let count = 0
  for (const node of nodesOf(body)) if (node.type === 'person') count += node.attrs.people?.length ?? 1
  return count
}

/** A body without its formatting: a line a block, mentions as `@Name` and `#Title`. */
export function textOf(body: Body): string {
  const lines: string[] = []
  const write = (block: Block | Item): void => {
    switch (block.type) {
      case 'paragraph':
      case 'codeBlock':
        lines.push((block.content ?? []).map(wordsOf).join(''))
        break
      case 'image':
        lines.push(block.attrs.alt)
        break
      default:
        for (const inner of block.content ?? []) write(inner)
    }
  }
  for (const one of body.content) write(one)
  return lines.join('\n')
}

function wordsOf(piece: Inline): string {
  switch (piece.type) {
    case 'text':
      return piece.text
    case 'hardBreak':
      return '\n'
    case 'person':
      return `@${piece.attrs.label}`
    case 'topic':
      return `#${piece.attrs.label}`
  }
}

/** Whether nothing is in a body that anybody could read or look at. */
export function isEmpty(body: Body): boolean {
  for (const node of nodesOf(body)) if (node.type === 'image') return false
  return textOf(body).trim() === ''
}

export interface Mentions {
  /** Accounts, and `ALL`. */
  readonly people: readonly string[]
  readonly topics: readonly string[]
}

export function mentionsIn(body: Body): Mentions {
  const people = new Set<string>()
  const topics = new Set<string>()
  for (const node of nodesOf(body)) {
    if (node.type === 'person') for (const one of node.attrs.people ?? [node.attrs.id]) people.add(one)
    if (node.type === 'topic') topics.add(node.attrs.id)
  }
  return { people: [...people], topics: [...topics] }
}

/** The pictures in a body, by their hash. */
export function picturesIn(body: Body): string[] {
  return [...nodesOf(body)].flatMap(node => (node.type === 'image' ? [node.attrs.src] : []))
}

/** Plain lines as a body. */
export function bodyOf(said: string): Body {
  return {
    type: 'doc',
    content: said
      .split('\n')
      .map(each => ({ type: 'paragraph', ...(each === '' ? {} : { content: [{ type: 'text', text: each }] }) })),
  }
}
