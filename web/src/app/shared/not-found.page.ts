import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';

@Component({
  selector: 'kv-not-found',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div>
      <h1>There is no page at this address</h1>
      <p>It may have been mistyped. <a routerLink="/floor">Go to the Floor</a></p>
    </div>
  `,
  styles: `
    div {
      padding: 48px;
      display: grid;
      gap: 12px;
    }
  `,
})
export class NotFoundPage {}
