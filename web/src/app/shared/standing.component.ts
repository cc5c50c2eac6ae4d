import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { StandingAnswer } from '@kalvet/core';
import { catchError, of, switchMap, timer } from 'rxjs';
import { Api } from './api.service';
import { Session } from './session.service';
import { ShopService } from './shop.service';

const LOOK_MS = 60_000;

/** What whoever keeps the shop must know whatever page they look at: a disk that fills up, copies that are missing. */
@Component({
  selector: 'kv-standing',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (disk(); as text) {
      <p class="alarm" role="alert">{{ text }}</p>
    }
    @if (backup(); as text) {
      <p class="alarm" role="alert">{{ text }} <a routerLink="/backups">Backups</a></p>
    }
  `,
  styles: `
    .alarm {
      margin: 0;
      padding: 7px 20px;
      border-bottom: 1px solid var(--kv-alert);
      background: var(--kv-alert-pale);
      font-weight: 500;
    }
    a {
      color: inherit;
    }
  `,
})
export class Standing {
  private readonly shop = inject(ShopService);
  private readonly session = inject(Session);
  private readonly api = inject(Api);
  private readonly answer = signal<StandingAnswer | undefined>(undefined);

  protected readonly disk = computed(() => {
    const disk = this.answer()?.disk;
    if (!disk || disk.state === 'well') return '';
    return disk.state === 'full'
      ? `The disk is full, ${disk.freeMb} MB are left: nothing can be recorded until there is room.`
      : `The disk fills up: ${disk.freeMb} MB are left. Below 200 MB nothing can be recorded any more.`;
  });
  protected readonly backup = computed(() => {
    const standing = this.answer();
    if (!standing?.backup.overdue || !this.session.may('keep records')) return '';
    const { checkedAt, trouble } = standing.backup;
    const last = checkedAt
      ? `The last proven backup is of ${this.shop.at(checkedAt)}.`
      : 'There is no proven backup yet.';
    return `${last}${trouble ? ` ${trouble}` : ''}`;
  });

  constructor() {
    timer(0, LOOK_MS)
      .pipe(
        switchMap(() => this.api.get<StandingAnswer>('/standing').pipe(catchError(() => of(undefined)))),
        takeUntilDestroyed(),
      )
      .subscribe((answer) => answer && this.answer.set(answer));
  }
}
