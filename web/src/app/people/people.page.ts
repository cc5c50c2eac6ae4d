import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { PeopleAnswer, PersonLine } from '@kalvet/core';
import {
  MAY_DO,
  MAY_PASS,
  MAY_SEE,
  RIGHTS,
  ROLES,
  ROLE_NAMES,
  ROLE_WORDS,
  ROOM_NAMES,
  RULE_NAMES,
  SKILL_NAMES,
} from '@kalvet/core';
import type { Role } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { KeepingTabs } from '../shared/keeping-tabs.component';
import { pageData } from '../shared/page-data';
import { Session } from '../shared/session.service';
import { ShopService } from '../shared/shop.service';
import { PersonForm } from './person-form.component';
import { Sending } from './sending';

/** A line of the table of rights: what, and which roles may. */
interface RightLine {
  readonly group: string;
  readonly what: string;
  readonly roles: readonly Role[];
}

/** Who works here, what each may, how they prove who they are, and the rooms' tablets. */
@Component({
  selector: 'kv-people',
  imports: [ButtonModule, KeepingTabs, PersonForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './people.page.html',
  styleUrl: './people.page.css',
})
export class PeoplePage {
  protected readonly shop = inject(ShopService);
  protected readonly session = inject(Session);
  private readonly data = pageData<PeopleAnswer>(() => '/people');
  protected readonly answer = this.data.answer;
  protected readonly wrong = this.data.wrong;
  protected readonly read = this.data.read;
  protected readonly sending = new Sending();

  protected readonly editing = signal<string | undefined>(undefined);
  protected readonly given = signal<{ name: string; password: string } | undefined>(undefined);
  protected readonly showsTable = signal(false);
  protected readonly active = computed(() => (this.answer()?.people ?? []).filter(({ active }) => active));
  protected readonly gone = computed(() => (this.answer()?.people ?? []).filter(({ active }) => !active));
  protected readonly roles = ROLES;
  protected readonly roleNames = ROLE_NAMES;
  protected readonly roleWords = ROLE_WORDS;

  protected readonly table: readonly RightLine[] = [
    ...RIGHTS.filter((right) => MAY_DO[right].length > 0).map((right) => ({
      group: 'does',
      what: right,
      roles: MAY_DO[right],
    })),
    ...Object.entries(MAY_PASS).map(([rule, roles]) => ({
      group: 'decides',
      what: RULE_NAMES[rule as keyof typeof RULE_NAMES],
      roles,
    })),
    ...Object.entries(MAY_SEE).map(([sight, roles]) => ({ group: 'sees', what: sight, roles })),
  ];

  protected what = ({ roles, rooms, gates, skills = [] }: PersonLine): string =>
    [
      roles.map((role) => ROLE_NAMES[role]).join(', ') || 'no role: may do nothing',
      ...(rooms.length > 0 ? [`in ${rooms.map((room) => ROOM_NAMES[room].toLowerCase()).join(', ')}`] : []),
      ...skills.map((skill) => SKILL_NAMES[skill]),
      ...(gates.length > 0 ? [`answers for ${gates.join(', ')}`] : []),
    ].join('; ');

  protected proof = ({ hasPassword, hasPin, openid }: PersonLine): string =>
    [...(hasPassword ? ['password'] : []), ...(hasPin ? ['PIN'] : []), ...(openid ? [`OpenID ${openid}`] : [])].join(
      ', ',
    ) || (this.session.demo() ? 'by one tap, in the demo' : 'cannot sign in yet');

  protected done(): void {
    this.editing.set(undefined);
    this.read();
    this.shop.load().subscribe();
  }

  protected newPassword(person: PersonLine): void {
    this.sending.send<{ password: string }>('post', `/people/${person.id}/password`, {}, ({ password }) => {
      this.given.set({ name: person.name, password });
      this.read();
    });
  }

  protected unpair(id: string): void {
    this.sending.send('post', `/tablets/${id}/unpair`, {}, () => this.read());
  }
}
