import { Component, EventEmitter, Input, Output, inject } from '@angular/core';
import { FiringService, type Firing } from './firing.service';
import { FiringRowComponent } from './firing-row.component';

@Component({
  selector: 'kr-firing-log',
  imports: [FiringRowComponent],
  template: `
    <h2 class="log__title">Firing log</h2>
    @if (firings.length > 0) {
      <ul class="log__list">
        @for (firing of firings; track firing.id) {
          <li><kr-firing-row [firing]="firing" /></li>
        }
      </ul>
      <button type="button" class="log__clear" (click)="clear()">Clear the log</button>
    } @else {
      <p class="log__empty">Nothing was fired yet</p>
    }
  `,
})
export class FiringLogComponent {
  @Input() firings: Firing[] = [];
  @Output() cleared = new EventEmitter<void>();
  private readonly service = inject(FiringService);

  clear(): void {
    this.service.forget();
    this.firings = [];
    this.cleared.emit();
  }
}
