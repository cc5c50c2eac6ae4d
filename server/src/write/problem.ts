import type { ErrorAnswer, ErrorCode, Reader, Refusal, Text } from '@kalvet/core';
import { PLAIN_READER, inWords } from '@kalvet/core';

const STATUS: Record<ErrorCode, number> = {
  invalid: 400,
  'sign in': 401,
  foreign: 403,
  'may not': 403,
  'not found': 404,
  stale: 409,
  refused: 409,
  'too large': 413,
  'key used': 422,
  wait: 429,
  failed: 500,
  unavailable: 503,
};

/** What an error says beside its code, still as data. */
export interface Extra {
  readonly fields?: Readonly<Record<string, Text>>;
  readonly refusals?: readonly Refusal[];
  readonly rule?: string;
  /** Seconds until it may be tried again. */
  readonly waitS?: number;
  readonly mayOverride?: boolean;
  readonly current?: unknown;
  readonly yours?: unknown;
}

/** Anything the person at the screen is told; words are made of it where it is answered. */
export class Problem extends Error {
  readonly status: number;
  constructor(
    readonly code: ErrorCode,
    readonly says: Text,
    readonly extra: Extra = {},
    options?: ErrorOptions,
  ) {
    super(inWords(says), options);
    this.status = STATUS[code];
  }

  /** The body of the answer, in words of the shop's clock; what is data stays beside them for the reader's units. */
  answer(reader: Reader = PLAIN_READER): ErrorAnswer {
    const { fields, refusals, ...rest } = this.extra;
    const words = (text: Text) => inWords(text, reader);
    const message =
      this.code === 'refused' && refusals
        ? refusals.map((refusal) => words(refusal.message)).join(' ')
        : this.code === 'invalid' && fields
          ? Object.entries(fields)
              .map(([field, text]) => `${field}: ${words(text)}`)
              .join(' · ')
          : words(this.says);
    return {
      error: {
        code: this.code,
        message,
        ...rest,
        ...(fields
          ? {
              fields: Object.fromEntries(Object.entries(fields).map(([field, text]) => [field, words(text)])),
              saysOf: fields,
            }
          : {}),
        ...(refusals
          ? {
              refusals: refusals.map(({ rule, message: says, mayOverride, asks }) => ({
                rule,
                message: words(says),
                says,
                mayOverride,
                ...(asks ? { asks } : {}),
              })),
            }
          : {}),
      },
    };
  }
}

export const invalid = (fields: Readonly<Record<string, Text>>): Problem =>
  new Problem(
    'invalid',
    Object.entries(fields)
      .map(([field, text]) => `${field}: ${inWords(text)}`)
      .join(' · '),
    { fields },
  );

export const notFound = (what: string): Problem => new Problem('not found', `There is no such ${what}.`);

/** Refused by one rule or several; the first one stands in front, all are listed. */
export const refused = (refusals: readonly Refusal[]): Problem =>
  new Problem('refused', refusals.map(({ message }) => inWords(message)).join(' '), {
    rule: refusals[0]!.rule,
    mayOverride: refusals.every((refusal) => refusal.mayOverride),
    refusals,
  });
