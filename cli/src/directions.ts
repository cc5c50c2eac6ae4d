import { Wrong } from './files.ts';

/** Numbers written with commas between them. @throws Wrong with an example where they are not so many */
export function numbersIn(option: string, text: string, count: number, example: string): number[] {
  const numbers = text.split(',').map((part) => (part.trim() === '' ? NaN : Number(part)));
  if (numbers.length !== count || numbers.some((each) => !Number.isFinite(each)))
    throw new Wrong(`--${option} must be like ${example}, not "${text}"`);
  return numbers;
}

/** A direction written as three numbers; not all of them nothing. @throws Wrong */
export function directionIn(
  option: string,
  numbers: readonly number[],
  text: string,
): readonly [number, number, number] {
  if (numbers.every((each) => each === 0)) throw new Wrong(`--${option} must be a direction, not "${text}"`);
  return [numbers[0]!, numbers[1]!, numbers[2]!];
}
