import type { Routes } from '@angular/router';

/** The page that most visits begin with. */
export const floorPage = () => import('./work/floor/floor.page').then((m) => m.FloorPage);

export const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'floor' },
  {
    path: 'floor',
    title: 'Floor · Kalvet',
    loadComponent: floorPage,
  },
  {
    path: 'pieces/:id',
    title: 'Piece · Kalvet',
    loadComponent: () => import('./work/piece/piece.page').then((m) => m.PiecePage),
  },
  {
    path: 'day',
    title: 'Day sheet · Kalvet',
    loadComponent: () => import('./plan/day/day.page').then((m) => m.DayPage),
  },
  {
    path: 'plan',
    title: 'Plan · Kalvet',
    loadComponent: () => import('./plan/plan/plan.page').then((m) => m.PlanPage),
  },
  {
    path: 'coats',
    title: 'Coats · Kalvet',
    loadComponent: () => import('./shell/coats.page').then((m) => m.CoatsPage),
  },
  {
    path: 'pour',
    title: 'Pour · Kalvet',
    loadComponent: () => import('./pour/pour.page').then((m) => m.PourPage),
  },
  {
    path: 'works/:id',
    title: 'Work · Kalvet',
    loadComponent: () => import('./work/work/work.page').then((m) => m.WorkPage),
  },
  {
    path: 'orders',
    title: 'Orders · Kalvet',
    loadComponent: () => import('./work/orders/orders.page').then((m) => m.OrdersPage),
  },
  {
    path: 'settings',
    title: 'Settings · Kalvet',
    loadComponent: () => import('./plan/settings/settings.page').then((m) => m.SettingsPage),
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
