import fc from 'fast-check'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import type { OutlineItem } from '../tree'
import { Ambiguous, readCsv, writeCsv } from './csv'

type Titles = [string, ...Titles[]]
const titles = (item: OutlineItem): Titles => [item.title, ...item.children.map(titles)]
const read = (text: string): Titles[] => readCsv(text).map(titles)

describe('CSV in', () => {
  it('a parent’s title that occurs twice is asked about; once it’s said which, the row hangs there', () => {
    const text = 'title,parent\nGround floor,\nFirst floor,\nPaint,Ground floor\nPaint,First floor\nCeiling,Paint\n'
    try {
      readCsv(text)
      expect.unreachable()
    } catch (error) {
      expect(error).toBeInstanceOf(Ambiguous)
      expect((error as Ambiguous).which).toEqual([
        {
          parent: 'Paint',
          rows: [
            { at: 4, path: 'Ground floor' },
            { at: 5, path: 'First floor' },
          ],
        },
      ])
      expect((error as Error).message).toContain('row 4, row 5')
    }
    expect(readCsv(text, { Paint: 5 }).map(titles)).toEqual([
      ['Ground floor', ['Paint']],
      ['First floor', ['Paint', ['Ceiling']]],
    ])
  })

  it('hours and how something comes again are read as they’re written; without a day it counts from the due date', () => {
    const details = {
      due: '2027-03-08',
      effort: 12.5,
      spent: 3,
      again: { rule: 'FREQ=WEEKLY;BYDAY=MO', from: '2027-03-01' },
    }
    const [back] = readCsv(writeCsv([{ title: 'Alarm', details, children: [] }], String))
    expect(back!.details).toEqual(details)
    const said = (rule: string): unknown => readCsv(`title,due,RRULE\nA,2027-03-08,${rule}\n`)[0]!.details?.again
    expect(said('rrule:freq=daily')).toEqual({ rule: 'FREQ=DAILY', from: '2027-03-08' })
    expect(said('every day')).toBeUndefined()
    expect(readCsv('title,rrule\nA,FREQ=DAILY\n')[0]!.details).toBeUndefined()
  })

  it('reads quotes, line breaks and commas in cells as RFC 4180, section 2, has them', () => {
    // The cells of rules 5 to 7 of RFC 4180: "b CRLF bb" and "b""bb".
    expect(read('title\r\n"aaa"\r\n"b\r\nbb"\r\n"b""bb"\r\n"c,c"\r\n')).toEqual([
      ['aaa'],
      ['b\r\nbb'],
      ['b"bb'],
      ['c,c'],
    ])
  })
  it('nests by a parent column, by id or by title, in whatever order rows come', () => {
    const wanted: Titles[] = [['Fit-out', ['Shelving', ['Oak']], ['Lift']], ['Books']]
    expect(read('id,parent,name\n3,2,Oak\n1,,Fit-out\n2,1,Shelving\n4,1,Lift\n5,,Books')).toEqual(wanted)
    expect(read('Topic;Under\nFit-out;\nShelving;Fit-out\nOak;Shelving\nLift;Fit-out\nBooks;')).toEqual(wanted)
  })
  it('nests by numbers of parts, whatever their order, past what is missing; whole numbers alone are no levels', () => {
    expect(read('no.,task\n1,Fit-out\n1.1,Shelving\n1.1.2.,Oak\n2.3.1,Crates\n1.10,Lift\n2,Books\n1.02,Paint')).toEqual(
      [
        ['Fit-out', ['Shelving', ['Oak']], ['Lift'], ['Paint']],
        ['Books', ['Crates']],
      ],
    )
    expect(read('id,task\n1,Fit-out\n2,Books')).toEqual([['Fit-out'], ['Books']])
    expect(read('id,task\n1,Fit-out\n1.1,Lift\nx,Books')).toEqual([['Fit-out'], ['Lift'], ['Books']])
    expect(() => read('no,task\n1.2,Fit-out\n1.02,Lift')).toThrow('Rows 2 and 3 have the same number, 1.2')
    expect(() => read(`no,task\n1,A\n${'1.'.repeat(5000)}1,B`)).toThrow(/deeper than/)
  })

  it('nests by a level column', () => {
    expect(read('level,task\n1,Fit-out\n2,Shelving\n3,Oak\n2,Lift\n1,Books')).toEqual([
      ['Fit-out', ['Shelving', ['Oak']], ['Lift']],
      ['Books'],
    ])
  })
  it('takes dates, lengths and progress, and leaves out what can’t be one', () => {
    expect(
      readCsv(
        'title,start,due,days,% complete,priority\nLift,2027-03-01,2027-03-30T00:00,12.5,40%,2\nLamps,soon,2027-02-30,x,140,9',
      ),
    ).toEqual([
      {
        title: 'Lift',
        details: { start: '2027-03-01', due: '2027-03-30', duration: 12.5, done: 40, priority: 2 },
        children: [],
      },
      { title: 'Lamps', children: [] },
    ])
  })
  it.each([
    [
      'a loop of parents, naming it',
      'id,parent,title\n1,3,A\n2,1,B\n3,2,C',
      /“A” \(row 2\), “C” \(row 4\), “B” \(row 3\)/,
    ],
    ['a row that is its own parent', 'id,parent,title\n1,1,A', /each other’s parents: “A”/],
    ['a parent that isn’t there', 'id,parent,title\n1,,A\n2,9,B', /Row 3: its parent, “9”/],
    ['an id twice', 'id,parent,title\n1,,A\n1,,B', /Rows 2 and 3/],
    ['a level that is none', 'level,title\none,A', /Row 2: its level/],
    ['no title column', 'colour,size\nred,9', /No column is called/],
    ['no rows', 'title\n', /no rows/],
    ['a quote that never ends', 'title\n"A\nB', /isn’t closed/],
  ])('refuses %s', (_, text, words) => {
    expect(() => readCsv(text)).toThrow(words)
  })
})

describe('CSV out', () => {
  it('comes back as it was, for any titles, and an independent reader finds the same cells', () => {
    const title = fc
      .string({ unit: 'grapheme', minLength: 1, maxLength: 20 })
      .map(text => text.trim().replace(/^'/, '’').replace(/\r/g, '') || 'x')
    const leaf: fc.Arbitrary<OutlineItem> = title.map(text => ({ title: text, children: [] }))
    const grown = (depth: number): fc.Arbitrary<OutlineItem> =>
      depth === 0 ? leaf : fc.record({ title, children: fc.array(grown(depth - 1), { maxLength: 2 }) })
    const item = grown(3)
    fc.assert(
      fc.property(fc.array(item, { minLength: 1, maxLength: 4 }), items => {
        const text = writeCsv(items, () => '')
        expect(read(text)).toEqual(items.map(titles))
        // Level, title, people, markers, and a column for each of the ten fields that tables have.
        expect(Papa.parse<string[]>(text.trimEnd()).data.every(row => row.length === 14)).toBe(true)
      }),
    )
  })
  it('has times of day in columns of their own, and reads them in the day’s cell and in words, too', () => {
    const at = { start: '2027-06-05', startTime: '07:30', due: '2027-06-05', dueTime: '08:15' }
    const text = writeCsv([{ title: 'Van', details: at, children: [] }], () => '')
    expect(readCsv(text)[0]!.details).toEqual(at)
    expect(readCsv('title,start,due\nVan,2027-06-05 7:30,2027-06-05T08:15:00')[0]!.details).toEqual(at)
    expect(
      readCsv('title,start,start time,due,due time\nVan,2027-06-05,7:30 am,2027-06-05,08:15:00')[0]!.details,
    ).toEqual(at)
    // The cell of its own is what counts; what is no time stays out.
    expect(
      readCsv('title,due,due time\nVan,2027-06-05 07:30,9:00\nKeys,2027-06-05 27:30,noonish').map(one => one.details),
    ).toEqual([{ due: '2027-06-05', dueTime: '09:00' }, { due: '2027-06-05' }])
  })
  it('guards cells that a spreadsheet program would run', () => {
    const text = writeCsv(
      [
        { title: '=HYPERLINK("x")', children: [] },
        { title: ' +1', children: [] },
      ],
      () => '',
    )
    expect(text).toContain('"\'=HYPERLINK(""x"")"')
    expect(read(text)).toEqual([['=HYPERLINK("x")'], ['+1']])
  })
})
