import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { KilnCard } from './kiln-card';

describe('KilnCard', () => {
  it('shows the temperature', () => {
    render(<KilnCard name="Big Bertha" temp={840} />);

    expect(screen.getByText('840 °C')).toBeInTheDocument();
  });

  it('fires the kiln once the lid is closed', async () => {
    const user = userEvent.setup();
    const onFire = vi.fn();
    const { container } = render(<KilnCard name="Big Bertha" temp={20} onFire={onFire} />);

    await user.click(screen.getByRole('button', { name: 'Close the lid' }));
    await user.click(container.querySelector('.kiln-card__fire')!);

    expect(onFire).toHaveBeenCalledWith('Big Bertha');
  });

  it('keeps the fire button locked while the lid is open', () => {
    const { container } = render(<KilnCard name="Little Tim" temp={20} />);

    expect(container.querySelector('button.kiln-card__fire')).toBeDisabled();
  });

  it('has no second fire button', () => {
    render(<KilnCard name="Little Tim" temp={20} cone={6} />);

    expect(screen.queryByRole('button', { name: 'Fier' })).not.toBeInTheDocument();
  });

  it('warns while the kiln is hot', () => {
    render(<KilnCard name="Little Tim" temp={900} />);

    expect(screen.getByRole('alert')).toHaveTextContent('Too hot to open');
  });
});
