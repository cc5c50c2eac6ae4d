import { TestBed } from '@angular/core/testing';
import { PERSON, bed, page, press, show, type } from '../testing/screen';
import { ShopService } from '../shared/shop.service';
import { WhoDialog } from './who.dialog';

describe('who is working here', () => {
  it('is chosen from the list, kept in this browser, and said to be no proof', async () => {
    const other = { ...PERSON, id: 'p-2', name: 'Oskar Venn', shortName: 'OV' };
    bed([], {}, [other]);
    expect(TestBed.inject(ShopService).person()!.id).toBe('p-1');
    const fixture = await show(WhoDialog, { open: true });
    expect(document.body.textContent).toContain('not a proof');
    let closed = false;
    fixture.componentInstance.closed.subscribe(() => (closed = true));
    await press(fixture, '[data-person=p-2]');
    expect(closed).toBeTrue();
    expect(TestBed.inject(ShopService).person()!.name).toBe('Oskar Venn');
    expect(localStorage.getItem('kalvet.person')).toBe('p-2');
  });

  it('somebody new is added with initials unless another short name is typed', async () => {
    const http = bed();
    const fixture = await show(WhoDialog, { open: true });
    await press(fixture, 'Somebody else');
    await type(fixture, '#who-name', 'Wilma van Tarn');
    await press(fixture, 'This is me');
    const call = http.expectOne('/api/people');
    expect(call.request.body).toEqual(
      jasmine.objectContaining({ name: 'Wilma van Tarn', shortName: 'WVT', mayOverride: false }),
    );
    call.flush(
      {
        error: {
          code: 'invalid',
          message: 'x',
          fields: { name: 'somebody of this name is already on the list' },
        },
      },
      { status: 400, statusText: 'x' },
    );
    await fixture.whenStable();
    expect(document.body.textContent).toContain('already on the list');
    expect(page(fixture)).toBeTruthy();
  });
});
