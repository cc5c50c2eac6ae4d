import type { Routes } from '@angular/router';
import { PAGES } from './pages';
import { STEP_PARTS } from './route/parts';
import { PARTS } from './step-parts';

export const pageRoutes: Routes = [
  {
    path: '',
    providers: [{ provide: STEP_PARTS, useValue: PARTS }],
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'floor' },
      ...PAGES.map(({ path, name, load }) => ({ path, title: `${name} · Kalvet`, loadComponent: load })),
    ],
  },
];
