import { toggleItem, toggleReady } from '~/meeting/doing'
import { type Command, command, looking } from '../command'

/** Meetings, and what belongs to the whole house. */
export const MEET: readonly Command[] = [
  command(
    'Meet',
    'make-meeting',
    'Make it a meeting',
    'Gives the topic a brief: why, what must be settled, the way there, when and who.',
    (_, house) => house.makeMeeting(),
    'more',
  ),
  command(
    'Meet',
    'make-item',
    'Make it an agenda item, or a topic again',
    'An item of the meeting it stands in, with minutes and an owner.',
    desk => toggleItem(desk),
    'more',
  ),
  command(
    'Meet',
    'ready',
    'My section is ready',
    'Tells the lead that what was asked for is filled in; again takes it back.',
    desk => toggleReady(desk),
    'more',
  ),
  command(
    'Meet',
    'lay-out',
    'Lay out the agenda',
    'Makes the lines of the brief topics, with owners, minutes and inner pattern. Again, it adds what is missing.',
    (_, house) => house.meetingDo('layOut'),
  ),
  command(
    'Meet',
    'ask-owners',
    'Ask the owners to fill in their sections',
    'A letter to each, with the way straight to the section.',
    (_, house) => house.meetingDo('request'),
  ),
  command('Meet', 'invite', 'Invite everybody, or send the change', 'Letters with a calendar file.', (_, house) =>
    house.meetingDo('invite'),
  ),
  command('Meet', 'begin-meeting', 'Begin the meeting', 'The clock runs for everybody.', (_, house) =>
    house.meetingDo('begin'),
  ),
  command('Meet', 'end-meeting', 'End the meeting', 'The minutes are there at once.', (_, house) =>
    house.meetingDo('end'),
  ),
  command('Meet', 'mail-minutes', 'Mail the minutes to everybody', 'Each with their own actions first.', (_, house) =>
    house.meetingDo('mail'),
  ),
  command(
    'Meet',
    'next-meeting',
    'Next meeting of the series',
    'The same people and shape, the next day by the rule, with what is still open.',
    (_, house) => house.meetingDo('next'),
    'more',
  ),
  looking('General', 'everything', 'Everything box', 'Topics, trees and commands by name.', (_, house) =>
    house.open('everything'),
  ),
  looking('General', 'help', 'Help', 'Short pages on everything, with a search.', (_, house) => house.open('help')),
  looking('General', 'keys', 'List of keys', 'Every key; each can be changed.', (_, house) => house.open('keys')),
  looking('General', 'about', 'Describe and tag the tree …', 'What it is for, and words to find it by.', (_, house) =>
    house.open('about'),
  ),
  looking('General', 'starter', 'Save the tree as a starter …', 'For new trees that begin like this one.', (_, house) =>
    house.open('starter'),
  ),
  looking('General', 'share', 'Share', 'Who may see and change this tree.', (_, house) => house.open('share')),
]
