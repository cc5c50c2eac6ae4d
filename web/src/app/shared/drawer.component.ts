import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { DrawerModule } from 'primeng/drawer';

/** What is opened beside a page that stays in use: a card, a record, a list. It is closed by whoever opened it. */
@Component({
  selector: 'kv-drawer',
  imports: [DrawerModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-drawer
      [visible]="open()"
      (visibleChange)="$event || closed.emit()"
      [position]="side()"
      [modal]="false"
      [dismissible]="false"
      [showCloseIcon]="true"
      [ariaCloseLabel]="closeLabel()"
      [style]="style()"
      [header]="heading()">
      <ng-content />
    </p-drawer>
  `,
})
export class Drawer {
  readonly open = input.required<boolean>();
  readonly heading = input.required<string>();
  readonly side = input<'left' | 'right'>('right');
  /** In pixels. */
  readonly width = input(430);
  readonly closeLabel = input('Close');
  readonly closed = output();
  protected readonly style = computed(() => ({ width: `${this.width()}px` }));
}
