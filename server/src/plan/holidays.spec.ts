import { holidayRegions, holidaysFrom } from './holidays.ts';

describe('usual holidays', () => {
  it('are the public ones of a region from a day on, each day once', () => {
    // England and Wales, as they are proclaimed for 2027: Christmas Day and Boxing Day lie on a weekend and are made up for.
    const days = holidaysFrom('2027-01-02', 'GB', 'ENG').filter(({ day }) => day < '2028');
    expect(days.map(({ day }) => day)).toEqual([
      '2027-03-26',
      '2027-03-29',
      '2027-05-03',
      '2027-05-31',
      '2027-08-30',
      '2027-12-25',
      '2027-12-26',
      '2027-12-27',
      '2027-12-28',
    ]);
    expect(days[0]!.name).toBe('Good Friday');
    // Scotland has the second of January too.
    expect(holidaysFrom('2027-01-02', 'GB', 'SCT').map(({ day }) => day)).toContain('2028-01-03');
  });

  it('are known of many countries, with their regions', () => {
    const regions = holidayRegions();
    expect(regions.length).toBeGreaterThan(100);
    expect(regions.find(({ code }) => code === 'DE')!.regions.length).toBe(16);
    expect(regions.find(({ code }) => code === 'GB')!.name).toBe('United Kingdom');
  });
});
