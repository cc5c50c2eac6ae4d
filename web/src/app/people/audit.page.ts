import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { AuditAnswer, AuditLine, AuditWhat } from '@kalvet/core';
import { AUDITED, HOW_WORDS } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { SelectModule } from 'primeng/select';
import { Api, asApiError } from '../shared/api.service';
import { KeepingTabs } from '../shared/keeping-tabs.component';
import { ShopService } from '../shared/shop.service';

const NAMES: Readonly<Record<AuditWhat, string>> = {
  'sign in': 'Signed in',
  failed: 'Failed',
  'sign out': 'Signed out',
  password: 'Password',
  pin: 'PIN',
  tablet: 'Tablet',
  rights: 'Rights',
  override: 'Exception',
  export: 'Export',
  backup: 'Backup',
  restore: 'Restore',
};

/** Who came in and who did not, who gave whom which rights, which rules were passed, what was taken out. */
@Component({
  selector: 'kv-audit',
  imports: [FormsModule, ButtonModule, KeepingTabs, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <h1>Settings</h1>
      <kv-keeping-tabs />
      <div class="bar">
        <label for="a-what">Show</label>
        <p-select
          inputId="a-what"
          [options]="kinds"
          optionLabel="name"
          optionValue="what"
          [ngModel]="what()"
          (ngModelChange)="what.set($event)"
          appendTo="body" />
        <span class="spring"></span>
        <a class="kv-link" [href]="file()" download>Take it out as CSV</a>
      </div>
      @if (wrong()) {
        <p class="kv-alert" role="alert">{{ wrong() }}</p>
      }
      @if (lines().length === 0 && !reading()) {
        <p class="kv-soft">Nothing of this kind yet.</p>
      } @else {
        <table>
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">Kind</th>
              <th scope="col">Who</th>
              <th scope="col">What was done</th>
              <th scope="col">From</th>
            </tr>
          </thead>
          <tbody>
            @for (line of lines(); track line.id) {
              <tr>
                <td class="when">{{ shop.when(line.at) }}</td>
                <td [class.kv-alert]="line.what === 'failed'">{{ names[line.what] }}</td>
                <td>
                  {{ line.name }}
                  @if (line.how) {
                    <span class="kv-soft how">{{ how(line) }}</span>
                  }
                </td>
                <td class="words">{{ line.text }}</td>
                <td class="kv-soft">{{ from(line) }}</td>
              </tr>
            }
          </tbody>
        </table>
      }
      @if (more()) {
        <button pButton type="button" severity="secondary" [outlined]="true" [disabled]="reading()" (click)="next()">
          Earlier ones
        </button>
      }
    </div>
  `,
  styles: `
    .page {
      max-width: 1240px;
      margin: 0 auto;
      padding: 18px 20px 60px;
      display: grid;
      gap: 12px;
      justify-items: start;
    }
    kv-keeping-tabs,
    .bar,
    table {
      width: 100%;
    }
    .bar {
      display: flex;
      gap: 12px;
      align-items: center;
    }
    .bar p-select {
      flex: none;
      width: 220px;
    }
    .bar a {
      white-space: nowrap;
    }
    .spring {
      flex: 1;
    }
    table {
      border-collapse: collapse;
      background: var(--kv-paper);
    }
    th,
    td {
      padding: 6px 10px;
      text-align: left;
      font-weight: 400;
      border-bottom: 1px solid var(--kv-line);
      vertical-align: top;
    }
    thead th {
      font-weight: 500;
      font-size: 0.9rem;
      color: var(--kv-ink-soft);
    }
    .when {
      white-space: nowrap;
    }
    .how {
      display: block;
      font-size: 0.86rem;
    }
    .words {
      overflow-wrap: anywhere;
    }
  `,
})
export class AuditPage {
  protected readonly shop = inject(ShopService);
  private readonly api = inject(Api);
  protected readonly names = NAMES;
  protected readonly kinds = [
    { what: '', name: 'everything' },
    ...AUDITED.map((what) => ({ what, name: NAMES[what] })),
  ];
  protected readonly what = signal('');
  protected readonly lines = signal<readonly AuditLine[]>([]);
  protected readonly more = signal(false);
  protected readonly reading = signal(true);
  protected readonly wrong = signal('');
  private readonly query = computed(() => (this.what() ? `?what=${encodeURIComponent(this.what())}` : ''));
  protected readonly file = computed(() => `/api/audit.csv${this.query()}`);

  constructor() {
    effect(() => {
      this.query();
      untracked(() => {
        this.lines.set([]);
        this.next();
      });
    });
  }

  protected how = ({ how }: AuditLine): string => (how ? HOW_WORDS[how] : '');
  protected from = ({ agent, address }: AuditLine): string => [agent, address].filter(Boolean).join(', ');

  /** Reads on, from the oldest line that is shown. */
  protected next(): void {
    const last = this.lines().at(-1)?.id;
    const before = last ? `${this.query() ? '&' : '?'}before=${last}` : '';
    this.reading.set(true);
    this.api.get<AuditAnswer>(`/audit${this.query()}${before}`).subscribe({
      next: ({ lines, more }) => {
        this.lines.update((shown) => [...shown, ...lines]);
        this.more.set(more);
        this.reading.set(false);
        this.wrong.set('');
      },
      error: (failure: unknown) => {
        this.reading.set(false);
        this.wrong.set(asApiError(failure).message);
      },
    });
  }
}
