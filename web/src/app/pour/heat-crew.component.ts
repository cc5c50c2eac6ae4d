import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ConfirmCrew, CrewPlace, CrewRole, HeatAnswer, PourCheck, Signs } from '@kalvet/core';
import { CREW_ROLES, CREW_ROLE_NAMES, POUR_CHECKS, POUR_CHECK_NAMES, SIGNS } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { SelectModule } from 'primeng/select';
import { Field } from '../shared/field.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

type Places = Readonly<Record<CrewRole, { readonly personId: string | null; readonly deputyId: string | null }>>;
const EMPTY = { personId: null, deputyId: null };

/** The gate before the pour: who does what, who stands in, and that cover is on. Whoever says so is kept by name. */
@Component({
  selector: 'kv-heat-crew',
  imports: [FormsModule, ButtonModule, Field, SelectModule, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './heat-crew.component.html',
  styleUrls: ['../route/panel.css', './heat-crew.component.css'],
})
export class HeatCrew {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly heat = input.required<HeatAnswer>();
  readonly done = output();
  protected readonly roles = CREW_ROLES.map((role) => ({
    role,
    name: CREW_ROLE_NAMES[role].replace(/^./, (first) => first.toUpperCase()),
  }));
  protected readonly signChoices = SIGNS.map((code) => ({ code, label: `start and stop ${code}` }));

  /** As they were confirmed before; else whoever works here leads. */
  protected readonly places = linkedSignal<Places>(() => {
    const crew = this.heat().crew ?? [];
    const of = (role: CrewRole) => crew.find((place) => place.role === role) ?? EMPTY;
    const lead = of('lead');
    return {
      lead: lead.personId ? lead : { personId: this.shop.person()?.id ?? null, deputyId: null },
      second: of('second'),
      skimmer: of('skimmer'),
      spotter: of('spotter'),
    };
  });
  protected readonly signs = linkedSignal<Signs>(() => this.heat().signs ?? 'spoken');
  protected readonly checks = POUR_CHECKS.map((code) => ({ code, name: POUR_CHECK_NAMES[code] }));
  protected readonly looked = signal<readonly PourCheck[]>([]);
  protected readonly cover = signal(false);
  /** Nobody is kept from pouring for want of a second, but it is said. */
  protected readonly alone = computed(() => this.places().second.personId === null);

  protected put(role: CrewRole, place: Partial<Places[CrewRole]>): void {
    this.places.update((before) => ({ ...before, [role]: { ...before[role], ...place } }));
  }

  protected look(check: PourCheck, is: boolean): void {
    this.looked.update((before) => POUR_CHECKS.filter((each) => (each === check ? is : before.includes(each))));
  }

  protected confirm(): void {
    const { id, version } = this.heat();
    const crew = CREW_ROLES.flatMap((role): CrewPlace[] => {
      const { personId, deputyId } = this.places()[role];
      return personId === null ? [] : [{ role, personId, deputyId }];
    });
    const body: ConfirmCrew = { version, crew, signs: this.signs(), checks: this.looked(), coverConfirmed: true };
    this.sending.send(`/heats/${id}/crew`, body, () => this.done.emit(), { said: 'Crew and cover confirmed' });
  }
}
