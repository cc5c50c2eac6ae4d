import type { HttpTestingController } from '@angular/common/http/testing';
import type { ComponentFixture } from '@angular/core/testing';
import type { LaneView, OpenItemView } from '@kalvet/core';
import { bed, page, press, show, type } from '../testing/screen';
import { OpenItems } from './open-items.component';

const item = (id: string, rest: Partial<OpenItemView> = {}): OpenItemView => ({
  id,
  castId: 'c',
  cast: 'HER 3 A',
  kind: 'window',
  what: `window ${id}`,
  openedAt: '2027-03-01T10:00:00.000Z',
  closedAt: null,
  closedHow: null,
  version: 2,
  ...rest,
});
const lane = {
  name: 'Body',
  attempts: [{ castId: 'c', label: 'HER 3 A', state: 'wax', steps: [] }],
} as unknown as LaneView;

describe('what must be put back or taken out', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<OpenItems>;
  const open = async (items: readonly OpenItemView[]) => {
    http = bed();
    fixture = await show(OpenItems, { items, lanes: [lane] });
  };

  it('has the open lines first, and says how the others were closed', async () => {
    await open([item('1', { closedAt: '2027-03-02T10:00:00.000Z', closedHow: 'put back' }), item('2')]);
    const lines = [...page(fixture).querySelectorAll('li')].map((li) => li.textContent!.replace(/\s+/g, ' ').trim());
    expect(lines[0]).toContain('window 2');
    expect(lines[1]).toContain('put back');
  });

  it('closes a line with the version that was seen', async () => {
    await open([item('1')]);
    await press(fixture, '[aria-label="window cut out window 1: put back"]');
    const [call] = http.match((request) => request.url.includes('1'));
    expect(call!.request.body).toEqual(jasmine.objectContaining({ version: 2, how: 'put back' }));
  });

  it('opens a line on a cast', async () => {
    await open([]);
    expect(page(fixture).textContent).toContain('Nothing was cut out');
    await press(fixture, '[data-test=add-item]');
    await type(fixture, '#item-what', 'under the wing, 60 × 40 mm');
    await press(fixture, '[data-test=save-item]');
    const [call] = http.match(() => true);
    expect(call!.request.body).toEqual(jasmine.objectContaining({ castId: 'c', what: 'under the wing, 60 × 40 mm' }));
  });
});
