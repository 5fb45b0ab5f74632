import { Component, Input } from '@angular/core';
import type { Firing } from './firing.service';

@Component({
  selector: 'kr-firing-row',
  templateUrl: './firing-row.component.html',
})
export class FiringRowComponent {
  @Input() firing!: Firing;
}
