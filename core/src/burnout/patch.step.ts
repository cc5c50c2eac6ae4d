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
      ? {
          text: say`leaks (${insertedWhy ?? 'no reason given'}). Patch it, or cast it again?`,
          urgent: true,
          answers: [
            { code: 'patch', label: 'Patch it', does: 'noted' },
            { code: 'recast', label: 'Cast it again', does: 'recast' },
          ],
        }
      : undefined,
});
