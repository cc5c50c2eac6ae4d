import { ChangeDetectionStrategy, Component, ElementRef, inject, input, output } from '@angular/core';

/** One of a few. */
export interface Choice<T = unknown> {
  readonly code: T;
  readonly label: string;
}

const KEYS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 };

/** A choice of a few, laid out: what there is stands there, one tap takes it, and nothing hides in a list. */
@Component({
  selector: 'kv-choices',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div
      role="radiogroup"
      tabindex="-1"
      [class.rows]="rows()"
      [id]="inputId()"
      [attr.aria-label]="ariaLabel() || null"
      [attr.aria-labelledby]="labelledBy() || null"
      (keydown)="walk($event)">
      @for (option of options(); track option.code; let i = $index) {
        <button
          type="button"
          role="radio"
          [attr.aria-checked]="option.code === value()"
          [tabindex]="option.code === value() || (i === 0 && none()) ? 0 : -1"
          (click)="choose(option.code)">
          {{ option.label }}
        </button>
      }
    </div>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    div {
      display: flex;
      flex-wrap: wrap;
    }
    button {
      min-height: 34px;
      margin: 0 -1px -1px 0;
      padding: 3px 12px;
      border: 1px solid var(--kv-line-strong);
      background: var(--kv-paper);
      color: inherit;
      font: inherit;
      text-align: left;
      cursor: pointer;
    }
    button:hover {
      background: var(--kv-plaster);
    }
    [aria-checked='true'],
    [aria-checked='true']:hover {
      position: relative;
      border-color: var(--kv-ink);
      background: var(--kv-ink);
      color: var(--kv-paper);
      font-weight: 500;
    }
    .rows {
      display: grid;
    }
    .rows button {
      padding-left: 30px;
      position: relative;
    }
    .rows button::before {
      content: '';
      position: absolute;
      left: 11px;
      top: calc(50% - 4.5px);
      width: 9px;
      height: 9px;
      border: 1.5px solid currentcolor;
      border-radius: 50%;
    }
    .rows [aria-checked='true']::before {
      background: var(--kv-accent);
      border-color: var(--kv-accent);
    }
    @media (max-width: 1000px) {
      button {
        min-height: 44px;
      }
    }
  `,
})
export class Choices<T> {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly options = input.required<readonly Choice<T>[]>();
  readonly inputId = input<string>();
  readonly ariaLabel = input('');
  /** The id of what names it. */
  readonly labelledBy = input('');
  /** Each on a line of its own. */
  readonly rows = input(false);
  /** Tapped again, what was chosen is chosen no more. */
  readonly clears = input(false);
  readonly value = input<T>();
  readonly valueChange = output<T>();
  /** What was chosen is chosen no more. */
  readonly cleared = output();

  protected none(): boolean {
    return !this.options().some(({ code }) => code === this.value());
  }

  protected choose(code: T): void {
    if (this.clears() && code === this.value()) this.cleared.emit();
    else this.valueChange.emit(code);
  }

  protected walk(event: KeyboardEvent): void {
    const by = KEYS[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const buttons = [...this.host.nativeElement.querySelectorAll('button')];
    const at = buttons.indexOf(document.activeElement as HTMLButtonElement);
    const next = (at + by + buttons.length) % buttons.length;
    this.valueChange.emit(this.options()[next]!.code);
    buttons[next]!.focus();
  }
}
