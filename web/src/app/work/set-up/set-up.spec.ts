import type { HttpTestingController } from '@angular/common/http/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { bed, page, press, show, type } from '../../testing/screen';
import { SetUpPage } from './set-up.page';

describe('setting up a work', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<SetUpPage>;
  const form = () =>
    fixture.componentInstance as unknown as {
      setSection(place: number, patch: object): void;
      setMethod(method: string): void;
      code(): string;
    };
  const sent = async () => {
    await press(fixture, '[data-test=set-up]');
    return http.expectOne('/api/works').request.body;
  };

  beforeEach(async () => {
    http = bed();
    fixture = await show(SetUpPage, {});
  });

  it('makes the letters of the tags from the title, without its article and accents', async () => {
    await type(fixture, '#title', 'The Élan of Otters');
    expect(form().code()).toBe('ELA');
    await type(fixture, '#code', 'ott');
    expect(form().code()).toBe('OTT');
  });

  it('works out bronze and coats while it is typed: 0.5 cm of wax over 1600 cm², 9 coats for 450 mm', async () => {
    form().setSection(0, { areaCm2: 1600, wallMm: 5, metalHeightMm: 450 });
    await fixture.whenStable();
    // 0.744 kg of wax × 8.536
    expect(page(fixture).querySelector('.says')!.textContent!.replace(/\s+/g, ' ')).toContain(
      '6.4 ± 0.2 kg bronze 9 coats',
    );
  });

  it('sends sections with their moulds: shared ones in one, those of their own apart', async () => {
    await press(fixture, '[data-test=add-section]');
    await press(fixture, '[data-test=add-section]');
    form().setSection(1, { name: 'Wing', ownMould: true });
    form().setSection(2, { name: 'Base', ownMould: false });
    form().setSection(0, { name: 'Body' });
    await fixture.whenStable();
    const body = await sent();
    expect(body.sections.map(({ name, ownMould }: { name: string; ownMould?: boolean }) => [name, ownMould])).toEqual([
      ['Body', undefined],
      ['Wing', undefined],
      ['Base', undefined],
    ]);
    expect(body.moulds).toEqual([
      { name: 'Body, Base', sections: [1, 3], pullsBefore: 0 },
      { name: 'Wing', sections: [2], pullsBefore: 0 },
    ]);
  });

  it('a direct wax is one of a kind, without mould or approval, and its risk is said', async () => {
    form().setMethod('direct');
    await fixture.whenStable();
    expect(page(fixture).textContent).toContain('no second attempt from the same model');
    expect(await sent()).toEqual(
      jasmine.objectContaining({ editionSize: 1, artistProofs: 0, approval: 'none', moulds: [] }),
    );
  });

  it('keeps everything typed and shows each wrong field where it stands', async () => {
    await type(fixture, '#title', 'Heron');
    await press(fixture, '[data-test=set-up]');
    http.expectOne('/api/works').flush(
      {
        error: {
          code: 'invalid',
          message: 'x',
          fields: { artist: 'is empty', 'sections.0.wallMm': 'must be at least 1' },
        },
      },
      { status: 400, statusText: 'x' },
    );
    await fixture.whenStable();
    expect([...page(fixture).querySelectorAll('.kv-wrong')].map((each) => each.textContent!.trim())).toEqual([
      'is empty',
      'must be at least 1',
    ]);
    expect(page(fixture).querySelector<HTMLInputElement>('#title')!.value).toBe('Heron');
  });
});
