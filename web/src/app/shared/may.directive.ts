import { Directive, TemplateRef, ViewContainerRef, effect, inject, input } from '@angular/core';
import type { Right, Room } from '@kalvet/core';
import { Session } from './session.service';

/** Shows something only to those who may do what it is for: `*kvMay="'hold'"`, `*kvMay="'pin step'; room: room()"`. */
@Directive({ selector: '[kvMay]' })
export class May {
  private readonly session = inject(Session);
  private readonly template = inject<TemplateRef<unknown>>(TemplateRef);
  private readonly place = inject(ViewContainerRef);
  readonly kvMay = input.required<Right>();
  readonly kvMayRoom = input<Room>();

  constructor() {
    let shown = false;
    effect(() => {
      const may = this.session.may(this.kvMay(), this.kvMayRoom());
      if (may === shown) return;
      shown = may;
      if (may) this.place.createEmbeddedView(this.template);
      else this.place.clear();
    });
  }
}
