/** Letters that a password has at least: length is what makes it hard to guess. */
export const PASSWORD_LEAST = 10;
export const PASSWORD_MOST = 200;
export const PIN_LEAST = 4;
export const PIN_MOST = 8;

/**
 * What is wrong with a password, in words; undefined where nothing is. Any letters will do: no rules of kinds of letters.
 * @param common whether it is one of the commonest, in small letters
 * @param own names that it must not merely be: the person's and the shop's
 */
export function wrongPassword(
  password: string,
  common: (lower: string) => boolean,
  own: readonly string[] = [],
): string | undefined {
  const letters = [...password].length;
  if (letters < PASSWORD_LEAST) return `needs at least ${PASSWORD_LEAST} letters`;
  if (letters > PASSWORD_MOST) return `is longer than ${PASSWORD_MOST} letters`;
  const lower = password.toLowerCase();
  if (new Set(lower).size < 3) return 'is the same letters again and again';
  // A common word with figures or signs at its end is guessed as soon as the word.
  if (common(lower) || common(lower.replace(/[^a-z]+$/, ''))) return 'is one of the commonest passwords';
  const squeezed = lower.replace(/[^\p{L}]/gu, '');
  if (own.some((name) => name !== '' && squeezed === name.toLowerCase().replace(/[^\p{L}]/gu, '')))
    return 'is only a name';
  return undefined;
}

/** What is wrong with a PIN, in words: figures only, and none of those that everybody tries first. */
export function wrongPin(pin: string): string | undefined {
  if (!/^\d+$/.test(pin) || pin.length < PIN_LEAST || pin.length > PIN_MOST)
    return `must be ${PIN_LEAST} to ${PIN_MOST} figures`;
  const steps = new Set([...pin].slice(1).map((figure, i) => Number(figure) - Number(pin[i])));
  if (steps.size === 1 && [-1, 0, 1].includes([...steps][0]!)) return 'is one that everybody tries first';
  // A year of birth, and one pair twice.
  if (/^(19|20)\d\d$/.test(pin) || /^(\d\d)\1$/.test(pin)) return 'is one that everybody tries first';
  return undefined;
}
