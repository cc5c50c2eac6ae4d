import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { LoadRecordPage } from '@kalvet/core';
import { Files } from '../files/files.component';
import { pageData } from '../shared/page-data';
import { RecordHistory } from '../shared/record-history.component';
import { ShopService } from '../shared/shop.service';
import { AmountPipe } from '../shared/words.pipe';

/** A kiln load with everything that is on record of it: which trees, how it was fired, what did not come through. */
@Component({
  selector: 'kv-load-page',
  imports: [AmountPipe, Files, RecordHistory, RouterLink],
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
})
export class LoadPage {
  protected readonly shop = inject(ShopService);
  readonly id = input.required<string>();
  private readonly page = pageData<LoadRecordPage>(() => `/loads/${this.id()}/record`);
  protected readonly load = this.page.answer;
  protected readonly wrong = this.page.wrong;
}
