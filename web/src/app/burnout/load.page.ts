import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { LoadRecordPage } from '@kalvet/core';
import { Files } from '../files/files.component';
import { pageData } from '../shared/page-data';
import { RecordHistory } from '../shared/record-history.component';
import { FireCurve } from './fire-curve.component';
import { KilnFloor } from './kiln-floor.component';
import { ShopService } from '../shared/shop.service';
import { AmountPipe } from '../shared/words.pipe';

/** A kiln load with everything that is on record of it: which trees, how it was fired, what did not come through. */
@Component({
  selector: 'kv-load-page',
  imports: [AmountPipe, Files, FireCurve, KilnFloor, RecordHistory, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      @if (wrong() && !load()) {
        <p class="kv-alert" role="alert">{{ wrong() }}</p>
      } @else if (!load()) {
        <p class="kv-soft" role="status">Reading the load …</p>
      } @else {
        @let l = load()!;
        <header>
          <h1>Kiln load L-{{ l.number }}</h1>
          <span>{{ l.state }}</span>
        </header>
        <div class="columns">
          <section>
            <dl>
              <dt>Fired</dt>
              <dd>{{ l.endedAt ? shop.at(l.endedAt) : 'not yet' }}</dd>
              @if (l.startedAt && l.startedAt !== l.endedAt) {
                <dt>Lit</dt>
                <dd>{{ shop.at(l.startedAt) }}</dd>
              }
              @if (l.profile) {
                <dt>Profile</dt>
                <dd>{{ l.profile }}</dd>
              }
              @if (l.topC !== null) {
                <dt>Hottest</dt>
                <dd>{{ l.topC | amount: '°C' : 0 }}</dd>
              }
              @if (l.by.length > 0) {
                <dt>By</dt>
                <dd>{{ l.by.join(', ') }}</dd>
              }
              @if (l.reason) {
                <dt>Given up</dt>
                <dd>{{ l.reason }}</dd>
              }
              @if (l.note) {
                <dt>Note</dt>
                <dd>{{ l.note }}</dd>
              }
            </dl>
            @if (l.fire.couples.length > 0 || l.fire.profile) {
              <h2>How it fired</h2>
              <kv-fire-curve
                [stretches]="l.fire.profile?.stretches ?? []"
                [couples]="l.fire.couples"
                [startedAt]="l.startedAt" />
              @for (word of verdict(); track word) {
                <p [class.kv-alert]="word.bad">{{ word.text }}</p>
              }
            }
            @if (l.fire.wax; as wax) {
              <h2>Wax</h2>
              <p [class.kv-alert]="wax.looks">
                {{ wax.castsKg | amount: 'kg' : 1 }} of casts, {{ wax.barsKg | amount: 'kg' : 1 }} of bars,
                {{ wax.cupsKg | amount: 'kg' : 1 }} of cups went in{{
                  wax.recoveredKg === null ? '' : '; ' + shop.amount(wax.recoveredKg, 'kg', 1) + ' came back'
                }}. {{ shop.words(wax.says) }}
              </p>
            }
            @if (l.energyKwh) {
              <p>
                The kiln took {{ l.energyKwh | amount: 'kWh' : 0
                }}{{
                  l.fire.energyAKg ? ', ' + shop.amount(l.fire.energyAKg.value, 'kWh', 1) + ' a kilogram of shell' : ''
                }}.
              </p>
            }
            @if (l.fire.stands.length > 0) {
              <h2>Where they stood</h2>
              <div class="floor"><kv-kiln-floor [floor]="l.fire.floor" [trees]="l.fire.stands" /></div>
            }
            <h2>Trees in it</h2>
            <table>
              <thead>
                <tr>
                  <th scope="col">Tree</th>
                  <th scope="col">How</th>
                </tr>
              </thead>
              <tbody>
                @for (tree of l.trees; track tree.treeId) {
                  <tr>
                    <th scope="row">
                      @if (tree.pieceIds[0]; as pieceId) {
                        <a [routerLink]="['/pieces', pieceId]">{{ tree.title }}, {{ tree.label }}</a>
                      } @else {
                        {{ tree.label }}
                      }
                    </th>
                    <td [class.kv-alert]="tree.outcome === 'lost'">
                      {{ tree.outcome === 'done' ? 'came through' : (tree.outcome ?? 'not fired yet') }}
                    </td>
                  </tr>
                }
              </tbody>
            </table>
            <h2>Pictures</h2>
            <kv-files subject="load" [subjectId]="l.id" [label]="'L-' + l.number" [pastes]="true" />
          </section>
          <kv-record-history [lines]="l.history" />
        </div>
      }
    </div>
  `,
  styleUrl: '../shared/record.page.css',
  styles: `
    .floor {
      max-width: 320px;
    }
  `,
})
export class LoadPage {
  protected readonly shop = inject(ShopService);
  readonly id = input.required<string>();
  private readonly page = pageData<LoadRecordPage>(() => `/loads/${this.id()}/record`);
  protected readonly load = this.page.answer;
  protected readonly wrong = this.page.wrong;
  /** What the thermocouples say of it. */
  protected readonly verdict = computed(() => {
    const { holds, lagK, above1000Minutes, alarms } = this.load()!.fire.verdict;
    const said = holds.map(
      ({ holdC, heldMinutes, plannedMinutes }) =>
        `${this.shop.amount(holdC, '°C', 0)} held ${Math.round(heldMinutes)} of ${Math.round(plannedMinutes)} min`,
    );
    const rest = [
      ...(lagK === null ? [] : [`the coldest lay ${this.shop.amount(lagK, 'K', 0)} behind at most`]),
      ...(above1000Minutes < 1 ? [] : [`${Math.round(above1000Minutes)} min above ${this.shop.amount(1000, '°C', 0)}`]),
    ];
    const words = [...said, ...rest].join(' · ');
    return [
      ...(words === '' ? [] : [{ text: words, bad: false }]),
      ...alarms.map((alarm) => ({ text: this.shop.words(alarm), bad: true })),
    ];
  });
}
