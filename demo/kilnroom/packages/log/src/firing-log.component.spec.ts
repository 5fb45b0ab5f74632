import { ComponentFixture, TestBed } from '@angular/core/testing';
import { By } from '@angular/platform-browser';
import { FiringLogComponent } from './firing-log.component';

describe('FiringLogComponent', () => {
  let fixture: ComponentFixture<FiringLogComponent>;

  beforeEach(() => {
    fixture = TestBed.createComponent(FiringLogComponent);
    fixture.detectChanges();
  });

  it('should create', () => {
    expect(fixture.componentInstance).toBeTruthy();
  });

  it('says that nothing was fired yet', () => {
    expect(fixture.debugElement.query(By.css('.log__empty')).nativeElement.textContent).toContain('Nothing was fired');
  });

  it('forgets the firings', () => {
    fixture.componentInstance.clear();

    expect(fixture.componentInstance.firings).toEqual([]);
  });

  fit('clears the log', () => {
    fixture.componentRef.setInput('firings', [{ id: 1, kiln: 'Big Bertha' }]);
    fixture.detectChanges();

    fixture.nativeElement.querySelector('.log__clear').click();
    fixture.detectChanges();

    expect(fixture.nativeElement.textContent).toContain('Nothing was fired yet');
  });
});
