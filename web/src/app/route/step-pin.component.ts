import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { PinKind, SavePin, StepView } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { When } from '../shared/when/when.component';

/** A date that a person sets for a step, over the planner's: not before a moment, or exactly at it. */
@Component({
  selector: 'kv-step-pin',
  imports: [Field, FormsModule, ButtonModule, Refusal, Choices, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (step().state === 'planned') {
      <section aria-label="Date of this step">
        @if (step().plannedStart && !step().pinKind) {
          <p class="kv-soft">By the plan {{ shop.planned(step().plannedStart) }}</p>
        }
        @if (step().pinKind) {
          <p>
            Pinned: {{ words(step().pinKind!) }} {{ shop.when(step().pinAt) }}
            <button type="button" class="kv-link" data-test="unpin" [disabled]="sending.busy()" (click)="save(null)">
              take the pin off
            </button>
          </p>
        } @else if (!editing()) {
          <button type="button" class="kv-link" data-test="pin" (click)="begin()">Pin it to a date</button>
        }
        @if (editing()) {
          <form (ngSubmit)="save(kind())">
            <kv-choices [options]="kinds" [value]="kind()" (valueChange)="kind.set($event)" />
            <kv-field label="When" for="pin-at" [error]="sending.fields()['at']">
              <kv-when inputId="pin-at" [time]="true" [(value)]="at" />
            </kv-field>
            <button pButton type="submit" size="small" data-test="save-pin" [disabled]="!at() || sending.busy()">
              Pin it
            </button>
            <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="editing.set(false)">
              Leave it to the plan
            </button>
          </form>
        }
        <kv-refusal [submission]="sending" (reload)="saved.emit()" />
      </section>
    }
  `,
  styles: `
    section {
      margin-top: 16px;
      padding-top: 12px;
      border-top: 1px solid var(--kv-line);
    }
    form {
      display: grid;
      gap: 10px;
      justify-items: start;
    }
  `,
})
export class StepPin {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly step = input.required<StepView>();
  /** Pinned, or the pin taken off: the step is to be read again. */
  readonly saved = output();
  protected readonly editing = signal(false);
  protected readonly kind = signal<PinKind>('not before');
  protected readonly at = signal<Date | null>(null);
  protected readonly kinds: { code: PinKind; label: string }[] = [
    { code: 'not before', label: 'Not before' },
    { code: 'at', label: 'Exactly at' },
  ];
  private readonly names = computed(() => new Map(this.kinds.map(({ code, label }) => [code, label.toLowerCase()])));

  protected words(kind: PinKind): string {
    return this.names().get(kind) ?? kind;
  }

  protected begin(): void {
    const start = this.step().plannedStart;
    this.at.set(start ? this.shop.picker(start) : this.shop.pickerNow());
    this.editing.set(true);
  }

  protected save(kind: PinKind | null): void {
    const { id, version } = this.step();
    const at = this.at();
    const body: SavePin = { version, kind, at: kind && at ? this.shop.instantOf(at) : null };
    this.sending.send(
      `/steps/${id}/pin`,
      body,
      () => {
        this.editing.set(false);
        this.saved.emit();
      },
      { said: kind ? 'Pinned; the plan follows' : 'Pin taken off' },
    );
  }
}
