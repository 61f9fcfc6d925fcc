import type { Language } from './choice'

/* The words of a document's own, in the language that somebody chooses for it. */

/** Whose dates and numbers a language has: BCP 47 tags. */
export const LOCALES: Readonly<Record<Language, string>> = {
  en: 'en-GB',
  de: 'de-DE',
  fr: 'fr-FR',
  es: 'es-ES',
  da: 'da-DK',
}
/** What each language calls itself. */
export const LANGUAGE_NAMES: Readonly<Record<Language, string>> = {
  en: 'English',
  de: 'Deutsch',
  fr: 'Français',
  es: 'Español',
  da: 'Dansk',
}

interface Words {
  readonly contents: string
  readonly tasks: string
  readonly who: string
  readonly what: string
  readonly start: string
  readonly due: string
  readonly done: string
  readonly priority: string
  readonly key: string
  readonly people: string
  readonly files: string
  readonly file: string
  readonly see: string
  readonly comments: string
  readonly place: string
  readonly untitled: string
  readonly goesOn: string
  /** In a chart: the whole, and what a branch has of its own beyond its parts. */
  readonly all: string
  readonly byItself: string
  readonly asOf: (day: string) => string
  readonly days: (days: number) => string
  readonly bytes: (size: string) => string
  /** How many topics stay behind, since they stand too deep. */
  readonly deeper: (count: number) => string
}

export const WORDS: Readonly<Record<Language, Words>> = {
  en: {
    contents: 'Contents',
    tasks: 'Tasks',
    who: 'Who',
    what: 'What',
    start: 'Begins',
    due: 'Due',
    done: 'Done',
    priority: 'Priority',
    key: 'What the markers mean',
    people: 'Who does what',
    files: 'Files',
    file: 'File',
    see: 'see',
    comments: 'Comments',
    place: 'Place',
    untitled: 'untitled',
    goesOn: 'goes on',
    all: 'all',
    byItself: 'by itself',
    asOf: day => `As of ${day}`,
    days: days => `${days} working ${days === 1 ? 'day' : 'days'}`,
    bytes: size => `${size} bytes`,
    deeper: count => (count === 1 ? '1 topic below isn’t in here.' : `${count} topics below aren’t in here.`),
  },
  de: {
    contents: 'Inhalt',
    tasks: 'Aufgaben',
    who: 'Wer',
    what: 'Was',
    start: 'Beginn',
    due: 'Fällig',
    done: 'Erledigt',
    priority: 'Dringlichkeit',
    key: 'Was die Zeichen bedeuten',
    people: 'Wer was macht',
    files: 'Dateien',
    file: 'Datei',
    see: 'siehe',
    comments: 'Anmerkungen',
    place: 'Ort',
    untitled: 'ohne Titel',
    goesOn: 'Fortsetzung',
    all: 'insgesamt',
    byItself: 'für sich',
    asOf: day => `Stand ${day}`,
    days: days => `${days} ${days === 1 ? 'Arbeitstag' : 'Arbeitstage'}`,
    bytes: size => `${size} Bytes`,
    deeper: count => (count === 1 ? '1 Thema darunter fehlt hier.' : `${count} Themen darunter fehlen hier.`),
  },
  fr: {
    contents: 'Sommaire',
    tasks: 'Tâches',
    who: 'Qui',
    what: 'Quoi',
    start: 'Début',
    due: 'Échéance',
    done: 'Fait',
    priority: 'Priorité',
    key: 'Ce que disent les signes',
    people: 'Qui fait quoi',
    files: 'Fichiers',
    file: 'Fichier',
    see: 'voir',
    comments: 'Remarques',
    place: 'Lieu',
    untitled: 'sans titre',
    goesOn: 'suite',
    all: 'au total',
    byItself: 'en propre',
    asOf: day => `État au ${day}`,
    days: days => `${days} ${days === 1 ? 'jour ouvré' : 'jours ouvrés'}`,
    bytes: size => `${size} octets`,
    deeper: count =>
      count === 1 ? '1 sujet en dessous n’est pas repris ici.' : `${count} sujets en dessous ne sont pas repris ici.`,
  },
  es: {
    contents: 'Índice',
    tasks: 'Tareas',
    who: 'Quién',
    what: 'Qué',
    start: 'Inicio',
    due: 'Vence',
    done: 'Hecho',
    priority: 'Prioridad',
    key: 'Qué significan las señales',
    people: 'Quién hace qué',
    files: 'Archivos',
    file: 'Archivo',
    see: 'véase',
    comments: 'Comentarios',
    place: 'Lugar',
    untitled: 'sin título',
    goesOn: 'continúa',
    all: 'en total',
    byItself: 'por sí mismo',
    asOf: day => `A fecha de ${day}`,
    days: days => `${days} ${days === 1 ? 'día laborable' : 'días laborables'}`,
    bytes: size => `${size} bytes`,
    deeper: count => (count === 1 ? 'Aquí falta 1 tema de más abajo.' : `Aquí faltan ${count} temas de más abajo.`),
  },
  da: {
    contents: 'Indhold',
    tasks: 'Opgaver',
    who: 'Hvem',
    what: 'Hvad',
    start: 'Begynder',
    due: 'Frist',
    done: 'Færdig',
    priority: 'Prioritet',
    key: 'Hvad mærkerne betyder',
    people: 'Hvem gør hvad',
    files: 'Filer',
    file: 'Fil',
    see: 'se',
    comments: 'Kommentarer',
    place: 'Sted',
    untitled: 'uden titel',
    goesOn: 'fortsat',
    all: 'i alt',
    byItself: 'for sig selv',
    asOf: day => `Pr. ${day}`,
    days: days => `${days} ${days === 1 ? 'arbejdsdag' : 'arbejdsdage'}`,
    bytes: size => `${size} byte`,
    deeper: count =>
      count === 1 ? '1 emne nedenunder er ikke med her.' : `${count} emner nedenunder er ikke med her.`,
  },
}
