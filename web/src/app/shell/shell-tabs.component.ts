import { ChangeDetectionStrategy, Component } from '@angular/core';
import type { PageTab } from '../shared/page-tabs.component';
import { PageTabs } from '../shared/page-tabs.component';

const TABS: readonly PageTab[] = [
  { path: '/coats', name: 'Trees', reads: 'coats' },
  { path: '/coats/tanks', name: 'Tanks and shelf', reads: 'tanks' },
  { path: '/coats/plan', name: 'Coat plan', reads: 'shop' },
];

/** The pages of the shell room. */
@Component({
  selector: 'kv-shell-tabs',
  imports: [PageTabs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<kv-page-tabs label="Shell room" [tabs]="tabs" />`,
  styles: ':host { --tab-line: var(--room-shell); }',
})
export class ShellTabs {
  protected readonly tabs = TABS;
}
