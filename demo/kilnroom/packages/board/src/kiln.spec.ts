import { describe, expect, it } from 'vitest';
import { Kiln } from './kiln';

describe('Kiln', () => {
  const kiln = new Kiln('Big Bertha');

  it('heats up when it is fired', () => {
    kiln.fire(6);

    expect(kiln.temp).toBe(1180);
  });

  it('holds what is loaded', () => {
    kiln.load('teapot');

    expect(kiln.shelves).toEqual(['teapot']);
  });

  it('is not safe after a firing', () => {
    expect(kiln.isSafe).toBe(false);
  });
});
