import { MOVE_FIGURES } from './figures'
import { MOVE_PLAN } from './plan'
import type { DemoTree } from './tree'

/** The plan of the move: what everybody works on. */
export const MOVE: DemoTree = {
  title: 'Move to the tannery',
  description: 'Everything that has to happen until the branch opens by the river.',
  tags: ['tannery', 'plan'],
  plan: MOVE_PLAN,
  figures: MOVE_FIGURES,
  folded: [
    'Order of loading',
    'Volunteers',
    'Lift',
    'Programme',
    'Ideas for later',
    "Children's corner",
    'Power and network',
    'Lamps',
    'Book sale',
    'Catalogue',
    'Crates',
    'Invitations',
    'Food and drink',
    'Move week',
    'Fit-out costs',
    'Old branch',
    'Rota for the move week',
    'Neighbours',
    'Ramp and doors',
    'Removal firm',
  ],
  notes: {
    Shelving:
      'The joiner needs the final count **by Friday**. Oak for the front room, the rest can be painted pine.\n\nOld steel shelves stay in the cellar.',
    Lift: 'Two firms answered:\n\n- Halvard Lifts: 12 weeks, includes the shaft cladding\n- Norrby & Daughter: 9 weeks, cladding extra\n\nThe shaft must be dry before either can measure.',
    Volunteers: 'Ask again at the reading evening. People like to be asked by name.',
    Grant: 'Second half is paid when the *ramp* has been approved.',
    'Sort before packing': 'What has not been lent for eight years and is in another branch goes to the book sale.',
    'Reading room': 'Keep the beams in sight. No ceiling panels.',
    'Opening day':
      '# What people should remember\n\n1. The smell of new wood\n2. The river through the big window\n3. That they found their shelf again',
  },
  links: {
    'Reading room': [{ url: 'https://tannery.example/plans/reading-room', title: 'Plan of the reading room' }],
    'Removal firm': [
      { url: 'mailto:office@carriers.example?subject=Offer%20for%20the%20library', title: 'Write to the carriers' },
    ],
    'Bus stop moved?': [{ url: 'https://town.example/works/bridge-street', title: 'Works on Bridge Street' }],
  },
  more: {
    'Opening day': { place: { name: 'The tannery, Bridge Street', lat: 59.35, lon: 18.1 } },
    'Order of loading': { annex: true },
  },
  checks: {
    Shelving: [
      'x Measure the front room',
      'x Ask the joiner for oak',
      'Choose the stain',
      'Brackets for the window seats',
    ],
    'Bakery at the bridge': ['Ask for 300 buns', 'Who carries them over?'],
  },
  ties: [
    { from: 'Shelving', to: 'Removal firm', label: 'same lorry', ends: 'to' },
    { from: 'Ramp and doors', to: 'Grant', label: 'pays the second half', ends: 'to' },
  ],
  text: `Fit-out // Oskar, 58%
	Shelving // Ines, start 9 days ago, due 2 days ago, 6 days, 40%, at risk
		Count what we have // Ines, done
		Order oak shelves // Ines, due in 3 days
			Front room, 84 metres
			Window seats, 12 metres
		Paint pine shelves // Lev, due in 16 days, 4 days
		Old shelves to the scouts // Rana, due in 20 days
	Reading room // due in 30 days
		Lamps // Oskar, due in 12 days, 25%
			Desk lamps, 22
			Pendant lamps, 9
		Carpet or cork? // question
		Curtains to the river // Rana, due in 24 days
		Big table from the old branch
	Lift // Oskar, due in 9 days, stuck
		Shaft dry? // question
		Measure // due in 11 days, 1 day
		Order // due in 13 days
		Cladding
		Acceptance by the inspector // due in 70 days
		Emergency call line
		Sign for the weight limit
	Children's corner // Rana, 10%
		Low shelves // due in 18 days
		Rug and cushions
		A tannery made of cardboard // idea
		Place for prams
	Power and network // Lev, 75%
		Sockets at every desk // done
		Network cabinet // Lev, done
		Radio survey // Lev, due in 5 days, 50%
		Second line from the street // at risk, due in 21 days
	Ramp and doors // Oskar, 30%
		Ramp approved // due in 14 days, important
		Door openers // due in 28 days
		Mat in the porch
Books // Rana, 21%
	Sort before packing // decision
		Fiction // Rana, done
		Non-fiction // Rana, due in 6 days, 60%
		Local history // Lev, due in 8 days
		Maps and newspapers // due in 10 days, stuck
	Crates // Rana, due in 12 days
		400 crates from the carriers // due in 10 days
		Labels in four colours // Lev, due in 7 days, 80%
		Book trolleys, 12
	Order of loading // due in 26 days
		Colour by room // decision
		Magazine first
		Fiction A to K
		Fiction L to Z
		Non-fiction by class
		Local history in the director's car
		Children's books last
		List on every crate
		Photograph each shelf
		Spare day
		Who opens which door
		Where the lorry may stand
	Book sale // Ines, due in 19 days
		Tables from the school
		Cash box
		Poster // Rana, due in 9 days
	Catalogue // Lev
		New shelf marks // Lev, due in 22 days, 4 days
		Closed for lending, notice // due in 15 days
		Return box outside
Opening day // Ines, due in 86 days
	Programme
		Speeches, short
			Mayor
			The last tanner's granddaughter
			Two young readers
		Choir on the stairs
		Tours every half hour
		Reading for children // Rana
		Music by the river
		Open until nine
	Invitations // Ines, due in 45 days
		List of guests // due in 30 days
		Card // Rana, due in 35 days
		Notice in the paper
	Food and drink
		Bakery at the bridge
		Coffee, and tea in quantity
		Cups for 300 // question
	Run sheet // due in 75 days
	Doors open // due in 86 days
	If it rains // idea
People // Ines
	Volunteers // Rana, 35%
		Packing team, 14 people
		Unpacking team, 20 people
		Lunch for the helpers
		Thank-you evening // idea
		Insurance asked // done
	Training day // Lev, due in 21 days
		New lending desk
		Alarm and keys
		First aid
	Rota for the move week // Ines, due in 17 days
		Nobody lifts alone // important
		Two people at the old door
	Neighbours
		Letter to Bridge Street // Ines, due in 4 days
		Coffee morning in the porch // idea
Money // Ines, on track
	Grant // on track, 50%
		First half received // done
		Report for the second half // Ines, due in 33 days, every 6 months
	Fit-out costs
		Shelving, 14 350
		Lamps, 3 900
		Lift, 18 200
		Doors, 2 950
	Removal firm // Oskar, due in 8 days
		Offer from Two Rivers Carriers
		Offer from Lindqvist Removals // information
		Offer from Ferry & Sons // information
		Decide // Oskar, due in 8 days
	Reserve // information
Move week // Ines, due in 34 days
	Monday: magazine // Rana, due in 30 days, 1 day
	Tuesday: fiction // Rana, due in 31 days, 1 day
	Wednesday: non-fiction // Lev, due in 32 days, 1 day
	Thursday: local history // Lev, due in 33 days, 1 day
	Friday: children's books // Rana, due in 34 days, 1 day
	Lorry
		No-stopping zone // Oskar, due in 5 days
		Tail lift on both lorries
	Packing table and tape
	Radio sets for both doors // Lev
	Soup at noon // idea
Old branch // Oskar
	Lease ends // due in 60 days, important
	Hand over keys // Oskar, due in 58 days
	Take down the sign // due in 50 days
	Clean and paint // Lev, due in 55 days
	Forward the mail // due in 40 days
Open questions
	Who holds the keys? // question, Oskar
	Bus stop moved? // question, Rana
	Does the old clock come along? // question
	Name of the reading room? // question
Ideas for later
	River reading in summer // idea
	Exhibition about leather and books // idea
	Tool library in the drying loft // idea
	Late opening on Thursdays
`,
}
