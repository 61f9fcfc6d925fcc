/** What was said in the demo's plan of the move: by whom (place in the list of people), in how many days past, on which topic. */
export interface DemoSaid {
  readonly by: number
  readonly ago: number
  /** `@0` names the first of the people. */
  readonly text: string
}
export interface DemoThread {
  /** Title of the topic. */
  readonly on: string
  readonly settled?: boolean
  readonly said: readonly DemoSaid[]
}

export const COMMENTS: readonly DemoThread[] = [
  {
    on: 'Carpet or cork?',
    said: [
      {
        by: 1,
        ago: 3,
        text: 'Cork is quieter under chairs, and the tannery’s floor is cold. The sample lies on my desk.',
      },
      { by: 0, ago: 2, text: 'It costs 1,140 more than the carpet. Does the reserve bear that?' },
      { by: 2, ago: 1, text: 'If the lamps stay within their sum, @0, yes. I know on Thursday.' },
    ],
  },
  {
    on: 'Rota for the move week',
    settled: true,
    said: [
      { by: 3, ago: 6, text: 'Can the volunteers begin at ten on the Saturday? The bus comes at 9.40.' },
      { by: 0, ago: 5, text: 'Yes, the vans aren’t there before ten either.' },
    ],
  },
]

export const BENCH_LINES: readonly DemoSaid[] = [
  { by: 1, ago: 2, text: 'The vans are booked: both days, with two drivers each.' },
  { by: 3, ago: 1, text: 'The old clock weighs 80 kilos. We need a trolley for it, not a strong back.' },
  { by: 0, ago: 1, text: 'The lift firm has one. I ring them when I ask about the shaft.' },
]
