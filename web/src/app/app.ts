import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  HostListener,
  computed,
  effect,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { filter, map } from 'rxjs';
import { AccountDialog } from './people/account.dialog';
import { SignIn } from './people/sign-in.component';
import { IN_HEAD, PAGES } from './pages';
import { UnitsDialog } from './people/units.dialog';
import { Api } from './shared/api.service';
import { Dialog } from './shared/dialog.component';
import { FindBox } from './shared/find.component';
import { Live } from './shared/live.service';
import { Opened } from './shared/opened.directive';
import { Rail } from './shared/rail.component';
import { SaidView } from './shared/said.component';
import { Session } from './shared/session.service';
import { ShopService } from './shared/shop.service';
import { Standing } from './shared/standing.component';

/** Pages whose own head is the rail, with what is in each room. */
const OWN_RAIL = new Set(['floor', 'day', 'pieces/:id']);

/** The frame round every page: where one can go, finding, who works here, and whether the records can be reached. */
@Component({
  selector: 'kv-root',
  imports: [
    RouterOutlet,
    RouterLink,
    RouterLinkActive,
    SaidView,
    Dialog,
    Opened,
    AccountDialog,
    SignIn,
    Standing,
    UnitsDialog,
    FindBox,
    Rail,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './app.html',
  styleUrl: './app.css',
})
export class App {
  protected readonly shop = inject(ShopService);
  private readonly router = inject(Router);
  /** Why the records cannot be reached, as the server or the browser says it. */
  protected readonly away = toSignal(inject(Api).away$, { initialValue: '' });
  protected readonly asked = signal(false);
  protected readonly help = signal(false);
  protected readonly units = signal(false);
  protected readonly session = inject(Session);
  /** Pages that whoever is signed in may see. */
  protected readonly pages = computed(() =>
    IN_HEAD.filter(({ reads, does }) => (!reads || this.session.reads(reads)) && (!does || this.session.may(does))),
  );
  /** The page stays behind it where a session ended while somebody typed. */
  protected readonly shown = computed(() => this.session.isIn());
  private readonly address = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map(({ urlAfterRedirects }) => urlAfterRedirects.split(/[/?#]/)[1] ?? ''),
    ),
  );
  /** The page that is shown; a page with a fuller rail of its own needs no second one. */
  protected readonly page = computed(() => PAGES.find(({ path }) => path.split('/')[0] === this.address()));
  protected readonly inHead = computed(() => this.page()?.under ?? this.page()?.path);
  protected readonly needsRail = computed(() => this.page() !== undefined && !OWN_RAIL.has(this.page()!.path));
  protected readonly find = viewChild(FindBox);
  private goPressed = 0;

  constructor() {
    const live = inject(Live);
    const gone = inject(DestroyRef);
    this.session.read().subscribe();
    // Read and listened to from the first moment somebody is signed in: each page says when the records are away and goes
    // on when they are back.
    const begun = effect(() => {
      if (!this.session.isIn()) return;
      untracked(() => {
        this.shop.load().subscribe();
        live.changed$.pipe(takeUntilDestroyed(gone)).subscribe();
      });
      begun.destroy();
    });
  }

  @HostListener('document:keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (
      !this.shown() ||
      target.closest('input, textarea, select, [contenteditable], .p-drawer, .veil') ||
      event.ctrlKey ||
      event.metaKey ||
      event.altKey
    )
      return;
    const go = event.timeStamp - this.goPressed < 1500;
    this.goPressed = 0;
    if (event.key === '/') {
      event.preventDefault();
      this.find()?.focus();
    } else if (event.key === '?') this.help.set(true);
    else if (event.key === 'g') this.goPressed = event.timeStamp;
    else if (go) {
      const page = this.pages().find(({ key }) => key === event.key);
      if (page) void this.router.navigateByUrl(`/${page.path}`);
    }
  }
}
