import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Choice } from '@kalvet/core';
import { ROLE_NAMES, ROOM_NAMES } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Field } from '../shared/field.component';
import { Session } from '../shared/session.service';
import { SecretField } from './secret-field.component';
import { Sending } from './sending';

/**
 * Signing in, in every way that this browser has: setting up a new shop, name and password, a room's tablet by PIN, the shop's
 * own sign-in, the demo by one tap, and a new password where one is asked for.
 */
@Component({
  selector: 'kv-sign-in',
  imports: [SecretField, Field, FormsModule, ButtonModule, InputTextModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sign-in.component.html',
  styleUrl: './sign-in.component.css',
})
export class SignIn {
  protected readonly session = inject(Session);
  protected readonly sending = new Sending();

  protected readonly stand = computed(() => this.session.offer()!);
  /** A session that ended is begun again by whoever had it. */
  protected readonly again = this.session.ended;
  protected readonly name = linkedSignal(() => (this.again() ? (this.session.person()?.name ?? '') : ''));
  protected readonly shortName = signal('');
  protected readonly shopName = signal('');
  protected readonly password = signal('');
  protected readonly before = signal('');
  protected readonly pin = signal('');
  protected readonly chosen = signal<Choice | undefined>(undefined);
  /** On a tablet somebody may still sign in by password. */
  protected readonly byPassword = signal(false);

  protected readonly mode = computed(() => {
    const { state, demo, tablet } = this.stand();
    if (state === 'set up' || state === 'new password') return state;
    if (demo) return 'demo';
    return tablet && !this.byPassword() ? 'tablet' : 'password';
  });
  protected readonly initials = computed(() =>
    this.name()
      .split(/\s+/)
      .filter(Boolean)
      .map((word) => word.charAt(0).toUpperCase())
      .join('')
      .slice(0, 4),
  );
  protected readonly where = computed(() => {
    const { tablet } = this.stand();
    return tablet ? `${tablet.name}${tablet.room ? `, ${ROOM_NAMES[tablet.room].toLowerCase()}` : ''}` : '';
  });

  protected rolesOf = ({ roles }: Choice): string => roles.map((role) => ROLE_NAMES[role]).join(', ');

  protected setUp(): void {
    const shortName = this.shortName().trim() || this.initials();
    const shopName = this.shopName().trim();
    const body = { name: this.name().trim(), shortName, password: this.password() };
    this.send('post', '/set-up', shopName ? { ...body, shopName } : body);
  }

  protected signIn(): void {
    this.send('post', '/session', { name: this.name().trim(), password: this.password() });
  }

  protected choose(personId: string): void {
    this.send('post', '/session/demo', { personId });
  }

  protected newPassword(): void {
    this.send('put', '/session/password', { before: this.before(), password: this.password() });
  }

  protected pick(choice: Choice | undefined): void {
    this.chosen.set(choice);
    this.pin.set('');
    this.sending.clear();
  }

  protected tap(figure: string): void {
    this.pin.update((pin) => (figure === '' ? pin.slice(0, -1) : `${pin}${figure}`.slice(0, 8)));
  }

  protected byPin(): void {
    const choice = this.chosen();
    if (choice) this.send('post', '/session/pin', { personId: choice.id, pin: this.pin() });
  }

  private send(method: 'post' | 'put', path: string, body: object): void {
    this.sending.send(method, path, body, () => {
      this.password.set('');
      this.pin.set('');
      this.session.read().subscribe();
    });
  }
}
