import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  output,
  effect,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ChangeWork, WorkAnswer } from '@kalvet/core';
import { APPROVAL_NAMES } from '@kalvet/core';
import { Dialog } from '../../shared/dialog.component';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Field } from '../../shared/field.component';
import { Careful } from './careful.component';
import { CarefulChange } from './consequences';

/** Changes what a work is called, its finish and whose waxes are shown, saying first what steps come and go. */
@Component({
  selector: 'kv-work-form',
  imports: [Careful, Field, FormsModule, Dialog, InputTextModule, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kv-dialog (closed)="done.emit()" [heading]="work().title" [width]="460">
      <form (ngSubmit)="save()" autocomplete="off">
        <kv-field label="Title" for="work-title">
          <input pInputText id="work-title" name="title" [ngModel]="title()" (ngModelChange)="title.set($event)" />
        </kv-field>
        <kv-field label="Artist" for="work-artist">
          <input pInputText id="work-artist" name="artist" [ngModel]="artist()" (ngModelChange)="artist.set($event)" />
        </kv-field>
        <kv-field label="Finish" for="work-finish">
          <input pInputText id="work-finish" name="finish" [ngModel]="finish()" (ngModelChange)="finish.set($event)" />
        </kv-field>
        <kv-field label="Shown for approval" for="work-approval">
          <p-select
            inputId="work-approval"
            name="approval"
            [options]="approvals"
            optionLabel="label"
            optionValue="code"
            [ngModel]="approval()"
            (ngModelChange)="approval.set($event)"
            appendTo="body" />
        </kv-field>
        <kv-careful [change]="change" [ready]="ready()" test="save-work" (left)="done.emit()" />
      </form>
    </kv-dialog>
  `,
})
export class WorkForm {
  protected readonly change = new CarefulChange();
  readonly work = input.required<WorkAnswer['work']>();
  readonly done = output();
  protected readonly approvals = Object.entries(APPROVAL_NAMES).map(([code, label]) => ({ code, label }));
  protected readonly title = linkedSignal(() => this.work().title);
  protected readonly artist = linkedSignal(() => this.work().artist);
  protected readonly finish = linkedSignal(() => this.work().finish);
  protected readonly approval = linkedSignal(() => this.work().approval);
  protected readonly ready = computed(() => this.title().trim() !== '' && this.artist().trim() !== '');

  constructor() {
    effect(() => {
      const { id, version } = this.work();
      const { title, artist, finish, approval } = this;
      untracked(() => this.change.sending.keep(`work ${id} ${version}`, { title, artist, finish, approval }));
    });
  }

  protected save(): void {
    const { id, version } = this.work();
    const body: ChangeWork = {
      version,
      title: this.title().trim(),
      artist: this.artist().trim(),
      finish: this.finish().trim(),
      approval: this.approval(),
    };
    this.change.save(`/works/${id}`, body, () => this.done.emit(), `${body.title} changed`);
  }
}
