import { lateness } from './lateness.ts';

describe('whether a piece is late', () => {
  const due = (dueDate: string | null, state: 'in work' | 'hold' | 'delivered' | 'cancelled' = 'in work') => ({
    dueDate,
    state,
  });

  it('is told by the day that has passed, or by the plan, whichever is worse', () => {
    expect(lateness(due('2027-03-05'), '2027-03-05')).toEqual({ late: false, lateDays: 0 });
    expect(lateness(due('2027-03-05'), '2027-03-08')).toEqual({ late: true, lateDays: 3 });
    expect(lateness(due('2027-03-05'), '2027-03-01', 4)).toEqual({ late: true, lateDays: 4 });
    expect(lateness(due('2027-03-05'), '2027-03-15', 4).lateDays).toBe(10);
  });

  it('counts calendar days over a change of clocks', () => {
    // London puts its clocks forward on 28 March 2027: that day has 23 hours and is a day all the same.
    expect(lateness(due('2027-03-27'), '2027-03-29').lateDays).toBe(2);
  });

  it('is no question of one that is out, cancelled, or due on no day; one on hold is late like any other', () => {
    expect(lateness(due('2027-03-05', 'delivered'), '2027-06-01', 9).late).toBeFalse();
    expect(lateness(due('2027-03-05', 'cancelled'), '2027-06-01').late).toBeFalse();
    expect(lateness(due(null), '2027-06-01', 9).late).toBeFalse();
    expect(lateness(due('2027-03-05', 'hold'), '2027-03-06').lateDays).toBe(1);
  });
});
