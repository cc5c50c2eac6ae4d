import type { Asking, StepKind } from '../route/step-kind.ts';

/** What somebody decides of a cast that was seen to be short, until it is inspected. */
export const askWhereShort: NonNullable<StepKind['asks']> = ({ outcome }, { inspected }): Asking | undefined =>
  outcome === 'short' && !inspected
    ? {
        text: 'poured short. Weld it up, or cast it again?',
        urgent: true,
        answers: [
          { code: 'weld', label: 'Weld it up', does: 'noted' },
          { code: 'recast', label: 'Cast it again', does: 'recast' },
        ],
      }
    : undefined;
