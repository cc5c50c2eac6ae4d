import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { IsActiveMatchOptions } from '@angular/router';
import { RouterLink, RouterLinkActive } from '@angular/router';
import type { PageRead } from '@kalvet/core';
import { Session } from './session.service';

/** A page beside others: where it lies, and what one must be allowed to read to see it. */
export interface PageTab {
  readonly path: string;
  readonly name: string;
  readonly reads: PageRead;
}

/** Pages that belong together; each to those who may see it, and none where there is only one. */
@Component({
  selector: 'kv-page-tabs',
  imports: [RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (seen().length > 1) {
      <nav [attr.aria-label]="label()" class="kv-no-print">
        @for (tab of seen(); track tab.path) {
          <a
            [routerLink]="tab.path"
            routerLinkActive="here"
            [routerLinkActiveOptions]="itself"
            ariaCurrentWhenActive="page"
            >{{ tab.name }}</a
          >
        }
      </nav>
    }
  `,
  styles: `
    nav {
      display: flex;
      gap: 21px;
    }
    a {
      padding: 4px 0;
      border-bottom: 3px solid transparent;
      color: var(--kv-ink-soft);
      font-weight: 500;
      text-decoration: none;
    }
    a:hover,
    .here {
      color: var(--kv-ink);
      border-bottom-color: var(--tab-line, var(--kv-accent));
    }
  `,
})
export class PageTabs {
  readonly label = input.required<string>();
  readonly tabs = input.required<readonly PageTab[]>();
  /** The page itself, whatever it is asked for; not the pages below it. */
  protected readonly itself: IsActiveMatchOptions = {
    paths: 'exact',
    queryParams: 'ignored',
    matrixParams: 'ignored',
    fragment: 'ignored',
  };
  private readonly session = inject(Session);
  protected readonly seen = computed(() => this.tabs().filter(({ reads }) => this.session.reads(reads)));
}
