import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { RailAnswer, Room } from '@kalvet/core';
import { ROOM_NAMES } from '@kalvet/core';
import { pageData } from './page-data';
import { RAIL, roomColour } from './rooms';
import { WAY_INTO } from './way-into';

/** The eight rooms in their order, what is in each and the way into it; stands on every page that has no fuller rail of its own. */
@Component({
  selector: 'kv-rail',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav aria-label="Rooms">
      @for (each of rooms; track each.room) {
        <a
          [routerLink]="each.way.path"
          [queryParams]="each.way.query"
          [style.--room]="each.colour"
          [class.here]="room() === each.room"
          [attr.aria-current]="room() === each.room ? 'page' : null">
          <span>{{ each.name }}</span>
          @if (counts().get(each.room); as count) {
            <span class="sub">
              {{ count.text }}
              @if (count.late > 0) {
                <b class="kv-alert">· {{ count.late }} late</b>
              } @else if (count.ready > 0) {
                · {{ count.ready }} ready
              }
            </span>
          }
        </a>
      }
    </nav>
  `,
  styles: `
    nav {
      display: flex;
      background: var(--kv-paper);
    }
    a {
      flex: 1;
      min-width: 0;
      padding: 5px 6px 4px 11px;
      border-right: 1px solid var(--kv-line);
      border-bottom: 4px solid var(--room);
      color: inherit;
      font-weight: 500;
      text-decoration: none;
    }
    span {
      display: block;
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .sub {
      min-height: 1.35em;
      font-size: 0.86rem;
      font-weight: 400;
      color: var(--kv-ink-soft);
    }
    a:hover,
    .here {
      background: color-mix(in srgb, var(--room) 16%, var(--kv-paper));
    }
  `,
})
export class Rail {
  private readonly page = pageData<RailAnswer>(() => '/rail');
  protected readonly counts = computed(() => new Map(this.page.answer()?.rooms.map((count) => [count.room, count])));
  /** The room whose page this is. */
  readonly room = input<Room>();
  private readonly wayInto = inject(WAY_INTO);
  protected readonly rooms = RAIL.map((room) => ({
    room,
    name: ROOM_NAMES[room],
    colour: roomColour(room),
    way: this.wayInto(room),
  }));
}
