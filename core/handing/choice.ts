/* What somebody chooses to hand out: it stands with the tree, since a tree keeps such choices under names. */
export {
  type Choice,
  choiceSchema,
  HAND_OUT_KINDS as KINDS,
  type HandedPart as Part,
  type HandOutKind as Kind,
  KIND_NAMES,
  type KeptHandOut,
  isTemplateFor,
  type KeptTemplate,
  type Language,
  LANGUAGES,
  MOST_TEMPLATES,
  type Taken,
  taken,
  TAKEN,
} from '../tree/hand-out'
