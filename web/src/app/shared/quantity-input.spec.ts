import type { ComponentFixture } from '@angular/core/testing';
import type { Units } from '@kalvet/core';
import { bed, page, show } from '../testing/screen';
import { Field } from './field.component';
import { QuantityInput } from './quantity-input.component';

const AMERICAN: Units = { mass: 'lb', temperature: '°F', length: 'inch', volume: 'US gal', area: 'ft²' };

describe('a field for a quantity', () => {
  let fixture: ComponentFixture<QuantityInput>;
  const box = () => page(fixture).querySelector('input')!;
  const type = async (text: string) => {
    box().value = text;
    box().dispatchEvent(new Event('input'));
    await fixture.whenStable();
  };
  const open = async (inputs: Record<string, unknown>, units?: Units) => {
    bed([], units ? { units } : {});
    fixture = await show(QuantityInput, { unit: 'kg', decimals: 2, ...inputs });
  };

  it('shows what is kept in the reader’s unit, without sending anything by showing it', async () => {
    await open({ value: 4.5359237 }, AMERICAN);
    expect(box().value).toBe('10');
    expect(fixture.componentInstance.value()).toBe(4.5359237);
  });

  it('takes a comma, any unit, and a bare number in the reader’s own', async () => {
    await open({});
    await type('2,43');
    expect(fixture.componentInstance.value()).toBe(2.43);
    await type('430 g');
    expect(fixture.componentInstance.value()).toBe(0.43);
    await open({}, AMERICAN);
    await type('10');
    // 10 × 0.45359237, to a tenth of a gram.
    expect(fixture.componentInstance.value()).toBe(4.5359);
  });

  it('leaves what was typed as it is while it is typed, and says it as it was typed', async () => {
    await open({});
    const said: (string | undefined)[] = [];
    fixture.componentInstance.typedChange.subscribe((text) => said.push(text));
    await type('2 lb 4 oz');
    expect(box().value).toBe('2 lb 4 oz');
    await type('2.4');
    expect(said).toEqual(['2 lb 4 oz', undefined]);
  });

  it('loses no point where keys come faster than the screen is drawn', async () => {
    await open({});
    for (const key of ['2', '.', '4', '3']) {
      box().value += key;
      box().dispatchEvent(new Event('input'));
      // The screen is drawn now and then between two keys, as it happens.
      if (key === '.') fixture.detectChanges();
    }
    await fixture.whenStable();
    expect([box().value, fixture.componentInstance.value()]).toEqual(['2.43', 2.43]);
  });

  it('gives what cannot be read as no number, which no form sends, and nothing where it is empty', async () => {
    await open({ value: 3 });
    await type('a lot');
    expect(fixture.componentInstance.value()).toBeNaN();
    expect(box().value).toBe('a lot');
    await type('');
    expect(fixture.componentInstance.value()).toBeNull();
  });

  it('shows a record as it was typed', async () => {
    await open({ value: 1.0206, typed: '2 lb 4 oz' });
    expect(box().value).toBe('2 lb 4 oz');
  });
});

describe('the label of a field', () => {
  it('carries the unit that its reader types, whether it may be left empty, and what is wrong', async () => {
    bed([], { units: AMERICAN });
    const fixture = await show(Field, {
      label: 'Hottest',
      for: 'hot',
      unit: '°C',
      optional: true,
      error: 'must be at most 2192',
    });
    expect(page(fixture).querySelector('label')!.textContent).toBe('Hottest, °F (if known)');
    expect(page(fixture).querySelector('[role=alert]')!.id).toBe('hot-wrong');
  });
});
