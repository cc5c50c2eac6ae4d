import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { InsertStep as InsertGiven, LaneView } from '@kalvet/core';
import { KINDS, insertableOn } from '@kalvet/core';
import type { StepKindCode } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Dialog } from '../shared/dialog.component';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Field } from '../shared/field.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

interface Target {
  readonly carrier: 'piece' | 'cast' | 'tree';
  readonly id: string;
  readonly label: string;
}

/** Puts a step in that the route did not foresee: work done elsewhere, an approval, rework, a repair, a test more. */
@Component({
  selector: 'kv-insert-step',
  imports: [Field, FormsModule, ButtonModule, Dialog, InputTextModule, SelectModule, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button type="button" class="kv-link" (click)="ask()">Put a step in</button>
    <kv-dialog [open]="open()" (closed)="open.set(false)" heading="Put a step in" [width]="420">
      <form (ngSubmit)="send()" autocomplete="off">
        <kv-field label="For" for="insert-on">
          <p-select
            inputId="insert-on"
            name="on"
            [options]="targets()"
            optionLabel="label"
            [ngModel]="target()"
            (ngModelChange)="target.set($event); kind.set(undefined)"
            appendTo="body" />
        </kv-field>
        <kv-field label="What" for="insert-kind">
          <p-select
            inputId="insert-kind"
            name="kind"
            [options]="kinds()"
            optionLabel="label"
            optionValue="code"
            [ngModel]="kind()"
            (ngModelChange)="kind.set($event)"
            placeholder="Choose the step"
            appendTo="body" />
        </kv-field>
        <kv-field label="Why" for="insert-why">
          <input
            pInputText
            id="insert-why"
            name="why"
            [ngModel]="why()"
            (ngModelChange)="why.set($event)"
            maxlength="500" />
        </kv-field>
        <p class="kv-soft">It comes right after what is done already; what follows waits for it.</p>
        <kv-refusal [submission]="sending" />
        <button pButton type="submit" [disabled]="!kind() || why().trim() === '' || sending.busy()">Put it in</button>
      </form>
    </kv-dialog>
  `,
})
export class InsertStep {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly pieceId = input.required<string>();
  readonly lanes = input.required<readonly LaneView[]>();
  readonly done = output();
  protected readonly open = signal(false);
  protected readonly target = signal<Target | undefined>(undefined);
  protected readonly kind = signal<StepKindCode | undefined>(undefined);
  protected readonly why = signal('');

  protected readonly targets = computed<Target[]>(() => {
    const current = this.lanes().flatMap(({ attempts }) =>
      attempts.filter(({ state }) => state !== 'lost' && state !== 'void'),
    );
    const trees = new Map(
      current.flatMap(({ tree }) => (tree && tree.state !== 'knocked out' ? [[tree.id, tree.number] as const] : [])),
    );
    return [
      { carrier: 'piece', id: this.pieceId(), label: 'the whole piece' },
      ...current.map(({ castId, label }): Target => ({
        carrier: 'cast',
        id: castId,
        label: `cast ${label}`,
      })),
      ...[...trees].map(([id, number]): Target => ({ carrier: 'tree', id, label: `tree T-${number}` })),
    ];
  });
  protected readonly kinds = computed(() =>
    insertableOn(KINDS, this.target()?.carrier ?? 'piece').map(({ code, name }) => ({ code, label: name })),
  );

  protected ask(): void {
    this.sending.reset();
    this.target.set(this.targets()[0]);
    this.kind.set(undefined);
    this.why.set('');
    const { target, kind, why } = this;
    this.sending.keep(`put in ${this.pieceId()}`, { target, kind, why });
    this.open.set(true);
  }

  protected send(): void {
    const target = this.target();
    const kind = this.kind();
    if (!target || !kind) return;
    const body: InsertGiven = { kind, carrier: target.carrier, carrierId: target.id, why: this.why().trim() };
    this.sending.send(
      '/steps',
      body,
      () => {
        this.open.set(false);
        this.done.emit();
      },
      { said: 'Step put in' },
    );
  }
}
