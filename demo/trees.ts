import type { DemoTree } from './tree'

export type { DemoTree } from './tree'
export { MOVE } from './move'

export const MEETINGS: DemoTree = {
  title: 'Coordination meetings',
  description: 'Every second Tuesday in the drying loft. One branch a meeting, the newest first.',
  tags: ['tannery', 'meetings'],
  folded: ['Meeting 1'],
  notes: {
    'Shelving is late':
      'Ines: the count took longer because of the cellar. The joiner can still make it if we order this week.',
    'Two offers for the removal':
      'Two Rivers Carriers: five days, crates lent. Lindqvist Removals: four days, crates extra. Both are free in the move week.',
  },
  links: {
    'Two offers for the removal': [
      { url: 'https://carriers.example/offers/library', title: 'Offer of Two Rivers Carriers' },
    ],
  },
  shows: [{ under: 'Shelving is late', title: 'Shelving' }],
  series: {
    zone: 'Europe/Copenhagen',
    time: '14:00',
    where: 'Drying loft, second floor',
    people: [
      { name: 'Ines', needed: true, role: 'chair' },
      { name: 'Rana', needed: true, role: 'notes' },
      { name: 'Oskar', needed: true, role: null },
      { name: 'Lev', needed: false, role: null },
      { name: 'Tove Lind', needed: false, role: null, mail: 'tove@oakjoiners.example' },
    ],
    meetings: [
      {
        title: 'Meeting 3',
        back: 0,
        slot: 60,
        why: 'So that the move has a firm and a date that holds before the lease runs out.',
        musts: ['Which removal firm', 'Does the shelving date hold', 'Where the lorry may stand'],
        items: [
          {
            title: 'Shelving is late',
            intent: 'discuss',
            minutes: 15,
            serves: ['Does the shelving date hold'],
            pattern: ['Where it stands', 'What worries us', 'What we propose'],
            asked: true,
          },
          {
            title: 'Two offers for the removal',
            intent: 'decide',
            minutes: 20,
            serves: ['Which removal firm'],
            pattern: ['Where it stands', 'What worries us', 'What we propose'],
            asked: true,
          },
          { title: 'Neighbours', intent: 'inform', minutes: 10 },
          { title: 'Next steps', intent: 'decide', minutes: null },
        ],
      },
      {
        title: 'Meeting 2',
        back: 2,
        slot: 60,
        why: 'Agree how books travel, so that packing can be planned.',
        musts: ['How crates are marked', 'How long fiction takes'],
        came: { Lev: false, 'Tove Lind': false },
        items: [
          {
            title: 'Crates and colours',
            intent: 'decide',
            minutes: 20,
            spent: 26,
            serves: ['How crates are marked', 'How long fiction takes'],
          },
          { title: 'Offers for the removal', intent: 'discuss', minutes: 15, spent: 19 },
          { title: 'Keys and doors', intent: 'discuss', minutes: 10, spent: 12 },
          { title: 'Next steps', intent: 'decide', minutes: 10, spent: 6 },
        ],
      },
      {
        title: 'Meeting 1',
        back: 4,
        slot: 60,
        why: 'Begin with one picture of what has to be done.',
        musts: ['When the move week is'],
        came: { 'Tove Lind': false },
        items: [
          { title: 'The rooms', intent: 'inform', minutes: 20, spent: 21 },
          { title: 'The move week', intent: 'decide', minutes: 20, spent: 31, serves: ['When the move week is'] },
          { title: 'Next steps', intent: 'decide', minutes: 10, spent: 9 },
        ],
      },
    ],
    done: {
      'Insurance for helpers': ['Rana', 12],
      'List of all rooms': ['Lev', 15],
      'Get a second offer for the removal': ['Oskar', 3],
      'Count shelves in the cellar': ['Ines', 2],
    },
    record: {
      'Crates are marked by room colour': ['decision', 'Rana'],
      'Fiction moves in one day': ['decision', 'Rana'],
      'Labels in four colours need a printer': ['idea', 'Oskar'],
      'Get a second offer for the removal': ['action', 'Ines'],
      'Ask the scouts about steel shelves': ['action', 'Ines'],
      'Who holds the keys at night?': ['question', 'Oskar'],
      'Count shelves in the cellar': ['action', 'Oskar'],
      'Late opening on Thursdays': ['parked', 'Rana'],
      'Ask the town for a no-stopping zone': ['action', 'Ines'],
      'We keep the beams in sight': ['decision', 'Oskar'],
      'Move week is the first of next month': ['decision', 'Ines'],
      'Insurance for helpers': ['action', 'Ines'],
      'List of all rooms': ['action', 'Ines'],
      'Does the old clock come along?': ['question', 'Lev'],
    },
  },
  text: `Meeting 3
	Shelving is late // Ines, at risk
		Where it stands
			The cellar held more than the list
			Oak can be here in nine days
		What worries us
		What we propose
	Two offers for the removal // Oskar
		Where it stands
		What worries us
		What we propose
	Neighbours // Rana
	Next steps // Ines
Meeting 2
	Crates and colours // Rana
		Crates are marked by room colour
		Fiction moves in one day
		Labels in four colours need a printer
	Offers for the removal // Oskar
		Get a second offer for the removal // Oskar
		Count shelves in the cellar // Ines
		Ask the scouts about steel shelves // Rana, due 4 days ago, 50%
	Keys and doors // Ines
		Who holds the keys at night?
	Next steps // Ines
		Ask the town for a no-stopping zone // Oskar, due in 5 days
		Late opening on Thursdays
Meeting 1
	The rooms // Oskar
		We keep the beams in sight
		List of all rooms // Lev
	The move week // Ines
		Move week is the first of next month
		Does the old clock come along?
	Next steps // Ines
		Insurance for helpers // Rana
`,
}

export const TRAINING: DemoTree = {
  title: 'Training day plan',
  description: 'A small plan: one day, three stations, twelve people.',
  tags: ['training'],
  arrangement: 'down',
  folded: [],
  notes: { Stations: 'Groups of four change every 50 minutes.' },
  more: {
    'Welcome in the porch': { place: { name: 'Porch', lat: null, lon: null } },
    'Lending desk': { place: { name: 'Front room', lat: null, lon: null } },
    'Alarm and keys': { place: { name: 'Back door', lat: null, lon: null } },
    'First aid': { place: { name: 'Reading room', lat: null, lon: null } },
    'Soup is fetched': { place: { name: 'Kitchen of the school', lat: null, lon: null } },
    'Soup for everybody': { place: { name: 'Drying loft', lat: null, lon: null } },
  },
  text: `Before // Lev
	Room booked // Lev, done
	Handout // Lev, due in 14 days, 2 days, 30%
	Name list // Rana, due in 10 days
Stations // in 21 days 9:00 to 13:00
	Welcome in the porch // Ines, in 21 days 9:00 to 9:20
	Lending desk // Lev, in 21 days 9:30 to 10:20, 1 day
	Alarm and keys // Ines, in 21 days 10:30 to 11:20, 1 day
	First aid // Rana, in 21 days 11:30 to 12:20, 1 day
	Soup is fetched // Rana, in 21 days 12:00 to 12:30
	Soup for everybody // in 21 days 12:30 to 13:00
Afterwards
	Ask everyone one question // Ines, due in 22 days
	Write down what was unclear // Lev, due in 23 days
`,
}
