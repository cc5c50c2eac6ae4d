import { ChangeDetectionStrategy, Component, HostListener, computed, inject, signal, viewChild } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { ToastModule } from 'primeng/toast';
import { DialogModule } from 'primeng/dialog';
import { WhoDialog } from './people/who.dialog';
import { Api } from './shared/api.service';
import { FindBox } from './shared/find.component';
import { Live } from './shared/live.service';
import { ShopService } from './shared/shop.service';

/** After `g`: where a key goes. */
const GO: Readonly<Record<string, string>> = {
  f: '/floor',
  d: '/day',
  c: '/coats',
  p: '/pour',
  l: '/plan',
  o: '/orders',
  s: '/settings',
  n: '/set-up',
};

/** The frame round every page: where one can go, finding, who works here, and whether the records can be reached. */
@Component({
  selector: 'kv-root',
  imports: [RouterOutlet, RouterLink, RouterLinkActive, ToastModule, DialogModule, WhoDialog, FindBox],
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
    const go = Date.now() - this.goPressed < 1500;
    this.goPressed = 0;
    if (event.key === '/') {
      event.preventDefault();
      this.find()?.focus();
    } else if (event.key === '?') this.help.set(true);
    else if (event.key === 'g') this.goPressed = Date.now();
    else if (go && GO[event.key]) void this.router.navigateByUrl(GO[event.key]!);
  }
}
