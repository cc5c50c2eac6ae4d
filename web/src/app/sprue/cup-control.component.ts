import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { NamedCup } from '@kalvet/core';
import { cupVolumeCm3 } from '@kalvet/core';
import { ReadingControl } from '../route/reading-control';
import { Choices } from '../shared/choices.component';
import { ShopService } from '../shared/shop.service';

const NONE = '';

/** The cup of a tree: one of the shop's, each with what it holds, or none. */
@Component({
  selector: 'kv-cup-control',
  imports: [Choices],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kv-choices
      [inputId]="inputId()"
      [options]="choices()"
      [value]="chosen()"
      (valueChange)="choose($any($event))"
      [ariaLabel]="def().label" />
  `,
})
export class CupControl extends ReadingControl<NamedCup | false> {
  private readonly shop = inject(ShopService);
  /** The shop's cups; one that was said and is not among them any more stands beside them. */
  private readonly cups = computed(() => {
    const said = this.value();
    const { cups } = this.shop.settings();
    return said && !cups.some(({ name }) => name === said.name) ? [...cups, said] : cups;
  });
  protected readonly choices = computed(() => [
    ...this.cups().map((cup) => ({
      code: cup.name,
      label: `${cup.name} ${this.shop.amount(cupVolumeCm3(cup), 'cm3', 0)}`,
    })),
    { code: NONE, label: 'none' },
  ]);
  protected readonly chosen = computed(() => {
    const said = this.value();
    return said === undefined ? undefined : said === false ? NONE : said.name;
  });

  protected choose(name: string): void {
    this.value.set(name === NONE ? false : this.cups().find((cup) => cup.name === name)!);
  }
}
