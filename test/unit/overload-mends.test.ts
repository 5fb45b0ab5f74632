import { expect } from 'chai';
import { planMends } from '#src/index.js';
import { auditFolder } from '../support/audits.js';
import { written } from '../support/samples.js';

const MANIFEST = JSON.stringify({
  name: 's',
  scripts: { test: 'vitest' },
  devDependencies: { vitest: '^3', '@testing-library/jest-dom': '^6' },
});
const HEAD = `import { describe, it, expect, vi } from 'vitest';
import { render, screen, fireEvent } from '@testing-library/react';
import { Kiln } from './kiln';
`;
const KILN = `import { useState } from 'react';
export const Kiln = ({ onFire }) => {
  const [open, setOpen] = useState(false);
  return <div><button onClick={() => setOpen(!open)}>Lid</button><button disabled={open} onClick={onFire}>Fire</button><button>Vent</button>{open && <p role="status">open</p>}</div>;
};
`;

/** The spec file after the mends of one check, without its imports. */
async function mended(code: string, body: string): Promise<string> {
  const file = `${HEAD}${body}`;
  const files = { 'package.json': MANIFEST, 'kiln.jsx': KILN, 'kiln.spec.jsx': file };
  const { findings } = await auditFolder(written(files), [code]);
  const mends = findings.flatMap(({ mend }) => (mend ? [{ code, ...mend }] : []));
  const { texts } = planMends(mends, () => file);
  return texts.get('kiln.spec.jsx')?.after.slice(HEAD.length) ?? '';
}

describe('mends of overloaded specs', () => {
  it('make a spec of each round, with the acts that it needs and a helper for what they share', async () => {
    const after = await mended(
      'O01',
      `it('reacts', () => {
  const onFire = vi.fn();
  render(<Kiln onFire={onFire} />);
  fireEvent.click(screen.getByRole('button', { name: 'Lid' }));
  expect(screen.getByRole('button', { name: 'Fire' })).toBeDisabled();
  fireEvent.click(screen.getByRole('button', { name: 'Lid' })); // and back
  expect(screen.getByRole('button', { name: 'Fire' })).toBeEnabled();
  fireEvent.click(screen.getByRole('button', { name: 'Fire' }));
  expect(onFire).toHaveBeenCalledTimes(1);
  fireEvent.click(screen.getByRole('button', { name: 'Vent' }));
  expect(screen.queryByRole('status')).not.toBeInTheDocument();
});
`,
    );
    expect(after).to.equal(`describe('reacts', () => {
  function arrange() {
    const onFire = vi.fn();
    render(<Kiln onFire={onFire} />);
    return onFire;
  }

  it('disables the Fire button when the Lid button is clicked', () => {
    arrange();
    fireEvent.click(screen.getByRole('button', { name: 'Lid' }));
    expect(screen.getByRole('button', { name: 'Fire' })).toBeDisabled();
  });

  it('leaves the Fire button enabled when the Lid button is clicked', () => {
    arrange();
    fireEvent.click(screen.getByRole('button', { name: 'Lid' }));
    fireEvent.click(screen.getByRole('button', { name: 'Lid' })); // and back
    expect(screen.getByRole('button', { name: 'Fire' })).toBeEnabled();
  });

  it('calls onFire when the Fire button is clicked', () => {
    const onFire = arrange();
    fireEvent.click(screen.getByRole('button', { name: 'Lid' }));
    fireEvent.click(screen.getByRole('button', { name: 'Lid' })); // and back
    fireEvent.click(screen.getByRole('button', { name: 'Fire' }));
    expect(onFire).toHaveBeenCalledTimes(1);
  });

  it('does not show the status when the Vent button is clicked', () => {
    arrange();
    fireEvent.click(screen.getByRole('button', { name: 'Lid' }));
    fireEvent.click(screen.getByRole('button', { name: 'Lid' })); // and back
    fireEvent.click(screen.getByRole('button', { name: 'Fire' }));
    fireEvent.click(screen.getByRole('button', { name: 'Vent' }));
    expect(screen.queryByRole('status')).not.toBeInTheDocument();
  });
});
`);
  });

  it('make a table of specs, each title a row', async () => {
    const spec = (name: string): string =>
      `it('has ${name}', () => {\n  render(<Kiln label="${name}" />);\n  expect(screen.getByRole('button', { name: '${name}' })).toBeVisible();\n});\n`;
    expect(await mended('O09', ['Lid', 'Fire', 'Vent'].map(spec).join('\n'))).to.equal(`it.each([
  ['has Lid', 'Lid'],
  ['has Fire', 'Fire'],
  ['has Vent', 'Vent'],
])('%s', (_title, label) => {
  render(<Kiln label={label} />);
  expect(screen.getByRole('button', { name: label })).toBeVisible();
});
`);
  });

  it('say what a spec without an assertion could assert', async () => {
    const files = {
      'package.json': MANIFEST,
      'kiln.jsx': KILN,
      'kiln.spec.jsx': `${HEAD}it('opens', () => { render(<Kiln />); fireEvent.click(document.body); });\n`,
    };
    const [finding] = (await auditFolder(written(files), ['O04'])).findings;
    expect(finding?.suggestion).to.equal("expect(screen.getByRole('status')).toBeInTheDocument()");
  });
});
