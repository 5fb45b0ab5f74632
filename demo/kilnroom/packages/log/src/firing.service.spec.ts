import { FiringService } from './firing.service';

describe('FiringService', () => {
  const service = new FiringService();

  it('keeps what was fired', () => {
    service.add({ id: 1, kiln: 'Big Bertha', cone: 6 });

    expect(service.all().length).toBe(1);
  });

  it('starts empty', () => {
    service.forget();

    expect(service.all().length).toBe(0);
  });

  it('can be cleared twice', () => {
    service.forget();
    service.forget();
  });

  it('adds to what is there', () => {
    service.add({ id: 2, kiln: 'Little Tim' });

    expect(service.all().map(({ id }) => id)).toEqual([2]);
  });
});
