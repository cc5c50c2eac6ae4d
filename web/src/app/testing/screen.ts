// What the specs of screens share: a page's providers, a shop with two people, and hands to press with.
import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import type { Type } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import type { Routes } from '@angular/router';
import { DEFAULT_SETTINGS, METRIC } from '@kalvet/core';
import type { Person, SessionAnswer } from '@kalvet/core';
import { NEVER } from 'rxjs';
import { Live } from '../shared/live.service';
import { wayInto } from '../pages';
import { WAY_INTO } from '../shared/way-into';
import { PARTS } from '../step-parts';
import { STEP_PARTS } from '../route/parts';
import { Session } from '../shared/session.service';
import { ShopService } from '../shared/shop.service';

export const PERSON: Person = {
  id: 'p-1',
  name: 'Ines Marlow',
  shortName: 'IM',
  roles: ['manager'],
  rooms: [],
  gates: [],
  active: true,
  units: METRIC,
  version: 1,
};

/** How a browser stands at which somebody is signed in. */
export const SIGNED_IN: SessionAnswer = {
  state: 'in',
  person: PERSON,
  how: 'password',
  token: 'token-1',
  tablet: null,
  choices: [],
  demo: false,
  openid: null,
  shopName: 'Marrowby Quay',
};

/** Prepares a bed whose stream is silent and whose requests the spec answers. */
export function bed(
  routes: Routes = [],
  person: Partial<Person> = {},
  others: readonly Person[] = [],
): HttpTestingController {
  TestBed.resetTestingModule();
  // What one spec leaves typed is nobody else's.
  localStorage.clear();
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideRouter(routes, withComponentInputBinding()),
      provideHttpClient(),
      provideHttpClientTesting(),
      { provide: STEP_PARTS, useValue: PARTS },
      { provide: WAY_INTO, useValue: wayInto },
      { provide: Live, useValue: { changed$: NEVER, wrote: () => undefined } },
    ],
  });
  const http = TestBed.inject(HttpTestingController);
  TestBed.inject(Session).read().subscribe();
  const answer: SessionAnswer = { ...SIGNED_IN, person: { ...PERSON, ...person } };
  http.expectOne('/api/session').flush(answer);
  TestBed.inject(ShopService).load().subscribe();
  http.expectOne('/api/shop').flush({
    settings: DEFAULT_SETTINGS,
    people: [{ ...PERSON, ...person }, ...others],
    now: new Date().toISOString(),
    today: '2027-03-01',
    pourDays: [],
    closedDays: [],
    change: 1,
  });
  return http;
}

/** Shows a component with its inputs. */
export async function show<T>(component: Type<T>, inputs: Record<string, unknown>): Promise<ComponentFixture<T>> {
  const fixture = TestBed.createComponent(component);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  return fixture;
}

export const page = (fixture: ComponentFixture<unknown>) => fixture.nativeElement as HTMLElement;

/** Presses what carries the words, or what a selector names. */
export async function press(fixture: ComponentFixture<unknown>, what: string): Promise<void> {
  const root = document.body;
  const named = what.startsWith('[')
    ? root.querySelector<HTMLElement>(what)
    : [...root.querySelectorAll<HTMLElement>('button, a')].find((each) => each.textContent?.trim() === what);
  if (!named) throw new Error(`nothing to press: ${what}`);
  named.click();
  await fixture.whenStable();
}

/** Types into a field. */
export async function type(fixture: ComponentFixture<unknown>, css: string, text: string): Promise<void> {
  const field = document.body.querySelector<HTMLInputElement>(css)!;
  field.value = text;
  field.dispatchEvent(new Event('input'));
  await fixture.whenStable();
}
