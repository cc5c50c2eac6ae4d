import type { Type } from '@angular/core';
import type { PageRead, Right, Room } from '@kalvet/core';
import type { WayInto } from './shared/way-into';

/** A page: where it is, what it is called, the key after `g`, and the room whose page it is. */
export interface Page {
  readonly path: string;
  readonly name: string;
  readonly load: () => Promise<Type<unknown>>;
  /** In the head, and reached by `g` and this key. */
  readonly key?: string;
  /** As the list of keys says it. */
  readonly help?: string;
  readonly room?: Room;
  /** The page of the head that it belongs to. */
  readonly under?: string;
  /** Shown to those who may read it. */
  readonly reads?: PageRead;
  /** Shown to those who may do what it is for. */
  readonly does?: Right;
}

/** Every page, in the order of the head: routes, navigation, keys and the rail's ways into the rooms come from here. */
export const PAGES: readonly Page[] = [
  {
    path: 'floor',
    name: 'Floor',
    key: 'f',
    help: 'the Floor',
    load: () => import('./work/floor/floor.page').then((m) => m.FloorPage),
  },
  {
    path: 'day',
    name: 'Day sheet',
    key: 'd',
    help: 'the Day sheet',
    reads: 'day',
    load: () => import('./plan/day/day.page').then((m) => m.DayPage),
  },
  {
    path: 'coats',
    name: 'Coats',
    key: 'c',
    help: 'the Coats',
    reads: 'coats',
    room: 'shell',
    load: () => import('./shell/coats.page').then((m) => m.CoatsPage),
  },
  {
    path: 'coats/tanks',
    under: 'coats',
    name: 'Tanks',
    reads: 'tanks',
    load: () => import('./shell/tanks.page').then((m) => m.TanksPage),
  },
  {
    path: 'coats/plan',
    under: 'coats',
    name: 'Coat plan',
    reads: 'shop',
    load: () => import('./shell/coat-plan.page').then((m) => m.CoatPlanPage),
  },
  {
    path: 'kiln',
    name: 'Kiln',
    key: 'k',
    help: 'the Kiln',
    reads: 'kiln',
    room: 'burnout',
    load: () => import('./burnout/kiln.page').then((m) => m.KilnPage),
  },
  {
    path: 'pour',
    name: 'Pour',
    key: 'p',
    help: 'the Pour',
    reads: 'pour',
    room: 'pour',
    load: () => import('./pour/pour.page').then((m) => m.PourPage),
  },
  {
    path: 'pour/day',
    under: 'pour',
    name: 'Pour day',
    reads: 'pour',
    load: () => import('./pour/day/day-of-pour.page').then((m) => m.DayOfPourPage),
  },
  {
    path: 'pour/day/:day',
    under: 'pour',
    name: 'Pour day',
    reads: 'pour',
    load: () => import('./pour/day/day-of-pour.page').then((m) => m.DayOfPourPage),
  },
  {
    path: 'heats/:id/live',
    under: 'pour',
    name: 'Heat, while it is poured',
    reads: 'heats',
    load: () => import('./pour/live/live.page').then((m) => m.LivePage),
  },
  {
    path: 'metal',
    under: 'pour',
    name: 'Metal',
    reads: 'metal',
    load: () => import('./stores/metal.page').then((m) => m.MetalPage),
  },
  {
    path: 'heats',
    under: 'pour',
    name: 'Heats of the year',
    reads: 'heats',
    load: () => import('./pour/book/book.page').then((m) => m.BookPage),
  },
  {
    path: 'plan',
    name: 'Plan',
    key: 'l',
    help: 'the Plan',
    reads: 'plan',
    load: () => import('./plan/plan/plan.page').then((m) => m.PlanPage),
  },
  {
    path: 'plan/weeks',
    under: 'plan',
    name: 'Two weeks',
    reads: 'plan',
    load: () => import('./plan/weeks/weeks.page').then((m) => m.WeeksPage),
  },
  {
    path: 'plan/out',
    under: 'plan',
    name: 'Calendars and files',
    reads: 'feeds',
    load: () => import('./plan/out/out.page').then((m) => m.OutPage),
  },
  {
    path: 'drafts',
    under: 'plan',
    name: 'What if',
    reads: 'drafts',
    load: () => import('./plan/drafts/drafts.page').then((m) => m.DraftsPage),
  },
  {
    path: 'drafts/:id',
    under: 'plan',
    name: 'What if',
    reads: 'drafts',
    load: () => import('./plan/drafts/drafts.page').then((m) => m.DraftsPage),
  },
  {
    path: 'why/:id',
    under: 'plan',
    name: 'Why then',
    reads: 'plan',
    load: () => import('./plan/why/why.page').then((m) => m.WhyPage),
  },
  {
    path: 'orders',
    name: 'Orders',
    key: 'o',
    help: 'the Orders',
    reads: 'orders',
    load: () => import('./work/orders/orders.page').then((m) => m.OrdersPage),
  },
  {
    path: 'quality',
    name: 'Quality',
    key: 'q',
    help: 'what the shop knows of itself',
    reads: 'quality',
    load: () => import('./quality/quality.page').then((m) => m.QualityPage),
  },
  {
    path: 'settings',
    name: 'Settings',
    key: 's',
    help: 'the Settings',
    reads: 'planning',
    load: () => import('./plan/settings/settings.page').then((m) => m.SettingsPage),
  },
  {
    path: 'set-up',
    name: 'Set up a work',
    key: 'n',
    help: 'set up a new work',
    does: 'set up work',
    load: () => import('./work/set-up/set-up.page').then((m) => m.SetUpPage),
  },
  {
    path: 'instruments',
    under: 'settings',
    name: 'Instruments',
    reads: 'instruments',
    load: () => import('./instruments/instruments.page').then((m) => m.InstrumentsPage),
  },
  {
    path: 'people',
    under: 'settings',
    name: 'People',
    load: () => import('./people/people.page').then((m) => m.PeoplePage),
  },
  {
    path: 'audit',
    under: 'settings',
    name: 'Audit',
    load: () => import('./people/audit.page').then((m) => m.AuditPage),
  },
  {
    path: 'backups',
    under: 'settings',
    name: 'Backups',
    load: () => import('./keep/backups.page').then((m) => m.BackupsPage),
  },
  {
    path: 'pictures/:subject/:id',
    name: 'Pictures',
    reads: 'files',
    load: () => import('./files/pictures.page').then((m) => m.PicturesPage),
  },
  { path: 'pieces/:id', name: 'Piece', load: () => import('./work/piece/piece.page').then((m) => m.PiecePage) },
  {
    path: 'heats/:id',
    under: 'pour',
    name: 'Heat',
    load: () => import('./pour/heat.page').then((m) => m.HeatPage),
  },
  { path: 'loads/:id', name: 'Kiln load', load: () => import('./burnout/load.page').then((m) => m.LoadPage) },
  {
    path: 'works/:id/set-up',
    name: 'Set up anew',
    load: () => import('./work/set-up/set-up.page').then((m) => m.SetUpPage),
  },
  {
    path: 'works/:id/model',
    name: 'Model',
    reads: 'works',
    load: () => import('./weigh/model.page').then((m) => m.ModelPage),
  },
  { path: 'works/:id', name: 'Work', load: () => import('./work/work/work.page').then((m) => m.WorkPage) },
  { path: '**', name: 'Not found', load: () => import('./shared/not-found.page').then((m) => m.NotFoundPage) },
];

/** The page that most visits begin with. */
export const floorPage = PAGES[0]!.load;

/** Pages that one goes to by the head or by a key. */
export const IN_HEAD: readonly (Page & { readonly key: string })[] = PAGES.flatMap((page) =>
  page.key === undefined ? [] : [{ ...page, key: page.key }],
);

/** Where the rail leads: a room's own page, else its day sheet. */
export const wayInto: WayInto = (room) => {
  const own = PAGES.find((page) => page.room === room);
  return own ? { path: `/${own.path}`, query: null } : { path: '/day', query: { room } };
};
