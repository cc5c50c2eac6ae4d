import { readWhen } from './read-when';

describe('reading a day and time', () => {
  // A Friday.
  const now = new Date(2026, 10, 27, 14, 5);
  const read = (text: string, rest: { time?: boolean; towards?: 'past' | 'future' } = {}) => {
    const found = readWhen(text, { now, time: true, towards: 'past', ...rest });
    return (
      found && `${found.getFullYear()}-${found.getMonth() + 1}-${found.getDate()} ${found.toTimeString().slice(0, 5)}`
    );
  };

  it('takes it as people write it', () => {
    for (const text of [
      '24 Nov 10:40',
      'Tue 24 Nov 2026, 10:40',
      '24.11. 10:40',
      '24/11 10.40',
      '24.11.26 10:40',
      '2026-11-24 10:40',
    ])
      expect(read(text)).withContext(text).toBe('2026-11-24 10:40');
    expect(read('8:30')).toBe('2026-11-27 08:30');
    expect(read('yesterday 16:00')).toBe('2026-11-26 16:00');
    // The hour is the present one where none is said.
    expect(read('24 nov')).toBe('2026-11-24 14:05');
  });

  it('means days that were done behind, and days that are planned ahead', () => {
    expect(read('Thu')).toBe('2026-11-26 14:05');
    expect(read('Thu', { towards: 'future' })).toBe('2026-12-3 14:05');
    expect(read('Fri')).toBe('2026-11-27 14:05');
    expect(read('14 Jan', { time: false, towards: 'future' })).toBe('2027-1-14 12:00');
    expect(read('14 Jan')).toBe('2026-1-14 14:05');
  });

  it('guesses nothing', () => {
    for (const text of ['', 'soon', '31 Feb', '24 Nov 25:00', '24 Nvo', '13/13', 'maybe Tue'])
      expect(read(text)).withContext(text).toBeUndefined();
  });
});
