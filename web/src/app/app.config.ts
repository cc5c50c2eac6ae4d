import { provideHttpClient, withInterceptors } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import type { ApplicationConfig } from '@angular/core';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { providePrimeNG } from 'primeng/config';
import { wayInto } from './pages';
import { routes } from './routes';
import { WAY_INTO } from './shared/way-into';
import { sessionInterceptor } from './shared/session.interceptor';
import { KalvetPreset } from './theme';

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideRouter(routes, withComponentInputBinding()),
    provideHttpClient(withInterceptors([sessionInterceptor])),
    providePrimeNG({
      theme: { preset: KalvetPreset, options: { darkModeSelector: '.kv-dark' } },
      // The page's own, without which the browser takes no styles that scripts write.
      csp: { nonce: document.querySelector('kv-root')?.getAttribute('ngCspNonce') ?? undefined },
    }),
    { provide: WAY_INTO, useValue: wayInto },
  ],
};
