import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import type { ChangePiece, OrderPiece, OrderView, OrdersAnswer } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { LikelyText } from '../../shared/likely.component';
import { May } from '../../shared/may.directive';
import { pageData } from '../../shared/page-data';
import { PlanStandText } from '../../shared/plan-stand.component';
import { Refusal } from '../../shared/refusal.component';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { Disc } from '../../shared/disc.component';
import { Drawer } from '../../shared/drawer.component';
import { OrderForm } from './order-form.component';
import { orderChart } from './order-line';

const OVER: ReadonlySet<string> = new Set(['delivered', 'cancelled', 'lost']);

/** What clients want together: when each order is ready, and what can go earlier. */
@Component({
  selector: 'kv-orders',
  imports: [RouterLink, ButtonModule, Disc, Drawer, LikelyText, May, OrderForm, PlanStandText, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './orders.page.html',
  styleUrl: './orders.page.css',
})
export class OrdersPage {
  private readonly router = inject(Router);
  protected readonly shop = inject(ShopService);
  private readonly page = pageData<OrdersAnswer>(() => '/orders');
  private readonly query = toSignal(inject(ActivatedRoute).queryParamMap);
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  /** What is being entered: a new order, or a change of the one that is open. */
  protected readonly editing = signal<'new' | 'change' | null>(null);

  /** All on one line of days: what is out when, against what was promised. */
  protected readonly chart = computed(() =>
    orderChart(this.answer()?.orders ?? [], this.answer()?.today ?? this.shop.today(), this.shop.settings().timeZone),
  );
  /** The one whose pieces are listed. */
  protected readonly opened = computed(() => this.answer()?.orders.find(({ id }) => id === this.query()?.get('order')));
  protected readonly min = Math.min;
  protected readonly max = Math.max;

  protected readonly sending = new Submission();
  /** A piece whose own date is later than what its order promises would be planned past the promise. */
  protected afterPromise = ({ dueDate }: OrderView, piece: OrderPiece): boolean =>
    dueDate !== null && piece.dueDate !== null && piece.dueDate > dueDate && !OVER.has(piece.state);

  protected bringForward({ dueDate }: OrderView, { pieceId, label, version }: OrderPiece): void {
    this.sending.send(`/pieces/${pieceId}`, { version, dueDate } satisfies ChangePiece, () => this.read(), {
      method: 'patch',
      said: `${label}: due ${this.shop.day(dueDate!)}; dates follow`,
    });
  }

  protected pastPromise = (order: OrderView): number =>
    order.pieces.filter((piece) => this.afterPromise(order, piece)).length;

  /** Pieces that are out before the last one, where they may go by themselves. */
  protected earlier({ partDelivery, readyAt, pieces }: OrderView): string {
    const open = pieces.filter(({ state, plannedFinish }) => state !== 'delivered' && plannedFinish !== null);
    const before = open.filter(({ plannedFinish }) => plannedFinish! < (readyAt ?? ''));
    if (!partDelivery || before.length === 0) return '';
    const first = this.shop.dayOf(before[0]!.plannedFinish!);
    return `${before.length} ${before.length === 1 ? 'piece' : 'pieces'} can go earlier, the first ${first}`;
  }

  protected open(id: string | null): void {
    this.editing.set(null);
    void this.router.navigate([], { queryParams: { order: id }, queryParamsHandling: 'merge' });
  }

  protected saved(id: string | null): void {
    this.editing.set(null);
    this.page.read();
    if (id) this.open(id);
  }

  protected read(): void {
    this.page.read();
  }

  protected deliveredWords({ pieces }: OrderView): string {
    const count = pieces.filter(({ state }) => state === 'delivered').length;
    return count > 0 ? ` · ${count} of ${pieces.length} delivered` : '';
  }

  /** What a disc on the line says on hover and to a screen reader. */
  protected discWords(piece: OrderPiece): string {
    return `${piece.label}: ${this.pieceWords(piece)}`;
  }

  protected readyWords(order: OrderView): string {
    if (order.pieces.length === 0) return 'no pieces yet';
    if (order.pieces.every(({ state }) => state === 'delivered')) return 'delivered';
    return order.readyAt ? `ready ${this.shop.dayOf(order.readyAt)}` : 'no date for every piece';
  }

  protected pieceWords(piece: OrderPiece): string {
    if (piece.state === 'delivered') return `delivered ${this.shop.dayOf(piece.deliveredAt!)}`;
    if (piece.state === 'cancelled' || piece.state === 'lost') return piece.state;
    const out = piece.plannedFinish ? `out ${this.shop.dayOf(piece.plannedFinish)}` : 'not planned';
    return piece.state === 'hold' ? `on hold, ${out}` : out;
  }
}
