import type { ErrorAnswer, ErrorCode } from '@kalvet/core';
import type { Refusal } from '@kalvet/core';

const STATUS: Record<ErrorCode, number> = {
  invalid: 400,
  who: 400,
  foreign: 403,
  'not found': 404,
  stale: 409,
  refused: 409,
  'too large': 413,
  'key used': 422,
  failed: 500,
  unavailable: 503,
};

type Extra = Omit<ErrorAnswer['error'], 'code' | 'message'>;

/** Anything the person at the screen is told: it becomes the answer as it stands. */
export class Problem extends Error {
  readonly status: number;
  constructor(
    readonly code: ErrorCode,
    message: string,
    readonly extra: Extra = {},
  ) {
    super(message);
    this.status = STATUS[code];
  }

  /** The body of the answer. */
  answer(): ErrorAnswer {
    return { error: { code: this.code, message: this.message, ...this.extra } };
  }
}

export const invalid = (fields: Record<string, string>): Problem =>
  new Problem(
    'invalid',
    Object.entries(fields)
      .map(([field, text]) => `${field}: ${text}`)
      .join(' · '),
    { fields },
  );

export const notFound = (what: string): Problem => new Problem('not found', `There is no such ${what}.`);

/** Refused by one rule or several; the first one stands in front, all are listed. */
export const refused = (refusals: readonly Refusal[]): Problem => {
  const [first] = refusals;
  return new Problem('refused', refusals.map((refusal) => refusal.message).join(' '), {
    rule: first!.rule,
    mayOverride: refusals.every((refusal) => refusal.mayOverride),
    refusals,
  });
};
