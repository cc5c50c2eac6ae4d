import { hoursInWords, parseHours, parseSpan, spanShort } from './hours';

describe('hours as people type them', () => {
  it('are read with any of the usual dashes and separators', () => {
    const wanted = [
      { from: '08:00', to: '12:00' },
      { from: '12:30', to: '16:30' },
    ];
    for (const text of ['8–12, 12:30–16:30', '8:00-12:00; 12.30-16.30', '08:00 to 12:00, 12:30 to 16:30'])
      expect(parseHours(text)).withContext(text).toEqual({ windows: wanted });
    expect(parseHours('')).toEqual({ windows: [] });
  });

  it('are refused with what is wrong in them', () => {
    expect(parseHours('12–8').wrong).toContain('ends before it begins');
    for (const text of ['morning', '8', '25–26', '8–12–16', '8:75–9'])
      expect(parseHours(text).wrong).withContext(text).toContain(`“${text}”`);
  });

  it('come back as they are shown', () => {
    expect(hoursInWords(parseHours('8-12,13-17').windows)).toBe('08:00–12:00, 13:00–17:00');
  });
});

describe('spans of time', () => {
  it('are minutes unless a unit says otherwise', () => {
    expect(['90', '90 min', '1 h 30 min', '1,5 h', '2 d', '0'].map(parseSpan)).toEqual([90, 90, 90, 90, 2880, 0]);
    expect(['', '–', '-'].map(parseSpan)).toEqual([null, null, null]);
    expect(['soon', '3 weeks', '-5', '2 d x'].map(parseSpan)).toEqual([undefined, undefined, undefined, undefined]);
  });

  it('are shown as short as they were typed', () => {
    expect([0, 45, 90, 1440, 2925, null].map(spanShort)).toEqual([
      '0',
      '45 min',
      '1 h 30 min',
      '1 d',
      '2 d 45 min',
      '–',
    ]);
    for (const minutes of [1, 59, 60, 1439, 1441, 43_200]) expect(parseSpan(spanShort(minutes))).toBe(minutes);
  });
});
