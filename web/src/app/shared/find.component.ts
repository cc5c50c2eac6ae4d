import { ChangeDetectionStrategy, Component, ElementRef, inject, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import { AutoCompleteModule } from 'primeng/autocomplete';
import type { AutoComplete } from 'primeng/autocomplete';
import type { FoundLine } from '@kalvet/core';
import { Api } from './api.service';

/** Finds pieces, works, orders, clients, heats, loads, lots and people, and goes there. */
@Component({
  selector: 'kv-find',
  imports: [FormsModule, AutoCompleteModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-autocomplete
      #box
      inputId="kv-find"
      [(ngModel)]="picked"
      [suggestions]="found()"
      (completeMethod)="look($event.query)"
      (onSelect)="go($event.value)"
      [delay]="150"
      [minLength]="1"
      [autoOptionFocus]="true"
      [optionLabel]="label"
      placeholder="Find anything  ( / )"
      emptyMessage="Nothing found. Try a title, a tag (OTT 5), a tree (T-12), a heat (H-31), an order or a client."
      [showEmptyMessage]="true"
      ariaLabel="Find a piece, tag, tree, heat, order or client">
      <ng-template let-item #item>
        <span>{{ item.label }}</span>
        <span class="kv-soft">&nbsp;· {{ item.beside }}</span>
      </ng-template>
    </p-autocomplete>
  `,
  styles: `
    :host ::ng-deep .p-autocomplete-input {
      width: 230px;
      background: var(--kv-head-field);
      border-color: var(--kv-head-field);
      color: var(--kv-on-head);
    }
    :host ::ng-deep .p-autocomplete-input::placeholder {
      color: var(--kv-on-head-soft);
    }
    @media (max-width: 820px) {
      :host ::ng-deep .p-autocomplete-input {
        width: 118px;
      }
    }
  `,
})
export class FindBox {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly found = signal<FoundLine[]>([]);
  protected picked: FoundLine | string = '';
  protected readonly box = viewChild<AutoComplete>('box');
  protected readonly label = (item: FoundLine | string) => (typeof item === 'string' ? item : item.label);

  focus(): void {
    this.host.nativeElement.querySelector('input')?.focus();
  }

  protected look(query: string): void {
    this.api.get<{ found: FoundLine[] }>(`/find?q=${encodeURIComponent(query)}`).subscribe({
      next: ({ found }) => this.found.set(found),
      error: () => this.found.set([]),
    });
  }

  protected go(item: FoundLine): void {
    this.picked = '';
    void this.router.navigate([item.path], { queryParams: item.query ?? {} });
  }
}
