import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  effect,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { AddPerson, ChangePerson, Gate, PersonLine, Role, Room, Skill } from '@kalvet/core';
import { GATES, ROLES, ROLE_NAMES, ROLE_WORDS, ROOMS, ROOM_NAMES, SKILLS, SKILL_NAMES } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { MultiSelectModule } from 'primeng/multiselect';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { Refusal } from '../shared/refusal.component';
import { Session } from '../shared/session.service';
import { Submission } from '../shared/submission';
import { Sending } from './sending';

/** Somebody's name, roles, rooms and what they answer for. Nobody changes what they may themselves. */
@Component({
  selector: 'kv-person-form',
  imports: [FormsModule, ButtonModule, Field, InputTextModule, MultiSelectModule, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <div class="fields">
        <kv-field label="Name" for="pf-name" [error]="sending.fields()['name']">
          <input id="pf-name" pInputText name="name" [(ngModel)]="name" maxlength="120" />
        </kv-field>
        <kv-field label="Short name" for="pf-short" [error]="sending.fields()['shortName']">
          <input
            id="pf-short"
            pInputText
            name="short"
            [(ngModel)]="shortName"
            [placeholder]="initials()"
            maxlength="12" />
        </kv-field>
        @if (!own()) {
          <kv-field label="What they are" for="pf-roles" [error]="sending.fields()['roles']">
            <p-multiselect
              inputId="pf-roles"
              name="roles"
              [options]="roles"
              optionLabel="name"
              optionValue="code"
              [(ngModel)]="chosen"
              [filter]="false"
              [showToggleAll]="false"
              placeholder="no role yet"
              appendTo="body">
              <ng-template let-role #item>
                <span
                  >{{ role.name }} <span class="kv-soft">{{ role.words }}</span></span
                >
              </ng-template>
            </p-multiselect>
          </kv-field>
          @if (inRooms()) {
            <kv-field label="Rooms of their own" for="pf-rooms">
              <p-multiselect
                inputId="pf-rooms"
                name="rooms"
                [options]="rooms"
                optionLabel="name"
                optionValue="code"
                [(ngModel)]="chosenRooms"
                [filter]="false"
                [showToggleAll]="false"
                placeholder="all rooms"
                appendTo="body" />
            </kv-field>
          }
          <kv-field label="Of the few who can" for="pf-skills">
            <p-multiselect
              inputId="pf-skills"
              name="skills"
              [options]="skills"
              optionLabel="name"
              optionValue="code"
              [(ngModel)]="chosenSkills"
              [filter]="false"
              [showToggleAll]="false"
              placeholder="nothing that only some can"
              appendTo="body" />
          </kv-field>
          <kv-field label="Answers by name for" for="pf-gates">
            <p-multiselect
              inputId="pf-gates"
              name="gates"
              [options]="gates"
              [(ngModel)]="chosenGates"
              [filter]="false"
              [showToggleAll]="false"
              placeholder="nothing more"
              appendTo="body" />
          </kv-field>
        }
        @if (openid() && person()) {
          <kv-field label="OpenID" for="pf-openid" [error]="naming.fields()['openid']">
            <input
              id="pf-openid"
              pInputText
              name="openid"
              [(ngModel)]="openidName"
              maxlength="200"
              placeholder="name@example.org" />
          </kv-field>
        }
      </div>
      @if (own()) {
        <p class="kv-soft">What you may yourself is changed by another manager.</p>
      }
      <kv-refusal [submission]="sending" (reload)="done.emit()" />
      <div class="row">
        <button pButton type="submit" data-test="save-person" [disabled]="name().trim() === '' || sending.busy()">
          {{ person() ? 'Save' : 'Enter them' }}
        </button>
        <button type="button" class="kv-link" (click)="done.emit()">Back</button>
        @if (person(); as each) {
          @if (!own()) {
            <button type="button" class="kv-link off" data-test="off" (click)="save(!each.active)">
              {{ each.active ? 'Works here no more' : 'Works here again' }}
            </button>
          }
        }
      </div>
    </form>
  `,
  styles: `
    .fields {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
      gap: 4px 18px;
    }
    input,
    p-multiselect {
      width: 100%;
    }
    .row {
      display: flex;
      gap: 18px;
      align-items: center;
      margin-top: 6px;
    }
    .off {
      margin-left: auto;
    }
  `,
})
export class PersonForm {
  private readonly session = inject(Session);
  protected readonly sending = new Submission();
  protected readonly naming = new Sending();
  readonly person = input<PersonLine>();
  readonly openid = input(false);
  readonly done = output();

  protected readonly roles = ROLES.map((code) => ({ code, name: ROLE_NAMES[code], words: ROLE_WORDS[code] }));
  protected readonly rooms = ROOMS.map((code) => ({ code, name: ROOM_NAMES[code] }));
  protected readonly gates = [...GATES];
  protected readonly skills = SKILLS.map((code) => ({ code, name: SKILL_NAMES[code] }));
  protected readonly own = computed(
    () => this.person() !== undefined && this.person()?.id === this.session.person()?.id,
  );
  protected readonly name = linkedSignal(() => this.person()?.name ?? '');
  protected readonly shortName = linkedSignal(() => this.person()?.shortName ?? '');
  protected readonly chosen = linkedSignal<Role[]>(() => [...(this.person()?.roles ?? (['hand'] as const))]);
  protected readonly chosenRooms = linkedSignal<Room[]>(() => [...(this.person()?.rooms ?? [])]);
  protected readonly chosenGates = linkedSignal<Gate[]>(() => [...(this.person()?.gates ?? [])]);
  protected readonly chosenSkills = linkedSignal<Skill[]>(() => [...(this.person()?.skills ?? [])]);
  protected readonly openidName = linkedSignal(() => this.person()?.openid ?? '');
  protected readonly inRooms = computed(() => this.chosen().some((role) => role === 'lead' || role === 'hand'));
  protected readonly initials = computed(() =>
    this.name()
      .split(/\s+/)
      .filter(Boolean)
      .map((word) => word.charAt(0).toUpperCase())
      .join('')
      .slice(0, 4),
  );
  private readonly id = signal(newId());

  constructor() {
    effect(() => {
      const person = this.person();
      const { name, shortName, chosen, chosenRooms, chosenGates, chosenSkills } = this;
      const of = person ? `${person.id} ${person.version}` : 'new';
      untracked(() =>
        this.sending.keep(`person ${of}`, { name, shortName, chosen, chosenRooms, chosenGates, chosenSkills }),
      );
    });
  }

  protected save(active?: boolean): void {
    const person = this.person();
    const name = this.name().trim();
    const shortName = this.shortName().trim() || this.initials();
    const rights = {
      roles: this.chosen(),
      rooms: this.inRooms() ? this.chosenRooms() : [],
      gates: this.chosenGates(),
      skills: this.chosenSkills(),
    };
    if (!person) {
      const body: AddPerson = { id: this.id(), name, shortName, ...rights };
      return this.sending.send('/people', body, () => this.done.emit(), { said: `${name} is entered` });
    }
    const body: ChangePerson = {
      version: person.version,
      name,
      shortName,
      ...(this.own() ? {} : rights),
      ...(active === undefined ? {} : { active }),
    };
    const close = () => this.done.emit();
    const path = `/people/${person.id}`;
    this.sending.send(path, body, () => this.saveOpenid(person, close), { method: 'patch', said: `${name} changed` });
  }

  private saveOpenid(person: PersonLine, close: () => void): void {
    const openid = this.openidName().trim();
    if (!this.openid() || openid === (person.openid ?? '')) return close();
    this.naming.send('put', `/people/${person.id}/openid`, { openid }, close);
  }
}
