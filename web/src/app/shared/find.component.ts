import { ChangeDetectionStrategy, Component, ElementRef, inject, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import { AutoCompleteModule } from 'primeng/autocomplete';
import type { AutoComplete } from 'primeng/autocomplete';
import { Api } from './api.service';

interface Found {
  readonly id: string;
  readonly title: string;
  readonly code: string;
  readonly mark: string;
  readonly state: string;
}

/** Finds a piece by its work, tag or tree, and goes there. */
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
      placeholder="Find a piece, tag or tree  ( / )"
      emptyMessage="Nothing found. Try a title, a tag (OTT 5) or a tree (T-12)."
      [showEmptyMessage]="true"
      ariaLabel="Find a piece, tag or tree">
      <ng-template let-item #item>
        <span>{{ item.title }} {{ item.mark }}</span>
        <span class="kv-soft">&nbsp;· {{ item.code }}{{ item.state === 'in work' ? '' : ' · ' + item.state }}</span>
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
        width: 140px;
      }
    }
  `,
})
export class FindBox {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly found = signal<Found[]>([]);
  protected picked: Found | string = '';
  protected readonly box = viewChild<AutoComplete>('box');
  protected readonly label = (item: Found | string) => (typeof item === 'string' ? item : `${item.title} ${item.mark}`);

  focus(): void {
    this.host.nativeElement.querySelector('input')?.focus();
  }

  protected look(query: string): void {
    this.api.get<{ found: Found[] }>(`/find?q=${encodeURIComponent(query)}`).subscribe({
      next: ({ found }) => this.found.set(found),
      error: () => this.found.set([]),
    });
  }

  protected go(item: Found): void {
    this.picked = '';
    void this.router.navigate(['/pieces', item.id]);
  }
}
