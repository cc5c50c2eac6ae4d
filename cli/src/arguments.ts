import { parseArgs } from 'node:util';
import type { ParseArgsConfig } from 'node:util';
import { Wrong } from './files.ts';

/** Reads the words of a command. @throws Wrong saying which is not understood */
export function argumentsOf<T extends NonNullable<ParseArgsConfig['options']>>(args: string[], options: T) {
  try {
    return parseArgs({ args, allowPositionals: true, options });
  } catch (error) {
    throw new Wrong((error as Error).message.split('\n')[0]!);
  }
}

interface Bounds {
  readonly whole?: boolean;
  /** Whether 0 is refused too. */
  readonly above?: boolean;
}

/** The number that an option was given. @throws Wrong where it is none, negative, or broken where it must be whole */
export function numberIn(
  name: string,
  text: string | undefined,
  { whole = false, above = false }: Bounds = {},
): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text);
  if (
    text.trim() === '' ||
    !Number.isFinite(value) ||
    value < 0 ||
    (above && value === 0) ||
    (whole && !Number.isInteger(value))
  )
    throw new Wrong(`--${name} must be a ${whole ? 'whole ' : ''}number ${above ? 'above' : 'from'} 0, not "${text}"`);
  return value;
}
