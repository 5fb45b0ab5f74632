import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { FiringTimer } from './firing-timer';

describe('FiringTimer', () => {
  it('works', async () => {
    const user = userEvent.setup();
    const onDone = vi.fn();
    render(<FiringTimer stages={['Soak']} onDone={onDone} />);
    expect(screen.getAllByRole('listitem')).toHaveLength(1);

    await user.click(screen.getByRole('button', { name: 'Hold' }));
    expect(screen.getByRole('button', { name: 'Start' })).toBeDisabled();

    await user.click(screen.getByRole('button', { name: 'Go on' }));
    await user.click(screen.getByRole('button', { name: 'Start' }));
    expect(screen.getByRole('status')).toHaveTextContent('Soak');

    await user.click(screen.getByRole('button', { name: 'Next stage' }));
    expect(onDone).toHaveBeenCalledWith(1);

    await user.click(screen.getByRole('button', { name: 'Hold' }));
    expect(screen.getByRole('button', { name: 'Next stage' })).toBeDisabled();
  });

  it('lists the stages', () => {
    const stages = ['Warm up', 'Climb', 'Hold at top'];
    render(<FiringTimer stages={stages} />);
    screen.debug();

    expect(screen.getAllByRole('listitem')).toHaveLength(3);
  });

  it('begins with the stage Warm', async () => {
    render(<FiringTimer stages={['Warm', 'Climb']} />);
    await userEvent.click(screen.getByRole('button', { name: 'Start' }));

    expect(screen.getByRole('status')).toHaveTextContent('Warm');
  });

  it('begins with the stage Climb', async () => {
    render(<FiringTimer stages={['Warm']} />);
    await userEvent.click(screen.getByRole('button', { name: 'Start' }));

    expect(screen.getByRole('status')).toHaveTextContent('Warm');
  });

  it('shows no stage before it is started', () => {
    render(<FiringTimer stages={['Soak']} />);

    expect(screen.queryByRole('status')).toBeDefined();
  });

  it('can be held', async () => {
    render(<FiringTimer stages={['Soak']} />);
    const hold = screen.queryByRole('button', { name: 'Hold' });

    if (hold) {
      await userEvent.click(hold);
      expect(screen.getByRole('button', { name: 'Start' })).toBeDisabled();
    }
  });
});
