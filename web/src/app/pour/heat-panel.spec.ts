import type { HttpTestingController } from '@angular/common/http/testing';
import type { ComponentFixture } from '@angular/core/testing';
import type { HeatAnswer } from '@kalvet/core';
import { POUR_CHECKS } from '@kalvet/core';
import { heatAnswer, stepForm } from '../testing/pieces';
import { bed, page, press, show } from '../testing/screen';
import { HeatPanel } from './heat-panel.component';

const pouring = (number: number, outcome: 'poured' | null = null) => ({
  ...heatAnswer().pourings[0]!,
  id: `po-${number}`,
  treeId: `t-${number}`,
  stepId: `st-${number}`,
  label: `T-${number}`,
  order: number,
  plannedKg: 12.34,
  outcome,
});
const heat = (rest: Partial<HeatAnswer> = {}): HeatAnswer =>
  heatAnswer({ pourings: [pouring(1), pouring(2)], warnings: ['A small charge melts badly.'], ...rest });

describe('a heat on its day', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<HeatPanel>;
  const open = async (given: HeatAnswer) => {
    http = bed();
    fixture = await show(HeatPanel, {
      form: stepForm({ kind: 'pour', carrier: 'tree', carrierId: 't-2', through: 'heat' }, { heats: [given] }),
    });
  };
  const text = () => page(fixture).textContent!.replace(/\s+/g, ' ');

  it('shows its trees in pouring order, its charge, and asks for crew and cover by name', async () => {
    await open(heat());
    expect(text()).toContain('Heat H-31');
    expect(
      [...page(fixture).querySelectorAll('.stages li')].map((line) =>
        [...line.querySelectorAll('span')].map((part) => part.textContent!.trim()).join(' '),
      ),
    ).toEqual(['1. T-1 12.3 kg', '2. T-2 12.3 kg']);
    expect(text()).toContain('A small charge melts badly.');
    const confirm = page(fixture).querySelector<HTMLButtonElement>('[data-test=confirm-crew]')!;
    expect(confirm.disabled).toBeTrue();
    expect(confirm.textContent).toContain('Ines Marlow');
    expect(text()).toContain('Nobody is named as second');
    page(fixture).querySelector<HTMLInputElement>('#heat-cover')!.click();
    await fixture.whenStable();
    // Nothing that is forgotten is passed over.
    expect(confirm.disabled).toBeTrue();
    for (const check of POUR_CHECKS) page(fixture).querySelector<HTMLInputElement>(`#check-${check}`)!.click();
    await fixture.whenStable();
    await press(fixture, '[data-test=confirm-crew]');
    expect(http.expectOne('/api/heats/h-1/crew').request.body).toEqual({
      version: 5,
      crew: [{ role: 'lead', personId: 'p-1', deputyId: null }],
      signs: 'spoken',
      checks: [...POUR_CHECKS],
      coverConfirmed: true,
    });
  });

  it('counts on from when metal began to flow in a panel that was closed meanwhile', async () => {
    const pouringNow = heat({ coverConfirmedById: 'p-1', state: 'charged' });
    await open(pouringNow);
    const began = Date.now();
    await press(fixture, '[data-test=metal-flows]');
    fixture.destroy();
    spyOn(Date, 'now').and.returnValue(began + 12_340);
    fixture = await show(HeatPanel, {
      form: stepForm({ kind: 'pour', carrier: 'tree', carrierId: 't-2', through: 'heat' }, { heats: [pouringNow] }),
    });
    expect(text()).toMatch(/12\.[23] s/);
    await press(fixture, '[data-test=full]');
    expect(Number(page(fixture).querySelector<HTMLInputElement>('#reading-seconds')!.value)).toBeCloseTo(12.3, 0);
  });

  it('records the tree it was opened for first; its pour weight is offered, taken over by a tap and marked so', async () => {
    await open(heat({ coverConfirmedById: 'p-1', state: 'charged' }));
    expect(page(fixture).querySelector('kv-heat-crew')).toBeNull();
    // Nothing that is measured is said before somebody says it.
    expect(page(fixture).querySelector<HTMLInputElement>('#reading-pouredKg')!.value).toBe('');
    await press(fixture, '[data-test=take-over]');
    await press(fixture, '[data-test=record]');
    const call = http.expectOne('/api/heats/h-1/pour');
    expect(call.request.body).toEqual(
      jasmine.objectContaining({
        version: 5,
        treeId: 't-2',
        outcome: 'poured',
        readings: { pouredKg: 12.3 },
        taken: ['pouredKg'],
      }),
    );
    call.flush({ change: 9, id: 'h-1', flags: [] });
    http
      .expectOne('/api/heats/h-1')
      .flush(
        heat({ coverConfirmedById: 'p-1', state: 'running', version: 6, pourings: [pouring(1), pouring(2, 'poured')] }),
      );
    await fixture.whenStable();
    expect(page(fixture).querySelector('kv-heat-pour legend')!.textContent).toContain('T-1');
    // Nothing can be rearranged once metal has flowed.
    expect(text()).not.toContain('Change trees, order or charge');
  });

  it('passes an unconfirmed crew only with a reason, naming the rule', async () => {
    await open(heat());
    await press(fixture, '[data-test=record]');
    http.expectOne('/api/heats/h-1/pour').flush(
      {
        error: {
          code: 'refused',
          message: 'x',
          refusals: [{ rule: 'crew', message: 'Crew and cover are not confirmed for this heat.', mayOverride: true }],
        },
      },
      { status: 409, statusText: 'x' },
    );
    await fixture.whenStable();
    const override = page(fixture).querySelector<HTMLButtonElement>('[data-test=override]')!;
    expect(override.disabled).toBeTrue();
    const reason = page(fixture).querySelector<HTMLInputElement>('#kv-override')!;
    reason.value = 'said aloud, sheet signed';
    reason.dispatchEvent(new Event('input'));
    await fixture.whenStable();
    await press(fixture, '[data-test=override]');
    expect(http.expectOne('/api/heats/h-1/pour').request.body.override).toEqual([
      { rule: 'crew', reason: 'said aloud, sheet signed' },
    ]);
  });

  it('ends with the pig when every tree has its outcome', async () => {
    await open(heat({ coverConfirmedById: 'p-1', pourings: [pouring(2), pouring(1, 'poured')] }));
    await press(fixture, '[data-test=record]');
    http.expectOne('/api/heats/h-1/pour').flush({ change: 9, id: 'h-1', flags: [] });
    http
      .expectOne('/api/heats/h-1')
      .flush(heat({ coverConfirmedById: 'p-1', version: 7, pourings: [pouring(1, 'poured'), pouring(2, 'poured')] }));
    await fixture.whenStable();
    const end = page(fixture).querySelector<HTMLButtonElement>('[data-test=finish-heat]')!;
    end.click();
    await fixture.whenStable();
    http.expectNone('/api/heats/h-1/finish');
    expect(page(fixture).textContent).toContain('is missing: 0 where nothing was left');
    (
      fixture.debugElement.query((each) => each.name === 'kv-heat-end').componentInstance as {
        pigKg: { set(kg: number): void };
      }
    ).pigKg.set(1.5);
    await fixture.whenStable();
    await press(fixture, '[data-test=finish-heat]');
    expect(http.expectOne('/api/heats/h-1/finish').request.body).toEqual(
      jasmine.objectContaining({ version: 7, pigKg: 1.5, by: ['p-1'] }),
    );
  });
});
