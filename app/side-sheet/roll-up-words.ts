import type { RollUp } from '#core/derive/roll-ups'
import { dayInWords } from '#core/schedule/days'

/** What a branch comes to, in one line: “3 of 7 done · 43 % · 4 May 2027 to 12 June 2027”. */
export function rollUpInWords({ tasks, done, percent, start, finish }: RollUp, locale: string): string {
  const said = [`${done} of ${tasks} done`]
  if (percent !== null) said.push(`${Math.round(percent)} %`)
  if (start !== null && finish !== null)
    said.push(
      start === finish ? dayInWords(start, locale) : `${dayInWords(start, locale)} to ${dayInWords(finish, locale)}`,
    )
  return said.join(' · ')
}
