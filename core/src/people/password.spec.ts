import { wrongPassword, wrongPin } from './password.ts';

const common = (lower: string) => ['password', 'letmein', 'sunshine'].includes(lower);

describe('a password', () => {
  it('is judged by its length, not by its kinds of letters', () => {
    expect(wrongPassword('three brown otters', common)).toBeUndefined();
    expect(wrongPassword('ää öö üü ßß', common)).toBeUndefined();
    expect(wrongPassword('Xy7!$pq', common)).toBe('needs at least 10 letters');
    // Ten signs of which each is two units long are ten letters, nine are not.
    expect(wrongPassword('🦦🦢🐟🦀🐙🦐🦞🐡🐠🐬', common)).toBeUndefined();
    expect(wrongPassword('🦦🦢🐟🦀🐙🦐🦞🐡🐠', common)).toBe('needs at least 10 letters');
    expect(wrongPassword('ab'.repeat(101), common)).toBe('is longer than 200 letters');
  });

  it('is none that is guessed first: a common one with figures behind it, one letter again and again, a name', () => {
    expect(wrongPassword('Sunshine2026!', common)).toBe('is one of the commonest passwords');
    expect(wrongPassword('abababababab', common)).toBe('is the same letters again and again');
    expect(wrongPassword('Ines Marlow 1', common, ['Ines Marlow'])).toBe('is only a name');
    expect(wrongPassword('Ines Marlow swims', common, ['Ines Marlow'])).toBeUndefined();
  });
});

describe('a PIN', () => {
  it('is four to eight figures, and none that everybody tries', () => {
    for (const pin of ['4719', '90210', '84019273']) expect(wrongPin(pin)).withContext(pin).toBeUndefined();
    for (const pin of ['123', '123456789', '12a4', ''])
      expect(wrongPin(pin)).withContext(pin).toBe('must be 4 to 8 figures');
    for (const pin of ['0000', '1234', '4321', '1998', '2026', '1212'])
      expect(wrongPin(pin)).withContext(pin).toBe('is one that everybody tries first');
  });
});
