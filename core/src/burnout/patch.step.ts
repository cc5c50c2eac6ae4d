import { stepKind } from '../route/step-kind.ts';
import { say } from '../units/words.ts';

/** Refractory paste on a hairline; wet until it is fired or dried. Until then somebody decides: patch, or cast again. */
export const patch = stepKind({
  code: 'patch',
  room: 'burnout',
  name: 'Patch',
  carrier: 'tree',
  minutes: 30,
  insertable: ['tree'],
  wets: () => true,
  asks: ({ state, insertedWhy }) =>
    state === 'planned'
      ? { text: say`leak at test (${insertedWhy ?? 'no reason given'}): patch or recast?`, urgent: true }
      : undefined,
});
