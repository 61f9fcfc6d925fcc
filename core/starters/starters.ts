import { FIRST_PATTERNS } from '../tree/patterns'
import type { Starter } from './starter'

const PATTERN = FIRST_PATTERNS[0]!

/** Ours: content, order and words. */
export const STARTERS: readonly Starter[] = [
  {
    id: 'meeting-brief',
    name: 'Meeting brief',
    purpose: 'Why we meet, what must be settled, and the way there.',
    arrangement: 'right',
    look: 'porch',
    meetings: [
      {
        title: null,
        musts: ['First thing', 'Second thing'],
        items: [
          { title: 'What is new', intent: 'inform', minutes: 10, serves: [], pattern: [] },
          { title: 'First thing', intent: 'decide', minutes: 25, serves: [0], pattern: PATTERN },
          { title: 'Second thing', intent: 'decide', minutes: 20, serves: [1], pattern: PATTERN },
          { title: 'Who does what by when', intent: 'decide', minutes: 5, serves: [], pattern: [] },
        ],
      },
    ],
    lines: `What is new
First thing
  Where it stands
  What worries us
  What we propose
Second thing
  Where it stands
  What worries us
  What we propose
Who does what by when
Before we meet
  Each owner fills in their section // due in 3 days
  Documents attached // due in 3 days`,
  },
  {
    id: 'meeting-series',
    name: 'Meeting series',
    purpose: 'A standing meeting: its frame, and one branch for each date.',
    arrangement: 'right',
    look: 'porch',
    meetings: [
      {
        title: 'Meeting 1',
        musts: [],
        items: [
          { title: 'News', intent: 'inform', minutes: 10, serves: [], pattern: [] },
          { title: 'First item', intent: 'discuss', minutes: 20, serves: [], pattern: PATTERN },
          { title: 'Next steps', intent: 'decide', minutes: 10, serves: [], pattern: [] },
        ],
      },
    ],
    lines: `Meeting 1
  News
  First item
    Where it stands
    What worries us
    What we propose
  Next steps
The frame
  What this series is for
  Who comes
  How often, how long
Open from before
  Actions
  Questions // question
Decisions so far // decision`,
  },
  {
    id: 'project-plan',
    name: 'Project plan',
    purpose: 'From the goal to phases, milestones, risks and people.',
    arrangement: 'right',
    look: 'harbour',
    lines: `Goal
  What will be different when it’s done
  How we will know
Phases
  Prepare // due in 3 weeks
    Agree the scope // 3 days
    Name the people // 2 days
  Do // due in 10 weeks
    First part // 10 days
    Second part // 10 days
  Hand over // due in 12 weeks
    Show people how it works // 2 days
    Close the books // 1 day
Milestones
  Scope agreed // due in 2 weeks
  Half way // due in 6 weeks
  Handed over // due in 12 weeks
Risks // risk
  What could stop us
  What we would do then
People
  Leads
  Does
  Is asked
  Is told
Not part of this`,
  },
  {
    id: 'work-breakdown',
    name: 'Work breakdown',
    purpose: 'The whole as parts, the parts as pieces of work one person can finish.',
    arrangement: 'down',
    look: 'slate',
    lines: `First part
  Piece of work // 2 days
  Piece of work // 3 days
Second part
  Piece of work // 5 days
  Piece of work // 1 day
    Step
    Step
Third part
  Piece of work // 2 days
Steering
  Planning // 2 days
  Reporting // 1 day
  Acceptance // 1 day`,
  },
  {
    id: 'budget',
    name: 'Budget',
    purpose: 'What comes in, what goes out, what is kept back.',
    arrangement: 'right',
    look: 'ledger',
    measures: {
      of: [{ name: 'Amount', decimals: 2, rollUp: 'sum' }],
      // What is left.
      centre: [
        { sign: '+', of: 'Comes in' },
        { sign: '−', of: 'Goes out' },
        { sign: '−', of: 'Kept back' },
      ],
    },
    lines: `Comes in
  Grant // costs money
  Own means
  Gifts
Goes out
  People
    Hours of our own
    Firms
  Things
    Bought
    Hired
  Rooms
  Travel
  Fees and insurance
Kept back
  For what we know may happen
  For what we don’t
Still to ask // question
  Offers that are missing
Rules
  Who may order
  Up to which sum`,
  },
  {
    id: 'strengths',
    name: 'Strengths and weaknesses',
    purpose: 'Inside and outside, for and against, and what follows from it.',
    arrangement: 'both',
    look: 'porch',
    lines: `Strengths (inside, for us)
  What we do well
  What others lack
Weaknesses (inside, against us)
  What costs us effort
  What we put off
Chances (outside, for us)
  What is changing in our favour
Threats (outside, against us)
  What could hit us
What follows // decision
  Use a strength for a chance
  Mend a weakness before a threat
  Let something go`,
  },
  {
    id: 'decision',
    name: 'Decision with options',
    purpose: 'One question, what counts, the options side by side, and what was chosen.',
    arrangement: 'both',
    look: 'porch',
    measures: {
      of: ['Price', 'Quality', 'Trust'].map(name => ({ name, decimals: 0, rollUp: 'none' })),
      choice: 'Options',
    },
    lines: `The question // question
  Why now
  Who decides, by when // due in 2 weeks
What counts
  Must have // must
  Should have // should
  Nice to have // could
Options
  Option A
    For
    Against
    Cost and time // costs money
  Option B
    For
    Against
    Cost and time // costs money
  Do nothing
    What happens then
Decision // decision
  What we chose, and why
  What would make us think again`,
  },
  {
    id: 'retrospective',
    name: 'Retrospective',
    purpose: 'What happened, how it felt, what we keep, what we try.',
    arrangement: 'around',
    look: 'bunting',
    lines: `What happened
  The facts, in order
How it felt
  Good moments // glad
  Hard moments // uneasy
Keep
  What worked
Stop
  What cost more than it gave
Try // idea
  One thing, small enough for next week // due in 1 week
Thanks
  To whom, for what`,
  },
  {
    id: 'event',
    name: 'Event with a run-sheet',
    purpose: 'A day people come to: before, the hours of the day, after.',
    arrangement: 'right',
    look: 'bunting',
    lines: `What it is
  For whom
  What they take home
Before
  Room and permits // due in 4 weeks
  Speakers and guests // due in 3 weeks
  Invitations out // due in 4 weeks
  Food and drink // due in 1 week
Run-sheet // due in 6 weeks
  08:00 Set up
  09:30 Doors
  10:00 Welcome
  10:20 First part
  11:30 Break
  12:00 Second part
  13:00 Food
  15:00 Close
  15:15 Clear away
People on the day
  Door
  Stage
  First aid
  Photos
If it goes wrong // risk
  Rain
  Somebody doesn’t come
After
  Thanks
  Bills
  What we learned`,
  },
  {
    id: 'risks',
    name: 'Risk register',
    purpose: 'What could happen, how likely, how bad, and who watches it.',
    arrangement: 'right',
    look: 'tannery',
    lines: `Time // risk
  A delivery comes late
    Likely, and costs two weeks
    Watch: ask each Friday
    Then: second supplier
Money // risk
  A price rises
    Possible, and costs a tenth
    Watch: offers older than a month
People // risk
  Somebody falls ill
    Likely in winter
    Then: who can stand in
Things // risk
  Something doesn’t fit
    Rare, but dear
    Watch: measure twice
From outside // risk
  A rule changes
Closed
  Didn’t happen
  Happened, and this is what we did`,
  },
  {
    id: 'new-colleague',
    name: 'New colleague’s first weeks',
    purpose: 'From the day before the first day to the talk after six weeks.',
    arrangement: 'time',
    look: 'fern-bed',
    lines: `Before the first day // due in 1 week
  Desk, keys, accounts
  A note to the team
  Who shows them around
First day // due in 2 weeks
  Welcome and a walk through the house
  Lunch with the team
  One small thing to finish
First week // due in 3 weeks
  Meets everyone they will work with
  Reads what we wrote down
  Sits in on a meeting
First month // due in 6 weeks
  Takes over a task of their own
  Asks what makes no sense here // question
Talk after six weeks // due in 8 weeks
  What goes well // glad
  What is missing // unsure
  What comes next`,
  },
  {
    id: 'move',
    name: 'Moving house',
    purpose: 'An office, a branch or a household goes from one address to another.',
    arrangement: 'both',
    look: 'tannery',
    lines: `The new place
  Measure
  What has to be built
  Permits // question
What comes along
  Things
  What is thrown away
  What is bought new // costs money
The week itself // due in 6 weeks
  Pack
  Carry
  Unpack what is needed first // must
People
  Firm that carries
  Helpers
  Who has the keys
Everyone who must know
  Post
  Neighbours
  Web site
The old place
  Clean
  Hand over`,
  },
]

export function starterOf(id: string): Starter | undefined {
  return STARTERS.find(starter => starter.id === id)
}
