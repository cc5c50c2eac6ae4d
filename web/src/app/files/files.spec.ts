// Files on their way, the strip of a record, and the page of its pictures.
import { HttpTestingController } from '@angular/common/http/testing';
import type { TestRequest } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import type { AttachmentView, AttachmentsAnswer } from '@kalvet/core';
import { FILE_LIMITS } from '@kalvet/core';
import { bed, page, press, show, type } from '../testing/screen';
import { Files } from './files.component';
import { PicturesPage } from './pictures.page';
import { Uploads } from './uploads.service';

const PART = FILE_LIMITS.partBytes;
const png = (bytes: number, name = 'crack.png') => {
  const data = new Uint8Array(bytes);
  data.set([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  return new File([data], name, { lastModified: 1 });
};
const content = { id: 'c-1', kind: 'picture', mime: 'image/png', bytes: 9, width: 400, height: 300 } as const;
const seen = (id: string, rest: Partial<AttachmentView> = {}): AttachmentView => ({
  ...{ id, contentId: `c-${id}`, subject: 'step', subjectId: 's-1', defect: null, name: `${id}.jpg`, role: 'seen' },
  ...{ words: '', pins: [], at: '2027-03-01T09:00:00.000Z', byId: 'p-1', voidReason: null, version: 1 },
  ...{ content: { ...content, id: `c-${id}` }, by: 'Ines Marlow', on: 'Inspect, OTT 4', mark: '4/12', room: 'chasing' },
  ...rest,
});
const answer = (
  attachments: readonly AttachmentView[],
  beside: AttachmentsAnswer['beside'] = [],
): AttachmentsAnswer => ({
  ...{ change: 1, title: 'Otter with Reed 4/12', path: '/pieces/p-4' },
  attachments,
  beside,
});

describe('uploads', () => {
  let http: HttpTestingController;
  let uploads: Uploads;
  beforeEach(() => {
    http = bed();
    uploads = TestBed.inject(Uploads);
  });
  const hook = { subject: 'step', subjectId: 's-1' } as const;
  const states = () => uploads.uploads().map(({ state }) => state);
  /** Waits until a request is under way. */
  async function next(match: (url: string) => boolean): Promise<TestRequest> {
    for (let i = 0; i < 200; i++) {
      const [found] = http.match((request) => match(request.url));
      if (found) return found;
      await new Promise((wait) => setTimeout(wait, 10));
    }
    throw new Error('nothing was asked');
  }
  const begin = async (parts: readonly number[] = []) =>
    (await next((url) => url === '/api/files')).flush({ id: 'up-1', parts, partBytes: PART });

  it('go in parts, leave out what is there, and end hung on their record', async () => {
    uploads.send([png(2.5 * PART)], { ...hook, words: 'at the ear' });
    await begin([1]);
    for (const part of [0, 2]) {
      const sent = await next((url) => url === `/api/files/up-1/parts/${part}`);
      expect((sent.request.body as Blob).size).toBe(part === 2 ? PART / 2 : PART);
      expect(sent.request.headers.get('Content-Type')).toBe('application/octet-stream');
      sent.flush({});
    }
    (await next((url) => url.endsWith('/end'))).flush(content);
    const attach = await next((url) => url === '/api/attachments');
    expect(attach.request.body).toEqual(
      jasmine.objectContaining({ contentId: 'c-1', subject: 'step', words: 'at the ear', role: 'seen' }),
    );
    attach.flush({ change: 2 });
    for (let i = 0; i < 50 && states()[0] !== 'done'; i++) await new Promise((wait) => setTimeout(wait, 10));
    expect(states()).toEqual(['done']);
  });

  it('wait for the network and go on by themselves', async () => {
    uploads.send([png(100)], hook);
    await begin();
    (await next((url) => url.includes('/parts/0'))).error(new ProgressEvent('offline'));
    for (let i = 0; i < 50 && states()[0] !== 'broken'; i++) await new Promise((wait) => setTimeout(wait, 10));
    expect(states()).toEqual(['broken']);
    // A second later it tries again.
    (await next((url) => url.includes('/parts/0'))).flush({});
    expect((await next((url) => url.endsWith('/end'))).request.method).toBe('POST');
  });

  it('are refused before anything is sent where they are nothing that is kept, and given up in the middle', async () => {
    uploads.send([new File(['#!/bin/sh'], 'run.stl')], hook);
    for (let i = 0; i < 50 && states()[0] !== 'failed'; i++) await new Promise((wait) => setTimeout(wait, 10));
    expect(uploads.uploads()[0]!.wrong).toMatch(/run\.stl is nothing that is kept here/);
    expect(http.match(() => true).length).toBe(0);
    const [id] = uploads.send([png(3 * PART)], hook);
    await begin();
    const sent = await next((url) => url.includes('/parts/0'));
    uploads.giveUp(id!);
    sent.flush({});
    expect((await next((url) => url.endsWith('/give-up'))).request.url).toBe('/api/files/up-1/give-up');
  });
});

describe('the strip of a record’s files', () => {
  it('shows pictures in time with what is marked, papers by name, and takes what is dropped', async () => {
    const http = bed();
    const fixture = await show(Files, { subject: 'piece', subjectId: 'p-4' });
    const paper = seen('2', { name: 'terms.pdf', content: { ...content, kind: 'paper', bytes: 812_000 } });
    const pins = [{ x: 0.5, y: 0.5, words: 'pinhole' }];
    http.expectOne('/api/attachments?subject=piece&id=p-4').flush(answer([seen('1', { pins }), paper]));
    await fixture.whenStable();
    expect(page(fixture).querySelectorAll('.strip img').length).toBe(1);
    expect(page(fixture).querySelector('.pins')!.textContent!.trim()).toBe('1');
    expect(page(fixture).querySelector('.papers')!.textContent).toContain('812 kB');
    const link = page(fixture).querySelector('.strip a')!;
    expect(link.getAttribute('href')).toBe('/pictures/piece/p-4?picture=1');
    expect(link.getAttribute('aria-label')).toContain('Inspect, OTT 4');
    const data = new DataTransfer();
    data.items.add(png(50));
    page(fixture)
      .querySelector('.box')!
      .dispatchEvent(new DragEvent('drop', { dataTransfer: data, cancelable: true }));
    await fixture.whenStable();
    expect(page(fixture).querySelector('.coming')!.textContent).toContain('crack.png');
  });

  it('offers nothing to a visitor, and no place at all where there is nothing', async () => {
    const http = bed([], { roles: ['visitor'] });
    const fixture = await show(Files, { subject: 'work', subjectId: 'w-1' });
    http.expectOne('/api/attachments?subject=work&id=w-1').flush(answer([]));
    await fixture.whenStable();
    expect(page(fixture).querySelector('.box')).toBeNull();
  });
});

describe('the page of pictures', () => {
  let http: HttpTestingController;
  beforeEach(() => (http = bed()));
  async function open(found: AttachmentsAnswer, inputs: Record<string, string> = {}) {
    const fixture = await show(PicturesPage, { subject: 'piece', id: 'p-4', ...inputs });
    for (const request of http.match('/api/attachments?subject=piece&id=p-4')) request.flush(found);
    await fixture.whenStable();
    for (const request of http.match('/api/attachments?subject=piece&id=p-4')) request.flush(found);
    await fixture.whenStable();
    return fixture;
  }

  it('looks at the newest, and marks places on it', async () => {
    const fixture = await open(answer([seen('1'), seen('2', { words: 'by the ear' })]));
    expect(page(fixture).querySelector('aside')!.textContent).toContain('by the ear');
    await press(fixture, '[data-test=mark]');
    const image = page(fixture).querySelector<HTMLImageElement>('.stage img')!;
    const { left, top, width, height } = image.getBoundingClientRect();
    image.dispatchEvent(
      new MouseEvent('click', { clientX: left + width / 4, clientY: top + height / 2, bubbles: true }),
    );
    await fixture.whenStable();
    await type(fixture, '#pin-0', 'pinhole, 2 mm');
    // Pushed by the arrows.
    const pin = page(fixture).querySelector('.pin')!;
    pin.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true, cancelable: true }));
    await press(fixture, '[data-test=save-picture]');
    const sent = http.expectOne('/api/attachments/2');
    const [marked] = (sent.request.body as { pins: { x: number; y: number; words: string }[] }).pins;
    expect([marked!.x, marked!.y, marked!.words]).toEqual([jasmine.any(Number), jasmine.any(Number), 'pinhole, 2 mm']);
    expect(marked!.x).toBeCloseTo(0.26, 1);
    expect(sent.request.body).toEqual(jasmine.objectContaining({ version: 1, words: 'by the ear' }));
  });

  it('holds it beside the reference view, or over it with a slider', async () => {
    const view = seen('9', { role: 'reference', words: 'left side', subject: 'work' });
    const beside = [{ title: 'The work', attachments: [view] }];
    const fixture = await open(answer([seen('1')], beside), { view: 'beside' });
    expect(page(fixture).querySelectorAll('.stage kv-picture').length).toBe(2);
    expect(page(fixture).querySelector('aside')!.textContent).toContain('left side');
    const over = await open(answer([seen('1')], beside), { view: 'over' });
    const slider = page(over).querySelector<HTMLInputElement>('[data-test=slide]')!;
    slider.value = '30';
    slider.dispatchEvent(new Event('input'));
    await over.whenStable();
    expect(page(over).querySelector<HTMLElement>('.top')!.style.clipPath).toContain('70%');
  });

  it('puts a picture away only with a reason', async () => {
    const fixture = await open(answer([seen('1')]));
    await press(fixture, 'Put away');
    const button = [...page(fixture).querySelectorAll('button')].find((each) =>
      each.textContent?.includes('Put it away'),
    )!;
    expect(button.disabled).toBeTrue();
    await type(fixture, '#put-reason', 'of another piece');
    button.click();
    expect(http.expectOne('/api/attachments/1/put-away').request.body).toEqual({
      version: 1,
      reason: 'of another piece',
    });
  });
});
