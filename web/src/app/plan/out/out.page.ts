import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { FeedLine, FeedsAnswer } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { askedDates } from '../ask-dates';
import { pageData } from '../../shared/page-data';
import { Refusal } from '../../shared/refusal.component';
import { roomColour } from '../../shared/rooms';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { VisitsList } from './visits.component';

/** The plan to take along: calendars for phones and wall screens, visits, files that anybody can check or plan again. */
@Component({
  selector: 'kv-out',
  imports: [ButtonModule, Refusal, RouterLink, VisitsList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './out.page.html',
  styleUrl: './out.page.css',
})
export class OutPage {
  protected readonly shop = inject(ShopService);
  private readonly page = pageData<FeedsAnswer>(() => '/feeds');
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly sending = new Submission();
  protected readonly colour = roomColour;
  /** Whose address is about to be changed: the old one closes for all who have it. */
  protected readonly renewing = signal('');
  protected readonly copied = signal('');

  private readonly wanted = signal('');
  protected readonly files = askedDates<{ problem: object; schedule: object }>(
    () => this.wanted(),
    'Working out the plan as files …',
  );
  protected readonly asked = computed(() => this.wanted() !== '');
  protected readonly links = computed(() => {
    const files = this.files.answer();
    if (!files) return [];
    return (['problem', 'schedule'] as const).map((name) => {
      const text = JSON.stringify(files[name], null, 1);
      return {
        name: `${name}.json`,
        href: `data:application/json;charset=utf-8,${encodeURIComponent(text)}`,
        size: `${Math.max(1, Math.round(text.length / 1000))} kB`,
      };
    });
  });

  protected addressOf({ path }: FeedLine): string {
    return `${location.origin}${path ?? ''}`;
  }

  protected make({ subject }: FeedLine): void {
    this.sending.send(
      '/feeds',
      { subject },
      () => {
        this.renewing.set('');
        this.page.read();
      },
      { said: 'Calendar address made' },
    );
  }

  protected async copy(line: FeedLine): Promise<void> {
    await navigator.clipboard.writeText(this.addressOf(line)).catch(() => undefined);
    this.copied.set(line.subject);
  }

  protected read(): void {
    this.page.read();
  }

  protected askFiles(): void {
    this.wanted.set('/plan/files');
  }
}
