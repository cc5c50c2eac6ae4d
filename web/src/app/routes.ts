import type { Routes } from '@angular/router';

/** The rooms' own parts are fetched with the first page, not with the frame round it. */
export const routes: Routes = [{ path: '', loadChildren: () => import('./page-routes').then((m) => m.pageRoutes) }];
