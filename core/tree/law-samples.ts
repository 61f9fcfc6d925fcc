import type { Field, SetName, TreeField, TreeSet } from './change'

/*
 * For the laws: a few values of every field and a few members of every set, so that whatever a topic can carry is
 * rolled. A new field without samples fails the
 * test that asks for them.
 */

const HASH = 'a'.repeat(64)
const style = { fill: '3', bold: true }

export const FIELD_SAMPLES: Readonly<Record<Field, readonly unknown[]>> = {
  title: ['', 'Lift', 'Lamps\nin brass'],
  start: [null, '2027-03-03'],
  due: [null, '2027-05-12', '2027-05-13'],
  duration: [null, 0, 2.5],
  done: [null, 0, 100],
  priority: [null, 1, 5],
  folded: [false, true],
  side: [null, 'left', 'right'],
  x: [null, 0, 12.5],
  y: [null, 0, -40],
  z: [0, 3],
  arrangement: [null, 'down'],
  tray: [false, true],
  hue: [null, '2', '#aabbcc'],
  picture: [null, { file: HASH, width: 120, ratio: 0.5, place: 'above' }],
  fill: [null, '1'],
  ink: [null, '#112233'],
  textSize: [null, 'large'],
  bold: [false, true],
  slanted: [false, true],
  underlined: [false, true],
  shape: [null, 'tag'],
  border: [null, 'dashed'],
  edge: [null, '4'],
  width: [null, 200],
  place: [null, { name: 'Tannery', lat: null, lon: null }],
  sketch: [
    null,
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 640 400"><path fill="#16292d" d="M0 0L1 1Z"/></svg>',
  ],
  page: [false, true],
  reference: [null, { tree: 'another', topic: 'there' }],
  numbering: [null, { scheme: 'roman', levels: 2 }],
  entry: [null, { kind: 'decision', by: null, name: 'Ines', at: 1 }],
}

export const MEMBER_SAMPLES: Readonly<Record<SetName, readonly unknown[]>> = {
  markers: ['risk', 'question', 'decision'],
  people: ['ines', 'rana'],
  links: [
    { id: 'l1', url: 'https://lift.example/', title: '' },
    { id: 'l1', url: 'https://lift.example/', title: 'The lift' },
    { id: 'l2', url: 'mailto:a@lift.example', title: '' },
  ],
  files: [{ id: 'f1', file: HASH, name: 'offer.pdf', type: 'application/pdf', size: 3, preview: null }],
  checks: [
    { id: 'k1', order: 'a0', text: 'Measure', done: false, due: null, priority: null },
    { id: 'k1', order: 'a0', text: 'Measure', done: true, due: null, priority: null },
    { id: 'k2', order: 'a1', text: 'Order', done: false, due: '2027-03-03', priority: 1 },
  ],
  ties: [
    { id: 't1', to: 'elsewhere', label: '', ends: 'to', bend: null, hue: null },
    { id: 't1', to: 'elsewhere', label: 'pays', ends: 'both', bend: { x: 1, y: 2 }, hue: '2' },
  ],
  meeting: [
    { id: 'why', kind: 'why', text: 'Settle the lift.' },
    { id: 'why', kind: 'why', text: 'Settle the lamps.' },
    { id: 'm1', kind: 'must', order: 'a0', text: 'Which firm' },
    { id: 'p1', kind: 'person', user: 'ines', mail: null, name: '', needed: true, role: null },
  ],
  item: [
    { id: 'minutes', kind: 'minutes', minutes: 10 },
    { id: 'minutes', kind: 'minutes', minutes: 20 },
    { id: 'wish', kind: 'wish', name: 'Oskar' },
    { id: 'm1', kind: 'serves' },
  ],
}

export const TREE_SAMPLES: Readonly<Record<TreeField, readonly unknown[]>> = {
  arrangement: ['both', 'down'],
  description: ['', 'What it is for'],
  tags: [[], ['move']],
  along: [100, 150],
  across: [100, 80],
  look: ['porch', 'tannery'],
  levels: [[], [style]],
}

export const TREE_MEMBER_SAMPLES: Readonly<Record<TreeSet, readonly unknown[]>> = {
  markerSets: [
    { id: 's1', name: 'Ours', exclusive: false, markers: [] },
    { id: 's1', name: 'Ours', exclusive: true, markers: [] },
  ],
  looks: [],
  views: [],
}
