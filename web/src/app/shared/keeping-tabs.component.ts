import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import type { PageRead } from '@kalvet/core';
import { Session } from './session.service';

const TABS: readonly { readonly path: string; readonly name: string; readonly reads: PageRead }[] = [
  { path: 'settings', name: 'Hours and numbers', reads: 'planning' },
  { path: 'instruments', name: 'Instruments', reads: 'instruments' },
  { path: 'people', name: 'People', reads: 'people' },
  { path: 'backups', name: 'Backups', reads: 'backups' },
  { path: 'audit', name: 'Audit', reads: 'audit' },
];

/** The pages on which a shop is kept; each to those who may see it. */
@Component({
  selector: 'kv-keeping-tabs',
  imports: [RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (tabs().length > 1) {
      <nav aria-label="Settings">
        @for (tab of tabs(); track tab.path) {
          <a [routerLink]="'/' + tab.path" routerLinkActive="here" ariaCurrentWhenActive="page">{{ tab.name }}</a>
        }
      </nav>
    }
  `,
  styles: `
    nav {
      display: flex;
      gap: 22px;
      border-bottom: 1px solid var(--kv-line);
    }
    a {
      padding: 6px 0;
      border-bottom: 3px solid transparent;
      margin-bottom: -1px;
      color: var(--kv-ink-soft);
      font-weight: 500;
      text-decoration: none;
    }
    a:hover,
    .here {
      color: var(--kv-ink);
      border-bottom-color: var(--kv-accent);
    }
  `,
})
export class KeepingTabs {
  private readonly session = inject(Session);
  protected readonly tabs = computed(() => TABS.filter(({ reads }) => this.session.reads(reads)));
}
