import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import type { Algorithm } from '@node-rs/argon2';
import { hash, verify } from '@node-rs/argon2';
import { dictionary } from '@zxcvbn-ts/language-common';
import { wrongPassword, wrongPin } from '@kalvet/core';

/** Argon2id with 19 MiB, two passes, one lane: the least that is advised for a server, some 30 ms here. */
const ARGON2ID = 2 as Algorithm;
const COST = { algorithm: ARGON2ID, memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const hashSecret = (secret: string): Promise<string> => hash(secret.normalize('NFKC'), COST);

/** Somebody who is not there takes as long to be refused as somebody who is. */
const NOBODY = hashSecret(randomBytes(24).toString('base64url'));

/** Whether a secret is the one that was hashed; compared with nobody's where there is none, in the same time. */
export async function isSecret(hashed: string | null | undefined, secret: string): Promise<boolean> {
  const right = await verify(hashed ?? (await NOBODY), secret.normalize('NFKC'));
  return right && hashed !== null && hashed !== undefined;
}

const COMMON: ReadonlySet<string> = new Set(dictionary['passwords-common'] as string[]);

/** What is wrong with a new password, in words; undefined where nothing is. */
export const weakPassword = (password: string, names: readonly string[]): string | undefined =>
  wrongPassword(password, (lower) => COMMON.has(lower), names);

export const weakPin = (pin: string): string | undefined => wrongPin(pin);

/** A secret that nobody guesses, 256 bits, as it goes into a cookie. */
export const newToken = (): string => randomBytes(32).toString('base64url');

/** What a token is kept as. It is long by chance, so one plain hash is enough. */
export const tokenHash = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Compares without telling by its time how much was right. */
export function same(a: string, b: string): boolean {
  const [left, right] = [Buffer.from(a), Buffer.from(b)];
  return left.length === right.length && timingSafeEqual(left, right);
}

/** A password to be told to somebody and changed by them: letters that are not mistaken for one another. */
export function oneTimePassword(): string {
  const letters = 'abcdefghijkmnpqrstuvwxyz23456789';
  const word = () => Array.from(randomBytes(5), (byte) => letters[byte % letters.length]).join('');
  return `${word()}-${word()}-${word()}`;
}
