import {
  Directive,
  ViewContainerRef,
  effect,
  inject,
  input,
  inputBinding,
  outputBinding,
  untracked,
} from '@angular/core';
import type { Type } from '@angular/core';

/** Puts a room's component where the route's mechanics leave it a place; they know it by its inputs and outputs alone. */
@Directive({ selector: '[kvPart]' })
export class Part {
  readonly kvPart = input.required<Type<unknown>>();
  readonly inputs = input<Readonly<Record<string, unknown>>>({});
  readonly outputs = input<Readonly<Record<string, (value: never) => void>>>({});

  constructor() {
    const place = inject(ViewContainerRef);
    effect(() => {
      const component = this.kvPart();
      untracked(() => {
        place.clear();
        place.createComponent(component, {
          bindings: [
            ...Object.keys(this.inputs()).map((name) => inputBinding(name, () => this.inputs()[name])),
            ...Object.keys(this.outputs()).map((name) =>
              outputBinding(name, (value) => this.outputs()[name]?.(value as never)),
            ),
          ],
        });
      });
    });
  }
}
