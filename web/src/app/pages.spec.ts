import { ROOMS } from '@kalvet/core';
import { IN_HEAD, PAGES, wayInto } from './pages';

describe('the list of pages', () => {
  it('has each address and each key once', () => {
    expect(new Set(PAGES.map(({ path }) => path)).size).toBe(PAGES.length);
    expect(new Set(IN_HEAD.map(({ key }) => key)).size).toBe(IN_HEAD.length);
    expect(PAGES.at(-1)!.path).toBe('**');
  });

  it('has a component behind every address', async () => {
    const found = await Promise.all(PAGES.map(({ load }) => load()));
    expect(found.filter((component) => typeof component !== 'function')).toEqual([]);
  });

  it('leads into every room: its own page, else its day sheet', () => {
    expect(wayInto('shell')).toEqual({ path: '/coats', query: null });
    expect(wayInto('wax')).toEqual({ path: '/day', query: { room: 'wax' } });
    for (const room of ROOMS) expect(PAGES.some(({ path }) => `/${path}` === wayInto(room).path)).toBeTrue();
  });
});
