/** What tells the parts of a cut model apart; each is named beside it too. */
export const PART_COLOURS = [
  '#a9713c',
  '#6d7f96',
  '#7f9638',
  '#b8463a',
  '#2c8f80',
  '#b39b6c',
  '#59626c',
  '#8a5a9c',
] as const;
