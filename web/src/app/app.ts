import { ChangeDetectionStrategy, Component, HostListener, computed, inject, signal, viewChild } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { ToastModule } from 'primeng/toast';
import { DialogModule } from 'primeng/dialog';
import { filter, map } from 'rxjs';
import { WhoDialog } from './people/who.dialog';
import { IN_HEAD, PAGES } from './pages';
import { UnitsDialog } from './people/units.dialog';
import { Rail } from './rail.component';
import { Api } from './shared/api.service';
import { FindBox } from './shared/find.component';
import { Live } from './shared/live.service';
import { ShopService } from './shared/shop.service';

/** Pages whose own head is the rail, with what is in each room. */
const OWN_RAIL = new Set(['floor', 'day', 'pieces/:id']);

/** The frame round every page: where one can go, finding, who works here, and whether the records can be reached. */
@Component({
  selector: 'kv-root',
  imports: [
    RouterOutlet,
    RouterLink,
    RouterLinkActive,
    ToastModule,
    DialogModule,
    WhoDialog,
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
  protected readonly reached = toSignal(inject(Api).reached$, { initialValue: true });
  protected readonly asked = signal(false);
  protected readonly help = signal(false);
  protected readonly units = signal(false);
  protected readonly pages = IN_HEAD;
  private readonly address = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map(({ urlAfterRedirects }) => urlAfterRedirects.split(/[/?#]/)[1] ?? ''),
    ),
  );
  /** The page that is shown; a page with a fuller rail of its own needs no second one. */
  protected readonly page = computed(() => PAGES.find(({ path }) => path.split('/')[0] === this.address()));
  protected readonly needsRail = computed(() => this.page() !== undefined && !OWN_RAIL.has(this.page()!.path));
  protected readonly find = viewChild(FindBox);
  /** Asked once: until somebody has said who they are, and again when they want to change it. */
  protected readonly askWho = computed(() => this.asked() || (this.shop.loaded() && this.shop.person() === undefined));
  private goPressed = 0;

  constructor() {
    this.shop.load().subscribe();
    // Listened to on every page, so that each one says when the records are away and goes on when they are back.
    inject(Live).changed$.pipe(takeUntilDestroyed()).subscribe();
  }

  @HostListener('document:keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (
      target.closest('input, textarea, select, [contenteditable], .p-dialog') ||
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
      const page = IN_HEAD.find(({ key }) => key === event.key);
      if (page) void this.router.navigateByUrl(`/${page.path}`);
    }
  }
}
