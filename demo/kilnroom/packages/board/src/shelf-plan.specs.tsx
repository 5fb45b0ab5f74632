import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { ShelfPlanner } from './shelf-planner';

describe('ShelfPlanner', () => {
  it('spreads pieces over the shelves', async () => {
    const user = userEvent.setup();
    render(<ShelfPlanner shelves={2} pieces={['bowl', 'vase', 'mug']} />);

    await user.click(screen.getByRole('button', { name: 'Plan the shelves' }));

    expect(screen.getByText('Shelf 1: bowl, mug')).toBeInTheDocument();
  });
});
