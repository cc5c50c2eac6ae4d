/** Elements with their per cent, as they stand on a supplier's sheet: `Cu 95.1, Si 3,9; Mn 0.9`. Undefined where it cannot be read. */
export function readAnalysis(text: string): Readonly<Record<string, number>> | undefined {
  const parts = text
    .replace(/(\d),(\d)/g, '$1.$2')
    .split(/[,;·\n]+/)
    .map((part) => part.trim())
    .filter(Boolean);
  const found: Record<string, number> = {};
  for (const part of parts) {
    const [, element, percent] = /^([A-Za-z]{1,2})\s*[:=]?\s*(\d+(?:\.\d+)?)\s*%?$/.exec(part) ?? [];
    if (element === undefined || percent === undefined || Number(percent) > 100) return undefined;
    found[element[0]!.toUpperCase() + element.slice(1).toLowerCase()] = Number(percent);
  }
  return found;
}

/** The same in words. */
export const analysisInWords = (analysis: Readonly<Record<string, number>>): string =>
  Object.entries(analysis)
    .map(([element, percent]) => `${element} ${percent}`)
    .join(', ');
