import { analysisInWords, readAnalysis } from './analysis';

describe('an analysis as it stands on a sheet', () => {
  it('is read with commas and points, and said again the same', () => {
    expect(readAnalysis('Cu 95.1, Si 3,9; mn: 0.9 %')).toEqual({ Cu: 95.1, Si: 3.9, Mn: 0.9 });
    expect(readAnalysis('')).toEqual({});
    expect(analysisInWords({ Cu: 88, Sn: 10 })).toBe('Cu 88, Sn 10');
    expect(readAnalysis(analysisInWords({ Cu: 87.8, Sn: 10.1 }))).toEqual({ Cu: 87.8, Sn: 10.1 });
  });

  it('is not guessed at', () => {
    expect(readAnalysis('mostly copper')).toBeUndefined();
    expect(readAnalysis('Cu 951')).toBeUndefined();
  });
});
