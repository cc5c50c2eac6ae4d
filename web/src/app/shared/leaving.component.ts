import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { ButtonModule } from 'primeng/button';
import { Opened } from './opened.directive';

/** Asked when something is left in which something is typed. What is typed is kept either way. */
@Component({
  selector: 'kv-leaving',
  imports: [ButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (opened.asks()) {
      <div role="alertdialog" aria-labelledby="kv-leaving">
        <p id="kv-leaving">Not recorded yet. Leave it? What is typed stays here for you.</p>
        <button pButton type="button" size="small" severity="contrast" data-test="leave" (click)="opened.leave()">
          Leave
        </button>
        <button pButton type="button" size="small" severity="secondary" (click)="opened.asks.set(false)">Go on</button>
      </div>
    }
  `,
  styles: `
    div {
      position: sticky;
      top: 0;
      z-index: 2;
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      margin-bottom: 10px;
      padding: 10px 12px;
      border-left: 4px solid var(--kv-accent);
      background: var(--kv-plaster);
    }
    p {
      flex-basis: 100%;
      margin: 0;
      font-weight: 500;
    }
  `,
})
export class Leaving {
  protected readonly opened = inject(Opened);
}
