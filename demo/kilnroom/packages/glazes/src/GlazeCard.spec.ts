import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import GlazeCard from './GlazeCard.vue';

describe('GlazeCard', () => {
  const wrapper = mount(GlazeCard, { props: { name: 'Celadon', colour: 'green', stock: 3 } });

  it('opens the recipe', async () => {
    await wrapper.find('.glaze__toggle').trigger('click');

    expect(wrapper.find('.glaze__recipe').exists()).toBe(true);
  });

  it('keeps the recipe open when a glaze is ordered', async () => {
    await wrapper.find('.glaze__order').trigger('click');

    expect(wrapper.text()).toContain('Sift twice');
    expect(wrapper.emitted('order')).toEqual([['Celadon']]);
  });

  it('renders', () => {
    expect(wrapper.vm).toBeTruthy();
  });
});
