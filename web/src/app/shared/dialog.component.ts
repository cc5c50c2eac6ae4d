import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { Drawer } from './drawer.component';
import { Leaving } from './leaving.component';
import { Opened } from './opened.directive';

/** A short form or list that slides in beside what it belongs to: entered by the focus, left by Escape, closed by whoever opened it. */
@Component({
  selector: 'kv-dialog',
  imports: [Drawer, Leaving, Opened],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (open()) {
      <kv-drawer [open]="true" (closed)="closed.emit()" [heading]="heading()" [width]="width()">
        <div kvOpened (left)="closed.emit()">
          <kv-leaving />
          <ng-content />
        </div>
      </kv-drawer>
    }
  `,
})
export class Dialog {
  readonly open = input(true);
  readonly heading = input.required<string>();
  /** In pixels. */
  readonly width = input(430);
  readonly closed = output();
}
