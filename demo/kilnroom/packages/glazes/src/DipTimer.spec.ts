import { mount } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import DipTimer from './DipTimer.vue';

describe('DipTimer', () => {
  beforeEach(() => {
    vi.useFakeTimers();
  });

  afterEach(() => {
    vi.useRealTimers();
  });

  it('counts the seconds of a dip', async () => {
    const wrapper = mount(DipTimer);

    await wrapper.get('button').trigger('click');
    await vi.advanceTimersByTimeAsync(3000);

    expect(wrapper.get('output').text()).toBe('3 s');
  });
});
