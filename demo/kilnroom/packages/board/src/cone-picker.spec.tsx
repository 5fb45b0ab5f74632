import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { ConePicker } from './cone-picker';

describe('ConePicker', () => {
  it('asks for a cone', () => {
    render(<ConePicker cones={['6', '9']} />);

    expect(screen.getByTestId('cone-title')).toHaveTextContent('Choose a cone');
    expect(screen.getByPlaceholderText('minutes')).toHaveValue(null);
  });

  it('shows the chart of cones', () => {
    const { container } = render(<ConePicker cones={['6', '9']} />);

    expect(container.querySelector('.cone-picker__chart')).toBeTruthy();
  });

  it('hands the chosen cone on', async () => {
    const onPick = vi.fn();
    render(<ConePicker cones={['6', '9']} onPick={onPick} />);

    await userEvent.click(screen.getAllByRole('button')[1]!);

    expect(onPick).toHaveBeenCalledWith('9');
  });

  it('says what it fires to', () => {
    render(<ConePicker cones={['6', '9']} />);

    fireEvent.click(screen.getByText('Cone 6'));

    expect(screen.getByText('Fires to cone 6')).toBeTruthy();
    expect(screen.queryByText('Cone 9')).toBeInTheDocument();
  });

  it('looks as it did', () => {
    const { container } = render(<ConePicker cones={['6']} />);

    expect(container).toMatchSnapshot();
  });
});
