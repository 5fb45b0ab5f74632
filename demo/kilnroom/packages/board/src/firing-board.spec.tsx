import { render, screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { FiringBoard } from './firing-board';

const kilns = [
  { name: 'Big Bertha', temp: 1180, cone: 6 },
  { name: 'Little Tim', temp: 20 },
];

describe('FiringBoard', () => {
  it('shows a card for each kiln', () => {
    render(<FiringBoard kilns={kilns} />);

    expect(screen.getAllByRole('article')).toHaveLength(kilns.length);
  });

  it('puts the cone on the card that it belongs to', () => {
    render(<FiringBoard kilns={kilns} />);
    const card = screen.getByRole('article', { name: 'Big Bertha' });

    expect(within(card).getByText('Cone 6')).toBeInTheDocument();
  });
});
