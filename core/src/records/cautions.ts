/** Short cautions, shown where a step is planned and where it is done. Kalvet advises; it never declares anything safe. */
export const CAUTIONS = {
  waxPot: 'Melting wax: never leave it alone; lid and thermostat on.',
  silica: 'Silica dust: work wet or under extraction, wear your respirator.',
  autoclave: 'Kiln and autoclave doors: pressure, scald, flash. Stand aside when opening.',
  waxTorch:
    'A torch into a shell: wax runs out burning. Face shield, no wax pot near, somebody within call. Smother burning wax, never water.',
  wetMetal:
    'Anything wet or cold in contact with molten metal throws it: preheat and dry tools, ingots, pigs and moulds.',
  pourCover:
    'Full cover: leathers, face shield, respirator where the rules ask for it, nothing synthetic. Clear floor, dry sand, onlookers behind the line, exit free.',
  fumes:
    'Zinc, lead and manganese fumes: extraction on. Leaded alloys only with the controls the law asks for. No food.',
  lifting: 'Look at the weight: above the limit two people or a hoist.',
  hotCasting:
    'No water on a hot closed core; forced cooling only where the alloy stands it: steam scalds, castings crack.',
  welding: 'Welding: arc eye, fume, fire watch.',
  chemicals:
    'Gloves, goggles, extraction; never mix sulphides with acids; acid into water. The supplier’s safety data sheet rules.',
} as const;

export type CautionCode = keyof typeof CAUTIONS;

/** Stands under every list of cautions. */
export const CAUTION_FOOT = 'Your local codes and a competent person decide.';
