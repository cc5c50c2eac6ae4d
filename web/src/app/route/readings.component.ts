import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Asked, Expectation, ReadingDef, StepForm } from '@kalvet/core';
import { doubts, kindOf } from '@kalvet/core';
import type { RecordDraft } from './record-draft';
import { ReadingField } from './reading-field.component';

/** The readings of a step, a field each: what was read, what is offered, what is unlikely and what is wrong. */
@Component({
  selector: 'kv-readings',
  imports: [ReadingField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (def of asked(); track def.key) {
      <kv-reading-field
        [def]="def"
        [form]="form()"
        [value]="given().readings()[def.key]"
        (valueChange)="put(def.key, $event)"
        [typed]="given().typed()[def.key]"
        (typedChange)="given().setTyped(def.key, $event)"
        [taken]="given().taken().includes(def.key)"
        (takenChange)="given().setTaken(def.key, $event)"
        [doubts]="unlikely()[def.key] ?? []"
        (mend)="given().mend($event.field, $event.value)"
        [wrong]="wrongAt(def.key)" />
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
      gap: 0 10px;
      align-items: start;
    }
  `,
})
export class Readings {
  readonly asked = input.required<readonly ReadingDef[]>();
  readonly form = input.required<StepForm>();
  readonly given = input.required<RecordDraft>();
  /** What they are likely to be, where that is not what the form says. */
  readonly expects = input<readonly Expectation[]>();
  /** What is wrong, by the field's path. */
  readonly wrong = input<Readonly<Record<string, string>>>({});
  readonly changed = output<{ readonly key: string; readonly value: unknown }>();

  /** Asked as it is typed: the server asks the same once more when it is recorded. */
  protected readonly unlikely = computed(() => {
    const given = this.given();
    const { readings } = kindOf(this.form().step.kind);
    const found: Record<string, Asked[]> = {};
    for (const { asks } of doubts(this.expects() ?? this.form().expects, given.readings(), given.outcome(), readings))
      if (asks) (found[asks.field.split('.')[1]!] ??= []).push(asks);
    return found;
  });

  protected put(key: string, value: unknown): void {
    this.given().set(key, value);
    this.changed.emit({ key, value });
  }

  /** What is wrong inside a list is said at the list. */
  protected wrongAt(key: string): string | undefined {
    const path = `readings.${key}`;
    return this.wrong()[path] ?? Object.entries(this.wrong()).find(([field]) => field.startsWith(`${path}.`))?.[1];
  }
}
