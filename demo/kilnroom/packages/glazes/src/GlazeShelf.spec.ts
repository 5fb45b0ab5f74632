import { shallowMount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import GlazeShelf from './GlazeShelf.vue';

const glazes = [
  { name: 'Celadon', colour: 'green', stock: 3 },
  { name: 'Tenmoku', colour: 'brown', stock: 0 },
];

describe('GlazeShelf', () => {
  it('counts what is in stock', () => {
    const wrapper = shallowMount(GlazeShelf, { props: { glazes } });

    expect((wrapper.vm as unknown as { inStock: object[] }).inStock).toHaveLength(1);
  });
});
