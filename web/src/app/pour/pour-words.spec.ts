import { secondsInWords } from './pour-words';

describe('seconds after the kiln', () => {
  it('are said as a stopwatch is read', () => {
    expect([0.4, 29.6, 59.6, 180, 229].map(secondsInWords)).toEqual(['0 s', '30 s', '1 min', '3 min', '3 min 49 s']);
  });
});
