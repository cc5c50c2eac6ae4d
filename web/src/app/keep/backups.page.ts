import { ChangeDetectionStrategy, Component, computed, effect, inject, linkedSignal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Backup, BackupsAnswer, SaveBackupWishes } from '@kalvet/core';
import { BACKUP_HOURS, BACKUP_OLD_HOURS } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputNumberModule } from 'primeng/inputnumber';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { KeepingTabs } from '../shared/keeping-tabs.component';
import { pageData } from '../shared/page-data';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

const HOUR_MS = 3_600_000;
const MB = 1024 * 1024;
const LOOK_MS = 3000;

/** Copies of the records: how old the newest proven one is, when they are made, and what became of each. */
@Component({
  selector: 'kv-backups',
  imports: [FormsModule, ButtonModule, Field, InputNumberModule, InputTextModule, KeepingTabs, Refusal, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './backups.page.html',
  styleUrl: './backups.page.css',
})
export class BackupsPage {
  protected readonly shop = inject(ShopService);
  private readonly data = pageData<BackupsAnswer>(() => '/backups');
  protected readonly answer = this.data.answer;
  protected readonly wrong = this.data.wrong;
  protected readonly read = this.data.read;
  protected readonly saving = new Submission();
  protected readonly asking = new Submission();

  protected readonly hours = BACKUP_HOURS.map((hours) => ({
    hours,
    name: hours === 1 ? 'every hour' : hours === 24 ? 'once a day' : `every ${hours} hours`,
  }));
  protected readonly everyHours = linkedSignal(() => this.answer()?.wishes.everyHours ?? 6);
  protected readonly keep = linkedSignal<number | null>(() => this.answer()?.wishes.keep ?? 28);
  protected readonly secondFolder = linkedSignal(() => this.answer()?.wishes.secondFolder ?? '');
  protected readonly changed = computed(() => {
    const wishes = this.answer()?.wishes;
    return (
      wishes !== undefined &&
      (wishes.everyHours !== this.everyHours() ||
        wishes.keep !== this.keep() ||
        wishes.secondFolder !== this.secondFolder().trim())
    );
  });

  private readonly newest = computed(() => this.answer()?.backups.find(({ state }) => state === 'checked'));
  protected readonly working = computed(
    () => this.answer()?.backups.some(({ state }) => state === 'wanted' || state === 'running') ?? false,
  );
  /** `Last proven backup 6 h ago`. */
  protected readonly stands = computed(() => {
    const made = this.newest()?.madeAt;
    if (!made) return 'No proven backup yet';
    const minutes = Math.max(0, Math.round((Date.parse(this.shop.now()) - Date.parse(made)) / 60_000));
    const ago =
      minutes < 90
        ? `${minutes} min`
        : minutes < 48 * 60
          ? `${Math.round(minutes / 60)} h`
          : `${Math.round(minutes / 1440)} days`;
    return minutes === 0 ? 'Last proven backup just now' : `Last proven backup ${ago} ago`;
  });
  protected readonly old = computed(() => {
    const made = this.newest()?.madeAt;
    return !made || Date.parse(this.shop.now()) - Date.parse(made) > BACKUP_OLD_HOURS * HOUR_MS;
  });

  constructor() {
    // One that is being made ends without a change of the records.
    effect((cleanup) => {
      if (!this.working()) return;
      const looking = setInterval(() => this.read(), LOOK_MS);
      cleanup(() => clearInterval(looking));
    });
  }

  protected became({ state, error, second }: Backup): string {
    if (state === 'wanted') return 'asked for; made within half a minute';
    if (state === 'running') return 'being made';
    if (state === 'failed') return `failed: ${error}`;
    const beside = second ? '; a second copy lies in the other place' : error ? `; ${error}` : '';
    return `read back, the same as the records${beside}`;
  }

  protected size = ({ bytes }: Backup): string => (bytes === null ? '' : `${(bytes / MB).toFixed(1)} MB`);

  protected ask(): void {
    this.asking.send('/backups', { id: newId() }, () => this.read());
  }

  protected save(): void {
    const body: SaveBackupWishes = {
      version: this.answer()!.version,
      everyHours: this.everyHours(),
      keep: this.keep() ?? 0,
      secondFolder: this.secondFolder().trim(),
    };
    this.saving.send('/settings/backups', body, () => this.read(), { method: 'put', said: 'Backups: changed' });
  }
}
