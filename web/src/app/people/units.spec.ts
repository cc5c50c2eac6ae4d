import type { ShopAnswer } from '@kalvet/core';
import { DEFAULT_SETTINGS, METRIC, kg, say } from '@kalvet/core';
import { TestBed } from '@angular/core/testing';
import { PERSON, bed, press, show } from '../testing/screen';
import { ShopService } from '../shared/shop.service';
import { UnitsDialog } from './units.dialog';

describe('the units of a person', () => {
  it('are chosen each by itself, kept with the person, and read at once in every sentence', async () => {
    const http = bed();
    const shop = TestBed.inject(ShopService);
    expect(shop.words(say`Charge ${kg(10)}`)).toBe('Charge 10.0 kg');
    const fixture = await show(UnitsDialog, { open: true });
    const choice = [...document.body.querySelectorAll<HTMLElement>('[role=radio]')].find(
      (each) => each.textContent?.trim() === 'lb',
    )!;
    choice.click();
    await fixture.whenStable();
    await press(fixture, '[data-test=save-units]');
    const call = http.expectOne('/api/people/p-1');
    const units = { ...METRIC, mass: 'lb' as const };
    expect(call.request.body).toEqual({ version: 1, units });
    call.flush({ change: 2 });
    const answer: ShopAnswer = {
      settings: DEFAULT_SETTINGS,
      people: [{ ...PERSON, units }],
      now: new Date().toISOString(),
      pourDays: [],
      closedDays: [],
      today: '2027-03-01',
      change: 2,
    };
    http.expectOne('/api/shop').flush(answer);
    await fixture.whenStable();
    expect(shop.words(say`Charge ${kg(10)}`)).toBe('Charge 22.0 lb');
    // What is not weight stays as it was.
    expect(shop.amount(1150, '°C', 0)).toBe('1150 °C');
    fixture.destroy();
  });
});
