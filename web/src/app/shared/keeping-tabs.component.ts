import { ChangeDetectionStrategy, Component } from '@angular/core';
import type { PageTab } from './page-tabs.component';
import { PageTabs } from './page-tabs.component';

const TABS: readonly PageTab[] = [
  { path: '/settings', name: 'Hours and numbers', reads: 'planning' },
  { path: '/instruments', name: 'Instruments', reads: 'instruments' },
  { path: '/people', name: 'People', reads: 'people' },
  { path: '/backups', name: 'Backups', reads: 'backups' },
  { path: '/audit', name: 'Audit', reads: 'audit' },
];

/** The pages on which a shop is kept. */
@Component({
  selector: 'kv-keeping-tabs',
  imports: [PageTabs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<kv-page-tabs label="Settings" [tabs]="tabs" />`,
  styles: ':host { display: block; border-bottom: 1px solid var(--kv-line); }',
})
export class KeepingTabs {
  protected readonly tabs = TABS;
}
