<script lang="ts">
import { defineComponent, h, type PropType, type VNode } from 'vue'
import { ALL } from '#core/talk/everybody'
import type { Block, Body, Inline, Item } from '#core/talk/body'
import { useDesk } from '~/desk/desk'
import { addressOf } from '~/files/opening'

/** What was said, to be read. Made of elements, never of HTML that came along; a topic that is named leads there. */
export default defineComponent({
  props: { body: { type: Object as PropType<Body>, required: true } },
  setup(props) {
    const desk = useDesk()
    const MARKS: Record<string, string> = { bold: 'strong', italic: 'em', strike: 's', code: 'code', underline: 'u' }
    const dressed = (piece: Inline, inner: VNode | string): VNode | string => {
      let made = inner
      for (const mark of piece.marks ?? [])
        made =
          mark.type === 'link'
            ? h('a', { href: mark.attrs.href, target: '_blank', rel: 'noopener noreferrer' }, [made])
            : h(MARKS[mark.type]!, [made])
      return made
    }
    const inline = (piece: Inline): VNode | string => {
      switch (piece.type) {
        case 'text':
          return dressed(piece, piece.text)
        case 'hardBreak':
          return h('br')
        case 'person': {
          const { id, label, people } = piece.attrs
          return h(
            'b',
            {
              class: ['who', { me: id === ALL || (people ?? [id]).includes(desk.userId) }],
              title: people?.map(desk.nameOf).join(', '),
            },
            `@${label}`,
          )
        }
        case 'topic': {
          const { id, label } = piece.attrs
          const there = desk.tree.topics.get(id)
          return h(
            'button',
            {
              class: 'topic',
              disabled: !there,
              title: there ? there.title : 'This topic isn’t in the tree any more',
              'data-topic': id,
              onClick: () => there && desk.visit(id),
            },
            `#${label}`,
          )
        }
      }
    }
    const block = (one: Block | Item): VNode => {
      switch (one.type) {
        case 'paragraph':
          return h('p', { dir: 'auto' }, one.content?.map(inline))
        case 'codeBlock':
          return h('pre', [h('code', one.content?.map(inline))])
        case 'image':
          return h('img', { src: addressOf(desk, one.attrs.src), alt: one.attrs.alt, loading: 'lazy' })
        case 'bulletList':
          return h('ul', one.content?.map(block))
        case 'orderedList':
          return h('ol', one.content?.map(block))
        case 'listItem':
          return h('li', one.content?.map(block))
        case 'blockquote':
          return h('blockquote', one.content?.map(block))
      }
    }
    return () => {
      void desk.lateTick.value
      return h('div', { class: 'said-body' }, props.body.content.map(block))
    }
  },
})
</script>

<style>
.said-body {
  font-size: 13.5px;
  line-height: 1.45;
  overflow-wrap: anywhere;
}
.said-body p {
  margin: 0 0 3px;
  min-height: 1em;
}
.said-body ul,
.said-body ol {
  margin: 0 0 3px;
  padding-left: 20px;
}
.said-body blockquote {
  margin: 0 0 3px;
  padding-left: 9px;
  border-left: 3px solid var(--line);
}
.said-body pre {
  margin: 0 0 4px;
  padding: 5px 8px;
  overflow: auto;
  border-radius: 5px;
  background: var(--hover);
  font-size: 12.5px;
}
.said-body img {
  display: block;
  max-width: 100%;
  max-height: 260px;
  border-radius: 5px;
  margin: 3px 0;
}
.said-body .who,
.said-body .topic {
  color: var(--porch);
  font-weight: 600;
}
.said-body .me {
  background: var(--ceiling);
  border-radius: 4px;
  padding: 0 3px;
}
.said-body .topic {
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  font-weight: 600;
  cursor: pointer;
  text-align: left;
}
.said-body .topic:hover:enabled {
  text-decoration: underline;
}
.said-body .topic:disabled {
  color: var(--quiet);
  text-decoration: line-through;
  cursor: default;
}
</style>
