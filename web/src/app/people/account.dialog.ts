import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Room, SessionsAnswer } from '@kalvet/core';
import { HOW_WORDS, PASSWORD_LEAST, PIN_LEAST, PIN_MOST, ROLE_NAMES, ROOMS, ROOM_NAMES } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Dialog } from '../shared/dialog.component';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Api, asApiError } from '../shared/api.service';
import { Field } from '../shared/field.component';
import { Session } from '../shared/session.service';
import { ShopService } from '../shared/shop.service';
import { SecretField } from './secret-field.component';
import { Sending } from './sending';

type Part = 'password' | 'pin' | 'tablet' | undefined;

/** What belongs to whoever is signed in: where, how, password, PIN, and signing out. */
@Component({
  selector: 'kv-account',
  imports: [SecretField, FormsModule, ButtonModule, Dialog, Field, InputTextModule, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kv-dialog [open]="open()" (closed)="closed.emit()" [heading]="shop.person()?.name ?? ''" [width]="480">
      <p class="kv-soft">{{ roles() }} · {{ how() }}</p>
      @if (said()) {
        <p role="status" class="said">{{ said() }}</p>
      }
      @switch (part()) {
        @case ('password') {
          <form (ngSubmit)="savePassword()">
            <kv-secret
              label="Password now"
              field="own-before"
              [error]="sending.fields()['before']"
              [(value)]="before" />
            <kv-secret
              label="New password"
              field="own-password"
              complete="new-password"
              [hint]="'at least ' + least + ' letters; everywhere else you are signed out'"
              [error]="sending.fields()['password']"
              [(value)]="password" />
            <div class="row">
              <button pButton type="submit" [disabled]="before() === '' || password() === '' || sending.busy()">
                Change it
              </button>
              <button type="button" class="kv-link" (click)="show(undefined)">Back</button>
            </div>
          </form>
        }
        @case ('pin') {
          <form (ngSubmit)="savePin()">
            <kv-secret
              label="PIN, for the rooms' tablets"
              field="own-pin"
              complete="off"
              [hint]="pinLength"
              [error]="sending.fields()['pin']"
              [(value)]="pin" />
            @if (!session.demo()) {
              <kv-secret
                label="Your password"
                field="pin-password"
                [error]="sending.fields()['password']"
                [(value)]="password" />
            }
            <div class="row">
              <button pButton type="submit" [disabled]="pin().length < 4 || sending.busy()">Keep this PIN</button>
              <button type="button" class="kv-link" (click)="show(undefined)">Back</button>
            </div>
          </form>
        }
        @case ('tablet') {
          <form (ngSubmit)="pair()">
            <p class="kv-soft">
              From now on this browser is a room's tablet: people choose themselves on it and prove it by their PIN. You
              are signed out of it.
            </p>
            <kv-field label="What it is called" for="tablet-name" [error]="sending.fields()['name']">
              <input
                id="tablet-name"
                pInputText
                name="name"
                [(ngModel)]="tabletName"
                maxlength="80"
                placeholder="Tablet at the slurry tanks" />
            </kv-field>
            <kv-field label="Its room" for="tablet-room">
              <p-select
                inputId="tablet-room"
                name="room"
                [options]="rooms"
                optionLabel="name"
                optionValue="code"
                [(ngModel)]="tabletRoom"
                appendTo="body" />
            </kv-field>
            <div class="row">
              <button pButton type="submit" data-test="pair" [disabled]="tabletName().trim() === '' || sending.busy()">
                Make it a tablet
              </button>
              <button type="button" class="kv-link" (click)="show(undefined)">Back</button>
            </div>
          </form>
        }
        @default {
          <div class="acts">
            @if (sessions()?.hasPassword) {
              <button type="button" class="kv-link" (click)="show('password')">Change the password</button>
            }
            <button type="button" class="kv-link" data-test="own-pin" (click)="show('pin')">
              {{ sessions()?.hasPin ? 'Another PIN' : "Choose a PIN for the rooms' tablets" }}
            </button>
            @if (session.may('pair tablet')) {
              <button type="button" class="kv-link" data-test="tablet" (click)="show('tablet')">
                Make this browser a room's tablet
              </button>
            }
          </div>
          <h3>Signed in</h3>
          <ul>
            @for (each of sessions()?.sessions ?? []; track each.id) {
              <li>
                <span>
                  {{ each.tablet ?? each.agent }}{{ each.here ? ', here' : '' }}
                  <span class="kv-soft"
                    >since {{ shop.when(each.since) }}, last seen {{ shop.when(each.lastSeen) }}</span
                  >
                </span>
                @if (!each.here) {
                  <button type="button" class="kv-link" (click)="end(each.id)">End it</button>
                }
              </li>
            }
          </ul>
          <div class="row">
            <button pButton type="button" data-test="sign-out" (click)="session.signOut()">
              {{ session.demo() ? 'Be somebody else' : 'Sign out' }}
            </button>
            @if ((sessions()?.sessions ?? []).length > 1) {
              <button pButton type="button" severity="secondary" [outlined]="true" (click)="endOthers()">
                Sign out everywhere else
              </button>
            }
          </div>
        }
      }
      @if (sending.message(); as text) {
        <p class="kv-alert" role="alert">{{ text }}</p>
      }
    </kv-dialog>
  `,
  styles: `
    form,
    .acts {
      display: grid;
      gap: 8px;
      margin: 12px 0;
      justify-items: start;
    }
    kv-field {
      width: 100%;
    }
    input {
      width: 100%;
    }
    .row {
      display: flex;
      gap: 14px;
      align-items: center;
      margin-top: 10px;
    }
    li {
      display: flex;
      justify-content: space-between;
      gap: 12px;
      padding: 5px 0;
      border-bottom: 1px solid var(--kv-line);
    }
    li span span {
      display: block;
    }
    .said {
      margin-top: 8px;
      font-weight: 500;
    }
  `,
})
export class AccountDialog {
  protected readonly shop = inject(ShopService);
  protected readonly session = inject(Session);
  private readonly api = inject(Api);
  protected readonly sending = new Sending();
  readonly open = input.required<boolean>();
  readonly closed = output();

  protected readonly least = PASSWORD_LEAST;
  protected readonly pinLength = `${PIN_LEAST} to ${PIN_MOST} figures, none that everybody tries first`;
  protected readonly part = signal<Part>(undefined);
  protected readonly said = signal('');
  protected readonly sessions = signal<SessionsAnswer | undefined>(undefined);
  protected readonly before = signal('');
  protected readonly password = signal('');
  protected readonly pin = signal('');
  protected readonly tabletName = signal('');
  protected readonly tabletRoom = signal<Room | null>(null);
  protected readonly rooms = [
    { code: null, name: 'every room' },
    ...ROOMS.map((code) => ({ code, name: ROOM_NAMES[code] })),
  ];
  protected readonly roles = computed(
    () => (this.shop.person()?.roles ?? []).map((role) => ROLE_NAMES[role]).join(', ') || 'no role yet',
  );
  protected readonly how = computed(() => {
    const how = this.session.how();
    return how ? HOW_WORDS[how] : '';
  });

  constructor() {
    effect(() => {
      if (!this.open()) return;
      this.show(undefined);
      this.said.set('');
      this.read();
    });
  }

  protected show(part: Part): void {
    this.part.set(part);
    this.sending.clear();
    for (const field of [this.before, this.password, this.pin]) field.set('');
  }

  private read(): void {
    this.api.get<SessionsAnswer>('/sessions').subscribe({
      next: (answer) => this.sessions.set(answer),
      error: (failure: unknown) => this.said.set(asApiError(failure).message),
    });
  }

  protected savePassword(): void {
    this.sending.send('put', '/session/password', { before: this.before(), password: this.password() }, () => {
      // A new password is a new session with a new token.
      this.session.read().subscribe(() => this.read());
      this.show(undefined);
      this.said.set('The new password counts from now on.');
    });
  }

  protected savePin(): void {
    const body = { password: this.password() || '-', pin: this.pin() };
    this.sending.send('put', '/session/pin', body, () => {
      this.show(undefined);
      this.said.set("The PIN counts on every room's tablet from now on.");
      this.read();
    });
  }

  protected pair(): void {
    const body = { name: this.tabletName().trim(), room: this.tabletRoom() };
    this.sending.send('post', '/tablets', body, () => location.assign('/'));
  }

  protected end(id: string): void {
    this.sending.send('post', `/sessions/${id}/end`, {}, () => this.read());
  }

  protected endOthers(): void {
    this.sending.send('post', '/sessions/end', {}, () => this.read());
  }
}
