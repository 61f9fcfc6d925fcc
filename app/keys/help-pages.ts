/**
 * A short page of the help. `body`: paragraphs; keys are written as {command}, and come out as the key that command
 * has.
 */
export interface HelpPage {
  readonly id: string
  readonly title: string
  readonly body: readonly string[]
}

export const HELP: readonly HelpPage[] = [
  {
    id: 'begin',
    title: 'Begin a tree',
    body: [
      'On Trees, New tree offers a blank one, a starter, or a file. A blank tree has a centre that names it. Type over it, then {child} begins the first topic and Enter the next.',
      'First steps leads through seven real acts on a tree of your own, each with its keys; leave it and take it up as you like. {ten-keys} shows the ten keys that matter, and hides them.',
      'A starter is a tree that others begin from. Twelve come with the app. {starter} Save the tree as a starter, in the everything box, makes one of your own; it takes titles, order, markers and looks along. Notes, people, dates, progress, links, files, figures and records stay behind unless you choose them, and you see what would travel.',
      '{for-others} A copy for others makes a tree of the same kind for people who aren’t in yours, and asks them in by letter.',
      'Files: Markdown, OPML, CSV with a parent or a level column, nested text, HTML lists, and our own JSON. A file that can’t be read makes nothing and says why.',
      '{duplicate} duplicates a branch or the whole tree, with or without notes, people, dates and progress, and can move all dates by a number of days.',
    ],
  },
  {
    id: 'pour',
    title: 'Pour out',
    body: [
      'While a title is open, Enter keeps it and opens the next, Tab goes one level in, Shift+Tab one level out. Nothing else is needed: forty topics are forty lines.',
      'Or pull: the peg at the end of the selected topic, pulled to empty ground, is a child at that place; pulled onto another topic it ties the two. While a title is typed the foot says where it will hang, and {title-turn} turns a sibling into a child, or back.',
      'A list from anywhere pastes as branches: tabs, spaces, bullets, Markdown, HTML lists.',
      'After // plain words become details: people, dates such as “fri” or “in 2 weeks”, lengths, “40%”, markers by name. What is understood shows as chips while you type.',
      'A day may have a time: “fri 14:30” in the Start or Due of the side sheet, or after //, where “5 Jun 10:00 to 12:00” says both. The run-sheet in the calendar has a day by its times, with who is where, says who would have to be in two places, and prints it. Whose wall the times are on is chosen there; along a time axis a day or two are shown by the hour.',
      'A task can come again: “every Monday”, “every 2 weeks” or “every month” after //, or Comes again in the side sheet. {done} does the turn that is open, and its due date goes on to the next; days that are closed are skipped. Turns that were done stand in the side sheet, those to come in the calendar.',
    ],
  },
  {
    id: 'tray',
    title: 'The tray',
    body: [
      '{tray} opens the tray, a list of lines that belong nowhere yet. Write a line, Enter, the next. Or paste many at once.',
      'To file: choose lines with the arrows (Shift for several), then type the first letters of the topic they belong under, and Enter. Or drag them to the tree; the slot shows where they will stand.',
      'The tray belongs to the tree: the others see it and can file too.',
    ],
  },
  {
    id: 'order',
    title: 'Put in order',
    body: [
      'Drag a topic: a sun-coloured slot shows where the branch will stand, under what, and whether it takes the colour there or keeps its own: {drag-colour} while dragging, or another finger, switches. Esc cancels.',
      'By key: {move-up} {move-down} {move-in} {move-out}. {wrap} puts a new parent around the selection, {insert} a new topic between a topic and its children.',
      '{join} joins selected topics, {split} splits one by its lines or sentences, {apart} takes a branch apart so that its children come up; right after {remove} the same key, or the notice, keeps what was below.',
      'Children are sorted by title, due date, priority, progress, the figure in their titles, or the weekdays, months and ordinals that they name, or reversed, from the menu of their parent.',
      '{move-under} moves the selection under another topic by a few letters of its title. A branch dropped on empty canvas, or {detach}, is loose; {move-under} attaches it again. A loose topic can become another centre. {to-tray} puts the selection in the tray.',
    ],
  },
  {
    id: 'arrange',
    title: 'Arrangements',
    body: [
      '{arrange} opens the arrangements: both sides, rightward, leftward, downward, around the centre, along a time axis, by hand. For the tree, or for one branch of it.',
      'Along a time axis, each main branch hangs from its date: its start, or its due date, or the earliest below it.',
      'By hand, topics stay where you put them, counted from their parent, so that a branch moves as one. Lines show when edges meet. With several selected a strip offers to line them up with the one that has the focus, to spread them evenly, and to lift them over others, step by step. Places are kept when you change the arrangement and come back.',
      'A dial sets the space, opened into two for along and across; of the tree, or of one branch. On both sides the order goes down the right side and on round the centre; Even out the sides says where the right one ends.',
    ],
  },
  {
    id: 'see',
    title: 'See the whole, see the part',
    body: [
      'Folds are your own: {fold} folds a branch, {depth-1} to {depth-6} open the tree to a depth, {depth-all} opens all. Nobody else’s view changes.',
      '{only} shows one branch alone, and brings you back. {fit} fits everything, {fit-selection} zooms to the selection, {overview} opens the overview, whose frame can be pushed.',
      '{find} finds words in titles; what doesn’t match steps back. {find-next} and {find-previous} go from one to the next.',
      'Arrow keys go to the topic that lies that way on the screen.',
    ],
  },
  {
    id: 'mark',
    title: 'Markers and the key',
    body: [
      '{mark} opens the markers. The sheet stays open from topic to topic; one click gives or takes a marker, on the whole selection. A marker can also be dragged onto a topic.',
      'A click on a marker at its topic offers its set there: another, or none; with several selected, for all of them.',
      'In a set marked “one at a time”, a new marker takes the place of the old one.',
      'A team makes sets of its own, or changes those that came: the pencil beside a set. They belong to the tree.',
      '{key} opens the key: which markers are used here, and how often. Click one, and only those stay in front.',
    ],
  },
  {
    id: 'dress',
    title: 'Colour and style',
    body: [
      '{dress} opens colour and style: ground, text and edge colours from the palette or any; the letters (four typefaces), their size, bold, slanted, underlined; shape, border and width. For a topic, with its branch, for a whole level, or for the tree. Beside a title that is open stands a grip: pull it, and its text runs wider or narrower.',
      'Text stays readable: a colour too near its ground is made darker or lighter.',
      '{copy-style} copies a style, {paste-style} gives it to everything selected.',
      'A look dresses the whole tree and can be swapped at any time. What a tree wears can be saved as a look of its own.',
    ],
  },
  {
    id: 'pictures',
    title: 'Pictures in topics',
    body: [
      '{picture} puts a picture in a topic. Or drop one on it, or paste it. It stands before, above or below the text; its corner makes it larger or smaller.',
      'PNG, JPEG, WebP, GIF, AVIF and TIFF, up to 25 MB. Pictures are drawn anew on the server, so nothing hidden comes along.',
    ],
  },
  {
    id: 'notes',
    title: 'Notes and previews',
    body: [
      '{note} opens the note: headings, lists, tasks, tables, links and pictures. Two people can type in one note at once.',
      'Rest the pointer on a sign after a title, or press {preview}, to read what hangs there. A click on a sign opens it; Esc leads back.',
      'A note holds 300,000 characters. Search looks in notes too.',
    ],
  },
  {
    id: 'links',
    title: 'Links',
    body: [
      '{link} adds a link: a web or mail address, or the address of another tree. The signpost beside the field links to a topic of this tree. An address pasted on a topic becomes a link.',
      'A mail link can have a subject: change it with the pencil. Where a link leads inside Sun Porch, Esc or {back-again} leads back.',
      'Addresses that could run something are refused.',
    ],
  },
  {
    id: 'files',
    title: 'Files',
    body: [
      'Drop files on a topic, paste them, or press {file}. Up to 25 MB each. A strip shows how far they are; each can be stopped, and tried again.',
      'Pictures, PDF, text, Word documents, workbooks, slides, pages, sound and film open over the tree with one click; arrows lead to the next file, Esc back to the tree. Other files are saved when opened. Nothing in a file is ever run here.',
      '{reading} opens a document beside the tree, passage by passage. Arrows choose, with Shift several; Enter makes topics of them under the one that has the focus, with Ctrl all that stands under a heading, with Shift in the tray. What was used is ticked off and counted, and each topic’s link leads back to its passage.',
      'One picture dropped on a topic is shown in it; several files hang on it.',
    ],
  },
  {
    id: 'checklists',
    title: 'Checklists',
    body: [
      '{check} goes to the checklist of the topic. Enter keeps a line and goes on. After // stand a day and a priority: “Measure // fri, p2”. An emptied line goes away; Alt with the up and down arrows moves a line.',
    ],
  },
  {
    id: 'places',
    title: 'Places',
    body: [
      '{place} names a place: a town from the list that comes with the app, a name of your own, or coordinates such as 48.2, 16.37 or a geo: address. A click on the map moves the pin.',
    ],
  },
  {
    id: 'sketches',
    title: 'Sketches',
    body: [
      '{sketch} opens a pad for mouse, finger or pen: five inks, three widths. Ctrl + Z takes a stroke back while the pad is open.',
    ],
  },
  {
    id: 'ties',
    title: 'Cross-links',
    body: [
      '{tie} ties the selection to another topic: a few letters of it, or a click on it. The line has a label, arrow ends and a colour; pull any stretch of it aside. Delete unties the one that is chosen.',
      'The side sheet lists what a topic is tied to, and {annexes} lists every cross-link of the tree.',
    ],
  },
  {
    id: 'annexes',
    title: 'Annexes',
    body: [
      '{annex} gives a branch an annex: room of its own inside the same tree. The same key puts it back. Elsewhere just its plank is shown, with a doorway at its edge that leads in, and out again; so do the path at the foot and {back-again}.',
      '{annexes} lists the annexes.',
    ],
  },
  {
    id: 'references',
    title: 'References',
    body: [
      '{reference} shows another topic under the one that has the focus, from this tree or from another. It changes as the original does, and is changed there. The arrow sign leads to the original.',
      'Who has no role in the other tree sees what it was called, and why no more. When the original goes, the name stays. “Make it a topic of its own” lets go of the original.',
    ],
  },
  {
    id: 'numbers',
    title: 'Numbers',
    body: [
      '{annexes} numbers the tree or a branch: 1.2.1, A.2.a or I.B.1, to as many levels as you say. Numbers follow at once when topics move, and stand in the outline and in files.',
    ],
  },
  {
    id: 'filter',
    title: 'Filters and views',
    body: [
      '{filter} says which topics you want: add conditions, open each to change it, turn one round with “not”, join them by all or any, and put groups inside. The sentence above says what is asked and how many fit.',
      'The rest is dimmed or hidden; the path to each match stays. {select-found} selects all matches for one change to all of them. What is left can be saved as a file. Conditions know the plan too, also what ends later than in the newest baseline, and what stands alone: without a cross-link, with a marker used once, with a file that nobody has opened.',
      'A view keeps the filter, the depth and the shape of the outline under a name, for you or for everyone in the tree.',
    ],
  },
  {
    id: 'shelf',
    title: 'The shelf of pictures',
    body: [
      'Everyday things, signs and symbols ship with the app. “From the shelf” in the sheet’s Picture, and under {mark}, finds them by words, in English and in the language of the tree; Enter takes the first.',
      'As a picture it goes into the topic, or hangs beside it on a thread; as a marker it goes onto all that are selected, and stays in a set of the tree’s own.',
    ],
  },
  {
    id: 'pages',
    title: 'Pages behind links',
    body: [
      'An owner can let this server ask the web pages that links lead to for their title, summary and picture: “Describe and tag this tree” in the everything box. Each page is asked once; then it shows by the pointer on its link, by a press on the sign before it, and in what {preview} shows.',
      'There too is a check of all links: which are gone, silent or shut, and which sections have no address yet where others beside them have one.',
      'A page’s address given for a picture offers the picture that the page names.',
    ],
  },
  {
    id: 'groups',
    title: 'Groups of people',
    body: [
      'Under Share, people get a name together: “Board”, “Volunteers”. A group belongs to the tree, and everybody in it sees it; or it is yours, at hand in all your trees. Whoever isn’t in the tree is in it by mail address.',
      'One press invites everybody of it. From then on the tree offers what has changed: to invite who is new, to take their role from who has gone. Nothing of that happens by itself.',
      'A group is given a task like a person, asked to a meeting, and found by a filter.',
    ],
  },
  {
    id: 'since',
    title: 'What is new',
    body: [
      '{since} points out what came, changed, moved or was done since you last looked, each with its word at the plank, and lists it branch by branch with what went. The arrow keys go from one to the next.',
      'It can be asked since the last meeting as well. Closing the list takes the words away.',
    ],
  },
  {
    id: 'talk',
    title: 'Comments, and the bench',
    body: [
      '{comment} says something about the topic you are on. @ and a few letters name somebody, or a group of people (whoever is in it just then is told), # names a topic, which leads there. Enter says it, Shift with Enter begins a line; pictures can be pasted. A sign with the count stands on the plank; a filled one waits for an answer. On a bar of the schedule or a figure of the sheet it is about that, and keeps what it was when you said it.',
      'Answer in the thread, or settle it; an answer opens it again. With a line comes what can be done with it: make a task or a decision of it (the way leads there and back), reword or withdraw what you said. {comments} lists all that isn’t settled; the filter finds topics by what was said.',
      'Whoever is here stands in the top bar. Press a face to go where that person goes, until you take a step of your own. {look-here} asks everybody who is here to look at what you have selected; nobody is moved.',
      '{bench} is the talk of the whole tree: it stays with it. Topics that are named in it are pointed out on the canvas. Drag a line to the canvas to make it a topic, a task or a comment. Without a line to the server what you say waits here.',
    ],
  },
  {
    id: 'vote',
    title: 'Votes',
    body: [
      '{vote} asks everybody in the tree about the topic you are on, in a meeting about the item that is on: yes or no, by points that each gives away, or by order. A sign at the top says that something is asked; the keys stay where they are.',
      'In an open vote it’s seen who says what, and anybody may say it anew until it’s closed. Of a secret one it’s kept who voted and the sums; who said what is kept nowhere.',
      'Closed, what it came to stays with the topic, and the minutes name it with the decision. The plank has a sign that leads there, and a filter finds what was voted on. A comment can be put to the vote from its thread.',
    ],
  },
  {
    id: 'told',
    title: 'Being told',
    body: [
      'News, in the rail, is where you are told: who mentions you or replies to you, tasks that are given to you or taken, dates of them that others moved, sections you are asked to fill in, invitations. What you did yourself isn’t told, many of one kind are told together, and what you read on one device is read on all.',
      '{watch} watches the branch you are on, at the centre the whole tree: you are told what others change there.',
      'For each kind you say beside the list whether a letter comes at once, once a day, once a week, or you aren’t told at all. In your quiet hours nothing rings and no letter goes out.',
    ],
  },
  {
    id: 'history',
    title: 'History, and the way back',
    body: [
      '{history} shows the tree as it was. “Its story” beside a figure in the side sheet tells what it was before, and who changed it. Below it lie the boards of its floor: one for each sitting, wider for more work, in the colours of who worked. Pull along them, or use the arrow keys: one edit at a time; Page Up and Page Down go from sitting to sitting, Home and End to the ends.',
      'What a sitting did stands beside it in words; what came, changed or moved is pointed out on the planks. Boards can be narrowed to a person, a kind of change, a period or a branch, and {topic-history} begins with the branch you are on. Replay plays them.',
      'From any moment you can bring back the whole tree, the branch you have chosen, one topic alone, its title or its note: one edit, which Undo takes back; what was done since is never rewritten. Or copy that moment as a new tree. Kept moments have a peg on their board: name one yourself; those before something large, and when a meeting begins and ends, are kept by themselves.',
    ],
  },
  {
    id: 'compare',
    title: 'Side by side, and merged',
    body: [
      '{compare} lays the tree beside an earlier moment of it, another tree from one copy, or a Sun Porch file of it that went elsewhere and came back changed. Any moment can be chosen from the history too. What is different is read as a list, in two columns, or folded into one tree; only what you ask for, by kind, field, person, branch or letters; and saved as Markdown or as a page.',
      'Choose what to take over: all, a topic, or nothing. Where both come from one copy, what only the other side has changed since is chosen already, and what both changed is asked, line by line; until you say, it stays as it is here. Notes that both wrote in can keep both.',
      'Taking over is one edit, which Undo takes back, and the moment before it is kept. What somebody changes here while you compare is never written over.',
    ],
  },
  {
    id: 'outline',
    title: 'The outline as a table',
    body: [
      '{switch-view} shows the tree as rows. Choose columns at the head; click a column to sort, again to turn it round, and once more for the tree’s own order. Rows can be grouped by person, marker, state or due date. Columns of the plan say from when to when each is planned, and by how much it may slip. None of it changes the tree.',
      '{cells} goes into the cells of the row: Tab goes on, up and down change the row, Enter keeps, Esc leads back. Days can be words: “fri”, “in 2 weeks”.',
    ],
  },
  {
    id: 'plan',
    title: 'The plan, computed',
    body: [
      '{schedule} shows when everything is. Begin a plan, and every task gets the days on which it can begin and end at the earliest, from its length in working days and from what it waits for. Starts that you type are “not before”, due dates are deadlines that only warn; the side sheet turns them into “just then” and “not after”, and says why each begins when it does.',
      '{wait-for} lets the selection wait for another topic; a whole branch can wait, or be waited for. {later} and {sooner} move it a working day, {longer} and {shorter} change its length, {next-critical} goes along what must not slip. With the pointer: pull a bar, its end, or the knob beside it onto what waits.',
      '{wait-abroad} lets it wait for a topic of another tree that you may look at. Its date is kept here as it was known then, so that everybody here reckons with the same; how old it is stands beside it. {look-abroad} asks the other trees anew. When the schedule is opened and something has moved there, it’s offered to take it over.',
      'What stands on a double sill must not slip: the end slips with it. A dotted line says how far the rest may. A gable is a milestone, a length of 0. A flag is the due date. A dashed bar has a day that was assumed, since nobody said how long it takes.',
      'Working days … has the weekdays, hours, closed days (also from a calendar file), and up to when the work is known: what isn’t done can’t lie before that day. The plan goes out as a calendar file from there. Dependencies that would lead round in a circle are refused, with their members; those that a move closes are shown, with the way to mend them.',
      'Calendar has tasks, milestones and meetings by month, by week, or as a list, also without a plan. Arrows go from one to the next; carry one to another day, and it’s moved with its length and its time. What the plan computed has a double edge.',
      'Load has the hours of each person by weeks (a name there takes hours a day and days off), and Even out offers what could make way. Chances runs the plan through thousands of times with lengths from your estimates, and says which day is 50, 80 or 95 % sure, and what drives it.',
      'Baselines … keeps the plan as it’s agreed. Hold the plan against one, and the marks it left on the ground lie over the bars, with how many days each has slipped. Progress has the hours of work that were to be done by now, that are done and that were spent, and what follows from them; “Still to do” turns the chart round.',
    ],
  },
  {
    id: 'board',
    title: 'The board',
    body: [
      '{board} shows tasks as cards in columns: by state, who does it, priority, or markers; with a row for each branch where you want one. Arrows go from card to card, {move-in} and {move-out} take the selection to the next column and the one before. With the pointer: carry a card, also to the row of another branch, under which it then hangs. On a phone, the arrows on the chosen card do it.',
      'A card is moved by changing what the column says and nothing else. A task of two people stands with both, and only the one whose column it leaves gives it up. What is made with {sibling-after} beside a card stands in its column.',
      'The number at the head of a column takes how many cards it is to hold. More is never refused; the head says how many are too many.',
    ],
  },
  {
    id: 'figures',
    title: 'Figures: a tree that adds up',
    body: [
      '{figures} shows what things cost, take and count. Begin with a budget, effort, or measures of your own: each has a unit, decimals, and a way in which it rolls up to the centre. What stands at a topic itself is what somebody gave; everything further up comes by itself, exactly.',
      'In the sheet the arrows go from cell to cell, and a digit, = or Enter types. In the column of topics all keys are those of the tree. Shift and the arrows take a block: copy it, paste one from a spreadsheet, Ctrl + D fills down, Delete empties. A head puts siblings in order of what they come to.',
      'A formula begins with = and can be read aloud: =Hours × Rate, =sum(Cost of all below marked Decision), =Cost of "Lift" × 1.2. What may go on is offered while you type, what it comes to stands below, and what can’t be understood is underlined. Units are checked: hours and euros have no sum. The plan’s days can be reckoned with: length, start, finish, float, work.',
      'A target, in the side sheet, says how much it may or must be; over it, a triangle says so, on planks too. Measures … has which figures stand on planks, how a half is rounded, and values that all formulas know by a name. After //, “cost 1,250” gives a topic its figure.',
      'Charts shows what a branch is made of, as bars, shares, rings, against targets, step by step to the whole, or over time; the numbers stand below. A chart can hang on its topic: it has a sign there, stands in the side sheet and in documents, and a kept view shows it again. The sheet can stand in groups, by person, marker, state or due date, each with what it comes to. What if holds a few figures that are others and reckons all that hangs on them beside what is so; take one over, and it’s one edit. A figure may come again, month by month or year by year, growing by a rate or a step: “Over the years …” in the side sheet, and as a chart; along a time axis it says under the marks what comes between them. Give one the least and the most that it may come to, and How sure says what the sum doesn’t go over. Choosing weighs the topics below one by measures, says how sure the first place is, and keeps the reason as a decision.',
      'Hand out makes a sheet of it that goes on reckoning in a spreadsheet program. The button with a table beside Measures … takes figures out of a workbook or a CSV: say which column is what, see every difference, and take those that you want. What a table works out by formulas is left, since it follows here too.',
    ],
  },
  {
    id: 'brief',
    title: 'A meeting: the brief',
    body: [
      'Any topic can be a meeting: {make-meeting}. {meeting} shows it, and again leads back to the tree. Alt with 1 to 4 goes from brief to meeting, minutes and series.',
      'Write why you meet, in one sentence; then what must be settled, three things at most; then the way there. A line such as “Two offers // decide, 20 min, Oskar” says it all. The number buttons say which thing an item settles.',
      'Lay out the agenda makes the items topics of the tree, with an inner pattern where you chose one. Lay it out again after changes: it adds what is missing, and doubles or overwrites nothing.',
      'Beside the brief stands what is in the way of holding it. A click leads to where it’s mended.',
    ],
  },
  {
    id: 'invite',
    title: 'A meeting: asking and inviting',
    body: [
      'Ask the owners writes to each owner to fill in their section by a day. It shows on their Home and among their work; {ready} says that it’s ready.',
      'What is filled in is read beforehand: whoever is asked to come and has an item open in the side sheet for a moment, and its documents opened, has read it. Everybody in the tree sees who has; when it changes, it is to be read anew. From the brief, one press asks the others by letter.',
      'Invite everybody sends letters with a calendar file. After a change of time, place or people, send the change: calendars take it over. Members answer in the app, guests by the link in their letter; an answer that arrives as a calendar file can be dropped on the brief.',
      'Who is in another meeting at that time is pointed out. My work has a private calendar address with your meetings and tasks.',
    ],
  },
  {
    id: 'hold',
    title: 'A meeting: holding it',
    body: [
      'Begin, and the clock runs for everybody alike. {room-next} and {room-back} go from item to item; everyone follows. Click an item to look around, Esc to come back.',
      '{room-decision}, {room-action}, {room-question}, {room-idea} and {room-parked} begin a decision, an action, a question, an idea, something parked. After // an action gets its owner and day. Enter keeps the line, Esc ends. Everything can be reworded in place, by anyone.',
      'When it runs late, the strip says what that does to the rest; {room-cut} cuts what is left evenly, so that it ends on time. {room-pause} lets the clock stand still. {room-present} fills the screen; the number keys open the item’s files and links.',
    ],
  },
  {
    id: 'after',
    title: 'A meeting: minutes and the next one',
    body: [
      'What must be settled stands beside, with a tally: reached by a decision of the item that serves it, or by hand, with a word of why. Before it ends, what is open is asked, one key each; minutes and series say how it turned out.',
      'End the meeting, and its minutes are there: who came, what was said and decided, who does what by when. They are the topics themselves: change them here or in the tree. They leave as a Word document, a PDF, Markdown, tasks for a calendar, or by mail with each person’s actions first; where there is a plan they say what it has moved since the meeting began.',
      '{next-meeting} lays out the next meeting: same people and shape, the next day by the rule, and what is still open under “Still open”, each with its age.',
      'Series shows all decisions, how many actions were raised, closed and late, how long they live, what takes longer than planned, and who comes.',
    ],
  },
  {
    id: 'hand-out',
    title: 'Hand out',
    body: [
      '{hand-out} or the button beside Share: a sentence says which part leaves, how many levels of it, and as what. Change any part of it in place: a Word document, a PDF, a page for the browser, slides, a picture, a drawing, Markdown, a plain list, OPML or a table.',
      'Below stands what goes along: notes, tasks with people and dates, markers and what they mean, links, files, pictures, comments, cross-links, numbers. What isn’t chosen isn’t in the file at all. A dashed one is something the kind can’t hold.',
      'With a filter on, what it leaves is offered first; so are several selected topics. Numbers are those of the whole tree, so that “2.4” is the same topic in every document.',
      'By a link, others see a part without an account; say in its sentence whether they may comment or edit, and on which sites it may stand in a page. Guests give a name, and what they do says that it’s a guest’s.',
      'By mail sends the file to people of the tree and to any address, in a letter that you see first.',
      'A Word document, and minutes too, can go out in the look of one of your own: bring it in beside the kind. Its paper, styles, header, footer and pictures stay; where a word like title stands in double braces, comes what it names. What it lacks is said before anything is made.',
      'Keep a choice under a name, and it stands at the top for everybody who has the tree: one press makes it again, as the tree is then.',
    ],
  },
  {
    id: 'presenting',
    title: 'Presenting the tree',
    body: [
      '{present} fills the screen and goes from branch to branch: {present-next} on, {present-back} back, as a clicker’s Page Down and Page Up do; a finger swipes the strip at the foot. Each step opens its branch and lets the rest stand back. With one branch shown alone, that branch is presented.',
      'You can look around, type new topics and open what a topic carries ({present-open}); {present-again} leads back to the step. No branch changes sides meanwhile. Esc ends it, and you are where you were.',
      '{present-speaker} opens a window for yourself: the note of the step, what comes next, the clock. It steps on by the same keys.',
      'Others who have the tree open are asked along, and see at your face that you present: their screens follow, and whoever looks around comes back by one press.',
      'An order of your own: {step} puts the selected topics behind the steps, {steps} shows them and puts them in order. It is kept with the tree.',
    ],
  },
  {
    id: 'together',
    title: 'Together and offline',
    body: [
      'Everyone sees each step at once, and where the others are. Undo takes back your own edits only.',
      'Without a line you type on. The strip says how many edits wait; they are sent once when the line is back.',
    ],
  },
  {
    id: 'keys',
    title: 'Keys',
    body: ['{keys} lists every key. Click one to change it. {everything} finds every command by name, with its key.'],
  },
]
