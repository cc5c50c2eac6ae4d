import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { AddPerson } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { CheckboxModule } from 'primeng/checkbox';
import { DialogModule } from 'primeng/dialog';
import { InputTextModule } from 'primeng/inputtext';
import { newId } from '../shared/ids';
import { ShopService } from '../shared/shop.service';
import { Field } from '../shared/field.component';
import { Refusal } from '../shared/refusal.component';
import { Submission } from '../shared/submission';

/** Asks once who is working at this browser. It is a statement, not a proof, and says so. */
@Component({
  selector: 'kv-who',
  imports: [Field, FormsModule, ButtonModule, CheckboxModule, DialogModule, InputTextModule, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-dialog
      [visible]="open()"
      (visibleChange)="$event || closed.emit()"
      [modal]="true"
      [closable]="shop.person() !== undefined"
      [closeOnEscape]="shop.person() !== undefined"
      [draggable]="false"
      [style]="{ width: '460px' }"
      header="Who is working here?">
      <p class="kv-soft intro">
        Records made at this browser carry this name. It is what you say, not a proof: there is no sign-in yet.
      </p>
      @if (shop.people().length > 0 && !adding()) {
        <ul>
          @for (person of shop.people(); track person.id) {
            <li>
              <button
                type="button"
                class="person"
                [attr.data-person]="person.id"
                [class.chosen]="person.id === shop.person()?.id"
                (click)="choose(person.id)">
                <span class="short">{{ person.shortName }}</span>
                <span>{{ person.name }}</span>
                @if (person.mayOverride) {
                  <span class="kv-soft may">may decide exceptions</span>
                }
              </button>
            </li>
          }
        </ul>
        <button type="button" class="kv-link" (click)="adding.set(true)">Somebody else</button>
      } @else {
        <form (ngSubmit)="add()" #form="ngForm">
          <div class="kv-field">
            <label for="who-name">Name</label>
            <input
              id="who-name"
              pInputText
              name="name"
              [(ngModel)]="name"
              required
              maxlength="120"
              autocomplete="off" />
            @if (sending.fields()['name']; as wrong) {
              <span class="kv-wrong">{{ wrong }}</span>
            }
          </div>
          <kv-field label="Short name, for tags and lists" for="who-short">
            <input
              id="who-short"
              pInputText
              name="short"
              [(ngModel)]="shortName"
              [placeholder]="proposed()"
              maxlength="12"
              autocomplete="off" />
          </kv-field>
          <div class="check">
            <p-checkbox inputId="who-may" name="may" [(ngModel)]="mayOverride" [binary]="true" />
            <label for="who-may">May decide exceptions (a wait cut short, the order of rooms)</label>
          </div>
          <kv-refusal [submission]="sending" />
          <div class="actions">
            <button pButton type="submit" [disabled]="name().trim() === '' || sending.busy()">This is me</button>
            @if (shop.people().length > 0) {
              <button pButton type="button" severity="secondary" [text]="true" (click)="adding.set(false)">
                Back to the list
              </button>
            }
          </div>
        </form>
      }
    </p-dialog>
  `,
  styles: `
    .intro {
      margin-bottom: 12px;
    }
    ul {
      display: grid;
      gap: 6px;
      margin-bottom: 12px;
      max-height: 50vh;
      overflow: auto;
    }
    .person {
      display: flex;
      align-items: center;
      gap: 12px;
      width: 100%;
      min-height: 44px;
      padding: 6px 10px;
      border: 1px solid var(--kv-line);
      border-radius: 6px;
      background: var(--kv-paper);
      color: inherit;
      font: inherit;
      text-align: left;
      cursor: pointer;
    }
    .person:hover,
    .chosen {
      border-color: var(--kv-ink-soft);
      background: var(--kv-plaster);
    }
    .short {
      font-weight: 600;
      min-width: 34px;
    }
    .may {
      margin-left: auto;
      font-size: 0.9rem;
    }
    .check,
    .actions {
      display: flex;
      gap: 10px;
      align-items: center;
      margin: 10px 0;
    }
  `,
})
export class WhoDialog {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly open = input.required<boolean>();
  readonly closed = output();

  protected readonly adding = signal(false);
  protected readonly name = signal('');
  protected readonly shortName = signal('');
  protected readonly mayOverride = signal(false);
  /** Initials, where nothing else is typed. */
  protected readonly proposed = computed(() =>
    this.name()
      .split(/\s+/)
      .filter(Boolean)
      .map((word) => word.charAt(0).toUpperCase())
      .join('')
      .slice(0, 4),
  );

  protected choose(id: string): void {
    this.shop.choose(id);
    this.closed.emit();
  }

  protected add(): void {
    const id = newId();
    const body: AddPerson = {
      id,
      name: this.name().trim(),
      shortName: this.shortName().trim() || this.proposed(),
      mayOverride: this.mayOverride(),
    };
    this.sending.send('/people', body, () => this.shop.load().subscribe(() => this.choose(id)));
  }
}
