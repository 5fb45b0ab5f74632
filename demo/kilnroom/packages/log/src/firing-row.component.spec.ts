import { TestBed } from '@angular/core/testing';
import { FiringRowComponent } from './firing-row.component';

describe('FiringRowComponent', () => {
  it('marks a failed firing', () => {
    const fixture = TestBed.createComponent(FiringRowComponent);
    fixture.componentRef.setInput('firing', { id: 1, kiln: 'Big Bertha', failed: true });
    fixture.detectChanges();

    expect(fixture.nativeElement.textContent).toContain('Failed');
  });
});
