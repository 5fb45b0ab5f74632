import { mount } from '@vue/test-utils';
import { afterEach, describe, expect, it } from 'vitest';
import ColourChip from './ColourChip.vue';

describe('ColourChip', () => {
  let wrapper: ReturnType<typeof mount>;

  afterEach(() => wrapper.unmount());

  it('names its colour for those who cannot see it', () => {
    wrapper = mount(ColourChip, { props: { colour: 'iron red' } });

    expect(wrapper.attributes('aria-label')).toBe('iron red');
  });
});
