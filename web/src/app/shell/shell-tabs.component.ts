import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import type { PageRead } from '@kalvet/core';
import { Session } from '../shared/session.service';

const TABS: readonly { readonly path: string; readonly name: string; readonly reads: PageRead }[] = [
  { path: '/coats', name: 'Trees', reads: 'coats' },
  { path: '/coats/tanks', name: 'Tanks and shelf', reads: 'tanks' },
  { path: '/coats/plan', name: 'Coat plan', reads: 'shop' },
];

/** The pages of the shell room. */
@Component({
  selector: 'kv-shell-tabs',
  imports: [RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav aria-label="Shell room" class="kv-no-print">
      @for (tab of tabs(); track tab.path) {
        <a
          [routerLink]="tab.path"
          routerLinkActive="here"
          [routerLinkActiveOptions]="{ exact: true }"
          ariaCurrentWhenActive="page"
          >{{ tab.name }}</a
        >
      }
    </nav>
  `,
  styles: `
    nav {
      display: flex;
      gap: 20px;
    }
    a {
      padding: 2px 0;
      border-bottom: 3px solid transparent;
      color: var(--kv-ink-soft);
      font-weight: 500;
      text-decoration: none;
    }
    a:hover,
    .here {
      color: var(--kv-ink);
      border-bottom-color: var(--room-shell);
    }
  `,
})
export class ShellTabs {
  private readonly session = inject(Session);
  protected readonly tabs = computed(() => TABS.filter(({ reads }) => this.session.reads(reads)));
}
