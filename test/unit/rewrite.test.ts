import { expect } from 'chai';
import { readFileSync } from 'node:fs';
import { planMends, type CodedMend } from '#src/index.js';
import { auditFolder } from '../support/audits.js';
import { written } from '../support/samples.js';

const CARD =
  'export const Card = ({ hot }) => <div><h2 data-testid="head">Kiln</h2><button className="fire">Fire</button><section className="shelf"><button className="lift">Lift</button><p className="note">Low</p></section><section><button>Lift</button><p>Low</p></section><label>Cone <input className="cone" /></label>{hot && <p className="hot">Too hot</p>}</div>;';

/** The lines of a spec file that its query mends change, as they are after them. */
async function mended(spec: string): Promise<string[]> {
  const folder = written({ 'card.tsx': CARD, 'card.spec.tsx': spec, 'package.json': '{"name":"a"}' });
  const report = await auditFolder(folder, ['Q01', 'Q02', 'Q03', 'Q04', 'Q06', 'Q08']);
  const mends = report.findings.flatMap(({ code, mend }): CodedMend[] => (mend ? [{ code, ...mend }] : []));
  const plan = planMends(mends, (file) => readFileSync(`${folder}/${file}`, 'utf8'));
  const before = spec.split('\n');
  const after = plan.texts.get('card.spec.tsx')?.after ?? spec;
  return after
    .split('\n')
    .filter((line) => !before.includes(line))
    .map((line) => line.trim());
}

const IMPORT = "import { render, screen } from '@testing-library/react';\nimport { Card } from './card';\n";
const inSpec = (body: string, head = IMPORT): string => `${head}it('a', async () => {\n${body}\n});\n`;

describe('better queries as mends', () => {
  const rows: [string, string, string[]][] = [
    [
      'by screen, where that is imported',
      inSpec("const { container } = render(<Card />);\ncontainer.querySelector('.fire').click();"),
      ['render(<Card />);', "screen.getByRole('button', { name: 'Fire' }).click();"],
    ],
    [
      'screen is imported where it is not yet, in the quotes of the file',
      inSpec(
        'const { container } = render(<Card />);\ncontainer.querySelector(".fire").click();',
        'import { render } from "@testing-library/react";\nimport { Card } from "./card";\n',
      ),
      [
        'import { render, screen } from "@testing-library/react";',
        'render(<Card />);',
        'screen.getByRole("button", { name: "Fire" }).click();',
      ],
    ],
    [
      'taken from the render, where the file does so',
      inSpec(
        "const { container, getByText } = render(<Card />);\ncontainer.querySelector('.fire').click();\nexpect(getByText('Too hot')).toBeVisible();",
        "import { render } from '@testing-library/react';\nimport { Card } from './card';\n",
      ),
      [
        'const { getByText, getByRole } = render(<Card />);',
        "getByRole('button', { name: 'Fire' }).click();",
      ],
    ],
    [
      'type arguments stay, marks that it may find nothing go',
      inSpec(
        "const { container } = render(<Card />);\nexpect(container.querySelector<HTMLInputElement>('.cone')!.value).toBe('');",
      ),
      [
        'render(<Card />);',
        "expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Cone' }).value).toBe('');",
      ],
    ],
    [
      'absence asks with a query that gives nothing',
      inSpec(
        "const { container } = render(<Card hot={load()} />);\nexpect(container.querySelector('.hot')).toBeNull();",
      ),
      ['render(<Card hot={load()} />);', "expect(screen.queryByText('Too hot')).toBeNull();"],
    ],
    [
      'waiting stays waiting, on what it was asked of',
      inSpec("const view = render(<Card />);\nexpect(await view.findByTestId('head')).toBeVisible();"),
      ["expect(await view.findByRole('heading', { name: 'Kiln' })).toBeVisible();"],
    ],
    [
      'within what it is scoped to, where it is not alone on the page',
      inSpec(
        "const { container } = render(<Card />);\nconst shelf = container.querySelector('.shelf');\nexpect(shelf.querySelector('.lift')).toBeEnabled();",
      ),
      [
        "import { render, screen, within } from '@testing-library/react';",
        "expect(within(shelf).getByRole('button', { name: 'Lift' })).toBeEnabled();",
      ],
    ],
    [
      'a position, and a throwing query for what is gone',
      inSpec(
        "render(<Card />);\nscreen.getAllByRole('button')[0].click();\nexpect(screen.getByText('Cold')).not.toBeInTheDocument();",
      ),
      [
        "screen.getByRole('button', { name: 'Fire' }).click();",
        "expect(screen.queryByText('Cold')).not.toBeInTheDocument();",
      ],
    ],
    [
      'nothing is changed in a table, in a loop, or in a helper of another module',
      `${IMPORT}const fire = () => screen.getByTestId('head');\nit.each([1, 2])('a %i', () => { render(<Card />); expect(fire()).toBeVisible(); });\nit('b', () => { render(<Card />); expect(fire()).toBeVisible(); });\n`,
      [],
    ],
  ];
  for (const [title, spec, wanted] of rows)
    it(title, async () => expect(await mended(spec)).to.deep.equal(wanted));
});
