/** Invented people of an invented town. Everybody's password is the same, printed at the start. */
export const DEMO_PASSWORD = 'tannery porch 2027'

export const DEMO_PEOPLE = [
  { key: 'ines', name: 'Ines Brandt', email: 'ines@porch.example' },
  { key: 'rana', name: 'Rana Tahiri', email: 'rana@porch.example' },
  { key: 'oskar', name: 'Oskar Moreau', email: 'oskar@porch.example' },
  { key: 'lev', name: 'Lev Aalto', email: 'lev@porch.example' },
] as const
