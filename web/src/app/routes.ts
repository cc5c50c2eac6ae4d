import type { Routes } from '@angular/router';

export const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'floor' },
  {
    path: 'floor',
    title: 'Floor · Kalvet',
    loadComponent: () => import('./work/floor/floor.page').then((m) => m.FloorPage),
  },
  {
    path: 'pieces/:id',
    title: 'Piece · Kalvet',
    loadComponent: () => import('./work/piece/piece.page').then((m) => m.PiecePage),
  },
  {
    path: 'set-up',
    title: 'Set up a work · Kalvet',
    loadComponent: () => import('./work/set-up/set-up.page').then((m) => m.SetUpPage),
  },
  {
    path: '**',
    title: 'Not found · Kalvet',
    loadComponent: () => import('./shared/not-found.page').then((m) => m.NotFoundPage),
  },
];
