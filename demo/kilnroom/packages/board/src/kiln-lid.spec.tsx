import { render, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { KilnLid } from './kiln-lid';

describe('KilnLid', () => {
  it.each([20, 59])('is safe to open at %s degrees', (temp) => {
    render(<KilnLid temp={temp} />);

    expect(screen.getByRole('status')).toHaveTextContent('Safe to open');
  });

  it('is too hot from 600 degrees on', () => {
    render(<KilnLid temp={600} />);

    expect(screen.getByRole('alert')).toBeInTheDocument();
  });
});
