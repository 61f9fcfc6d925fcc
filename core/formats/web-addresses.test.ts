import { expect, it } from 'vitest'
import { applyChanges, BLANK, emptyTree } from '../tree'
import { webAddresses, withoutAddress } from './web-addresses'

it('names each web address once with all that lead to it, and the sections without one where others beside them have one', () => {
  const tree = emptyTree({ ...BLANK, id: 'c', parent: null, order: '', title: 'Site' })
  const add = (topic: string, parent: string, order: string, ...urls: string[]) =>
    ({
      op: 'add',
      topic,
      parent,
      order,
      with: { title: topic, links: urls.map((url, i) => ({ id: `l${i}`, url, title: '' })) },
    }) as const
  applyChanges(tree, [
    add('rooms', 'c', 'a0', 'https://haven.example/rooms', 'mailto:ines@porch.example'),
    add('loft', 'rooms', 'a0', 'https://haven.example/rooms', 'https://haven.example/rooms'),
    add('stairs', 'rooms', 'a1', 'topic:loft'),
    add('news', 'c', 'a1'),
    add('old', 'c', 'a2', 'https://haven.example/old'),
    add('alone', 'news', 'a0'),
    { op: 'remove', topic: 'old' },
  ])
  expect(webAddresses(tree)).toEqual([{ address: 'https://haven.example/rooms', topics: ['rooms', 'loft'] }])
  // "alone" has nothing beside it that is linked; "news" has rooms, "stairs" the loft.
  expect(withoutAddress(tree)).toEqual(['stairs', 'news'])
})
