import { render, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { meter } from './meter';
import { PowerBadge } from './power-badge';

describe('PowerBadge', () => {
  it('shows what the meter says', async () => {
    vi.spyOn(meter, 'reading').mockResolvedValue(42);
    render(<PowerBadge />);

    expect(await screen.findByText('42 kW')).toBeInTheDocument();
  });

  it('waits for the meter', async () => {
    vi.useFakeTimers();
    render(<PowerBadge />);
    vi.advanceTimersByTime(1000);

    expect(screen.getByRole('status', { name: 'Power' })).toBeVisible();
  });

  it('reads the meter again', () => {
    render(<PowerBadge />);
    screen.getByText('Reading the meter');
  });
});
