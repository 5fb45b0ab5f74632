import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { UnitSwitch } from './unit-switch';

const marks = [1222, 600, 60];
const onChange = vi.fn();

describe('UnitSwitch', () => {
  it('shows the lowest mark first', () => {
    render(<UnitSwitch marks={marks.sort((a, b) => a - b)} />);

    expect(screen.getAllByRole('listitem').map((mark) => mark.textContent)).toEqual(['60 °C', '600 °C', '1222 °C']);
  });

  it('changes to Fahrenheit', async () => {
    render(<UnitSwitch marks={marks} onChange={onChange} />);

    await userEvent.click(screen.getByRole('button', { name: 'Show °F' }));

    expect(onChange).toHaveBeenCalledWith('F');
  });

  it('starts with the unit that is remembered', () => {
    localStorage.setItem('unit', 'F');
    render(<UnitSwitch marks={[60]} />);

    expect(screen.getByRole('listitem')).toHaveTextContent('140 °F');
  });

  it('changes back to Celsius', async () => {
    render(<UnitSwitch marks={marks} onChange={onChange} />);

    userEvent.click(screen.getByRole('button', { name: 'Show °C' }));

    expect(await screen.findByText('60 °C')).toBeInTheDocument();
    expect(onChange).toHaveBeenCalledWith('C');
  });

  it('is named by its heading', () => {
    render(<UnitSwitch marks={[60]} />);

    expect(screen.getByRole('region', { name: 'Marks' })).toHaveAttribute('aria-labelledby', 'marks-5');
  });
});
