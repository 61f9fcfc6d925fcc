import { toggleItem, toggleReady } from '~/meeting/doing'
import { type Command, command, looking } from '../command'
import { turnCard } from '../guide'

/** Meetings, and what belongs to the whole house. */
export const MEET: readonly Command[] = [
  command('Meet', 'make-meeting', 'Make it a meeting', (_, house) => house.makeMeeting(), 'more'),
  command('Meet', 'make-item', 'Make it an agenda item, or a topic again', desk => toggleItem(desk), 'more'),
  command('Meet', 'ready', 'My section is ready', desk => toggleReady(desk), 'more'),
  command('Meet', 'lay-out', 'Lay out the agenda', (_, house) => house.meetingDo('layOut')),
  command('Meet', 'ask-owners', 'Ask the owners to fill in their sections', (_, house) => house.meetingDo('request')),
  command('Meet', 'invite', 'Invite everybody, or send the change', (_, house) => house.meetingDo('invite')),
  command('Meet', 'begin-meeting', 'Begin the meeting', (_, house) => house.meetingDo('begin')),
  command('Meet', 'end-meeting', 'End the meeting', (_, house) => house.meetingDo('end')),
  command('Meet', 'mail-minutes', 'Mail the minutes to everybody', (_, house) => house.meetingDo('mail')),
  command('Meet', 'next-meeting', 'Next meeting of the series', (_, house) => house.meetingDo('next'), 'more'),
  looking('General', 'everything', 'Everything box', (_, house) => house.open('everything')),
  looking('General', 'help', 'Help', (_, house) => house.open('help')),
  looking('General', 'keys', 'List of keys', (_, house) => house.open('keys')),
  looking('General', 'ten-keys', 'The ten keys that matter', () => turnCard('ten')),
  looking('General', 'first-steps', 'First steps', () => turnCard('steps')),
  looking('Meet', 'vote', 'Vote …', (_, house) => house.open('vote'), 'more'),
  looking('General', 'about', 'Describe and tag the tree …', (_, house) => house.open('about')),
  looking('General', 'for-others', 'A copy for others …', (_, house) => house.open('forOthers')),
  looking('General', 'starter', 'Save the tree as a starter …', (_, house) => house.open('starter')),
  looking('General', 'share', 'Share', (_, house) => house.open('share')),
  looking('General', 'hand-out', 'Hand out', (_, house) => house.open('handout'), 'more'),
]
