import { command, looking } from '../command'

/** The plan. What it takes is loaded when it's first done. */
const acting = () => import('~/schedule/acting')

export const PLAN = [
  looking('Plan', 'schedule', 'Schedule', desk => {
    desk.view.value = 'schedule'
  }),
  looking('Plan', 'board', 'Board', desk => {
    desk.view.value = 'board'
  }),
  looking('Plan', 'figures', 'Figures', desk => {
    desk.view.value = 'figures'
  }),
  command('Plan', 'wait-for', 'Waits for …', (_, house) => house.choose('wait'), 'more'),
  command('Plan', 'wait-abroad', 'Waits for another tree …', (_, house) => house.choose('wait-abroad'), 'more'),
  command('Plan', 'look-abroad', 'Look at other trees again', desk =>
    import('~/schedule/abroad').then(({ lookAgain }) => lookAgain(desk)),
  ),
  command(
    'Plan',
    'later',
    'Begin a working day later',
    desk => acting().then(({ shift }) => shift(desk, desk.selected(), 1)),
    'more',
  ),
  command(
    'Plan',
    'sooner',
    'Begin a working day sooner',
    desk => acting().then(({ shift }) => shift(desk, desk.selected(), -1)),
    'more',
  ),
  command(
    'Plan',
    'longer',
    'A working day longer',
    desk => acting().then(({ lengthen }) => lengthen(desk, desk.selected(), 1)),
    'more',
  ),
  command(
    'Plan',
    'shorter',
    'A working day shorter',
    desk => acting().then(({ lengthen }) => lengthen(desk, desk.selected(), -1)),
    'more',
  ),
  looking('Plan', 'next-critical', 'Next that must not slip', desk =>
    acting().then(({ nextOnPath }) => nextOnPath(desk)),
  ),
  command('Plan', 'plan-on-planks', 'The plan on the planks', desk =>
    acting().then(({ planOnPlanks }) => planOnPlanks(desk)),
  ),
  command('Plan', 'plan-dates', 'Let the plan set the dates', desk =>
    acting().then(({ letPlanSetDates }) => letPlanSetDates(desk)),
  ),
]
