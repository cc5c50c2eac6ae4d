import type { HttpTestingController } from '@angular/common/http/testing';
import { ApplicationRef } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { SetUpWork } from '@kalvet/core';
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
    await type(fixture, '#area-0', '1600');
    await type(fixture, '#height-0', '450');
    // 0.744 kg of wax × 8.536
    expect(page(fixture).querySelector('.will')!.textContent).toContain('Will be 6.4 ± 0.2 kg bronze, 9 coats.');
  });

  it('asks for what everybody knows first; the letters of the tags and the rest are folded, said in a line', async () => {
    await type(fixture, '#title', 'Heron');
    const more = page(fixture).querySelector<HTMLDetailsElement>('details')!;
    expect(more.open).toBeFalse();
    expect(more.querySelector('summary')!.textContent).toContain('HER on the tags · ceramic shell');
    await press(fixture, '[data-test=set-up]');
    http
      .expectOne('/api/works')
      .flush(
        { error: { code: 'invalid', message: 'x', fields: { code: 'already stands on the tags of another work' } } },
        { status: 400, statusText: 'x' },
      );
    await fixture.whenStable();
    expect(more.open).withContext('where something in it is wrong').toBeTrue();
  });

  it('grows a row with Enter, of the wall above, and ends at an empty one; sections of one number share a mould', async () => {
    const enter = (id: string) => {
      const at = page(fixture).querySelector<HTMLInputElement>(id)!;
      at.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
      return fixture.whenStable();
    };
    await press(fixture, '[data-test=add-section]');
    await type(fixture, '#name-0', 'Body');
    await type(fixture, '#wall-1', '4.5');
    await enter('#name-0');
    await type(fixture, '#name-1', 'Wing');
    await enter('#name-1');
    await type(fixture, '#name-2', 'Base');
    await enter('#name-2');
    await enter('#name-3');
    form().setSection(2, { mould: 1 });
    await fixture.whenStable();
    const body = await sent();
    expect(body.sections.map(({ name, wallMm }: { name: string; wallMm: number }) => [name, wallMm])).toEqual([
      ['Body', 5],
      ['Wing', 4.5],
      ['Base', 4.5],
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

  it('asks about a wax that does not fit its wall, puts in what was meant, and records it where it is so', async () => {
    await type(fixture, '#title', 'Heron');
    await type(fixture, '#area-0', '1600');
    await type(fixture, '#expected-wax-0', '750');
    expect(page(fixture).textContent).toContain('a wall of 5 mm over 1600 cm² takes 0.74 kg');
    await press(fixture, '[data-test=meant]');
    expect(page(fixture).querySelector<HTMLInputElement>('#expected-wax-0')!.value).toBe('0.75');
    expect(page(fixture).querySelector('kv-doubt')).toBeNull();
  });
});

describe('setting a work up anew', () => {
  const section = {
    wallMm: 5,
    metalHeightMm: 300,
    expectedWaxKg: 1.1,
    areaCm2: null,
    seamM: null,
    deep: false,
    typed: {},
  };
  const setUp: SetUpWork = {
    id: 'w-1',
    code: 'HER',
    title: 'Heron, Listening',
    artist: 'Aldous Fenn',
    editionSize: 8,
    artistProofs: 1,
    alloyId: 'C90500',
    method: 'shell',
    approval: 'each',
    finish: 'grey green',
    finishing: 'patina',
    glyph: 'bird',
    dueDate: null,
    sections: [
      { ...section, name: 'Body' },
      { ...section, name: 'Wing A' },
      { ...section, name: 'Wing B' },
    ],
    moulds: [
      { name: 'body', sections: [1], pullsBefore: 2 },
      { name: 'wings', sections: [2, 3], pullsBefore: 2 },
    ],
  };

  it('shows the work as it was filled in, and sends it with what was changed and its version', async () => {
    const http = bed();
    const fixture = await show(SetUpPage, { id: 'w-1' });
    http.expectOne('/api/works/w-1').flush({ setUp, work: { version: 4 } });
    await fixture.whenStable();
    const value = (css: string) => page(fixture).querySelector<HTMLInputElement>(css)!.value;
    expect(['#title', '#code', '#name-1', '#mould-1', '#mould-2', '#pulls'].map(value)).toEqual([
      'Heron, Listening',
      'HER',
      'Wing A',
      '2',
      '2',
      '2',
    ]);
    await type(fixture, '#height-0', '420');
    await press(fixture, '[data-test=set-up]');
    const { request } = http.expectOne('/api/works/w-1/set-up');
    expect([request.method, request.body.version, request.body.sections[0].metalHeightMm]).toEqual(['PUT', 4, 420]);
    // Moulds for the same sections keep their names.
    expect(request.body.moulds).toEqual(setUp.moulds);
    expect([request.body.alloyId, request.body.approval, request.body.artistProofs]).toEqual(['C90500', 'each', 1]);
  });

  it('has nothing to set up once something of it is begun', async () => {
    const http = bed([{ path: 'works/:id', children: [] }]);
    await show(SetUpPage, { id: 'w-1' });
    http.expectOne('/api/works/w-1').flush({ setUp: null, work: { version: 5 } });
    await TestBed.inject(ApplicationRef).whenStable();
    expect(TestBed.inject(Router).url).toBe('/works/w-1');
  });
});
