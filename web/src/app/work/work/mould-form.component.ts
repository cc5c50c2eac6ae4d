import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  output,
  signal,
  effect,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { AddMould, ChangeMould, WorkAnswer } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Dialog } from '../../shared/dialog.component';
import { InputNumberModule } from 'primeng/inputnumber';
import { InputTextModule } from 'primeng/inputtext';
import { MultiSelectModule } from 'primeng/multiselect';
import { Files } from '../../files/files.component';
import { newId } from '../../shared/ids';
import { Field } from '../../shared/field.component';
import { Refusal } from '../../shared/refusal.component';
import { Submission } from '../../shared/submission';

/** A mould's life and end, or a further mould for some sections; its making is planned at once. */
@Component({
  selector: 'kv-mould-form',
  imports: [
    Field,
    Files,
    FormsModule,
    ButtonModule,
    Dialog,
    InputNumberModule,
    InputTextModule,
    MultiSelectModule,
    Refusal,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kv-dialog (closed)="done.emit()" [heading]="mould()?.label ?? 'A further mould'" [width]="420">
      <form (ngSubmit)="save()" autocomplete="off">
        @if (mould(); as mould) {
          <p class="kv-soft">{{ mould.used }} pulls used, {{ mould.owed }} owed</p>
          <kv-field label="Life, pulls" for="mould-life">
            <p-inputnumber
              inputId="mould-life"
              name="life"
              [ngModel]="life()"
              (ngModelChange)="life.set($event)"
              [min]="1"
              [max]="1000" />
          </kv-field>
          <div class="check">
            <input
              type="checkbox"
              class="kv-tick"
              id="mould-retire"
              name="retire"
              [ngModel]="retire()"
              (ngModelChange)="retire.set($event)" />
            <label for="mould-retire">Retire it: no wax is made in it any more</label>
          </div>
        } @else {
          <kv-field label="What it is called" for="mould-name">
            <input pInputText id="mould-name" name="name" [ngModel]="name()" (ngModelChange)="name.set($event)" />
          </kv-field>
          <kv-field label="Makes" for="mould-sections">
            <p-multiselect
              inputId="mould-sections"
              name="sections"
              [options]="$any(sections())"
              optionLabel="name"
              optionValue="id"
              [ngModel]="sectionIds()"
              (ngModelChange)="sectionIds.set($event)"
              [filter]="false"
              appendTo="body" />
          </kv-field>
        }
        <kv-refusal [submission]="sending" (reload)="done.emit()" />
        <div class="check">
          <button pButton type="submit" data-test="save-mould" [disabled]="!ready() || sending.busy()">Save</button>
          <button pButton type="button" severity="secondary" [text]="true" (click)="done.emit()">Back</button>
        </div>
      </form>
      @if (mould(); as mould) {
        <h3>Pictures</h3>
        <kv-files subject="mould" [subjectId]="mould.id" [label]="mould.label" [shownMost]="6" />
      }
    </kv-dialog>
  `,
  styles: `
    .check {
      display: flex;
      gap: 9px;
      align-items: center;
      margin: 10px 0;
    }
  `,
})
export class MouldForm {
  protected readonly sending = new Submission();
  readonly workId = input.required<string>();
  readonly sections = input.required<WorkAnswer['sections']>();
  readonly mould = input<WorkAnswer['moulds'][number]>();
  readonly done = output();
  protected readonly life = linkedSignal<number | null>(() => this.mould()?.lifePulls ?? null);
  protected readonly retire = signal(false);
  protected readonly name = signal('second');
  protected readonly sectionIds = linkedSignal(() => this.sections().map(({ id }) => id));
  protected readonly ready = computed(
    () => this.mould() !== undefined || (this.name().trim() !== '' && this.sectionIds().length > 0),
  );

  constructor() {
    effect(() => {
      const mould = this.mould();
      const { life, retire, name, sectionIds } = this;
      const of = mould ? `${mould.id} ${mould.version}` : `of ${this.workId()}`;
      untracked(() => this.sending.keep(`mould ${of}`, { life, retire, name, sectionIds }));
    });
  }

  protected save(): void {
    const mould = this.mould();
    if (mould) {
      const body: ChangeMould = { version: mould.version, lifePulls: this.life(), retire: this.retire() };
      this.sending.send(`/moulds/${mould.id}`, body, () => this.done.emit(), { method: 'put', said: 'Mould changed' });
      return;
    }
    const body: AddMould = { id: newId(), name: this.name().trim(), sectionIds: this.sectionIds() };
    this.sending.send(`/works/${this.workId()}/moulds`, body, () => this.done.emit(), { said: 'Mould to be made' });
  }
}
