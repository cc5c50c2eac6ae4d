import type { HttpInterceptorFn } from '@angular/common/http';

const STORED = 'kalvet.person';

/** Who said last that they work at this browser. */
export const storedPerson = (): string | null => {
  try {
    return localStorage.getItem(STORED);
  } catch {
    return null;
  }
};

export const storePerson = (id: string): void => {
  try {
    localStorage.setItem(STORED, id);
  } catch {
    // A browser that keeps nothing asks again next time.
  }
};

/** Says with every request who works here. */
export const personInterceptor: HttpInterceptorFn = (request, next) => {
  const person = storedPerson();
  return next(person ? request.clone({ setHeaders: { 'X-Kalvet-Person': person } }) : request);
};
