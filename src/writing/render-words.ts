import type { Node } from 'oxc-parser';
import type { Edit } from '../finding.js';
import { parseScript } from '../syntax/script.js';
import { decodeSource, isProblem } from '../syntax/source.js';
import { childrenOf, isFunction, type FunctionNode } from '../syntax/tree.js';
import { applied } from './edits/edit.js';

/** A framework whose testing library renders a component by its name, and not by markup. */
export type NamedRenders = 'vue' | 'angular';

/** Code whose renders are written as markup, `render(<Lid open />)`, in the words of another framework's library. */
export function rendersIn(framework: NamedRenders, code: string): string {
  // Dots stand for steps that are left out.
  const source = decodeSource(FILE, Buffer.from(code.replaceAll('…', ';')));
  const script = isProblem(source) ? source : parseScript(source);
  return 'reason' in script ? code : applied(code, editsIn(script.program, undefined, framework, code));
}

const FILE = 'example.tsx';

function editsIn(
  node: Node,
  inside: FunctionNode | undefined,
  framework: NamedRenders,
  code: string,
): Edit[] {
  const [shown] = node.type === 'CallExpression' ? node.arguments : [];
  const isRender =
    node.type === 'CallExpression' && node.callee.type === 'Identifier' && node.callee.name === 'render';
  if (isRender && shown?.type === 'JSXElement') {
    const text = renderOf(framework, shown, code);
    if (text === undefined) return [];
    const render = { file: FILE, start: node.start, end: shown.end, text };
    if (framework !== 'angular') return [render];
    const waits = { file: FILE, start: node.start, end: node.start, text: 'await ' };
    return inside && !inside.async
      ? [{ file: FILE, start: inside.start, end: inside.start, text: 'async ' }, waits, render]
      : [waits, render];
  }
  const around = isFunction(node) ? node : inside;
  return childrenOf(node).flatMap((child) => editsIn(child, around, framework, code));
}

function renderOf(
  framework: NamedRenders,
  { openingElement, children }: Extract<Node, { type: 'JSXElement' }>,
  code: string,
): string | undefined {
  const { name, attributes } = openingElement;
  if (name.type !== 'JSXIdentifier' || children.length > 0) return undefined;
  const props: string[] = [];
  const outputs: string[] = [];
  for (const each of attributes) {
    if (each.type !== 'JSXAttribute' || each.name.type !== 'JSXIdentifier') return undefined;
    const { value } = each;
    const given =
      value === null
        ? 'true'
        : value.type === 'JSXExpressionContainer'
          ? code.slice(value.expression.start, value.expression.end)
          : code.slice(value.start, value.end).replaceAll('"', "'");
    const isOutput = framework === 'angular' && /^on[A-Z]/.test(each.name.name);
    const key = isOutput
      ? each.name.name.slice(2).replace(/^./, (first) => first.toLowerCase())
      : each.name.name;
    (isOutput ? outputs : props).push(key === given ? key : `${key}: ${given}`);
  }
  const options = [
    ...(props.length > 0 ? [`${framework === 'vue' ? 'props' : 'inputs'}: { ${props.join(', ')} }`] : []),
    ...(outputs.length > 0 ? [`on: { ${outputs.join(', ')} }`] : []),
  ];
  return `render(${name.name}${options.length > 0 ? `, { ${options.join(', ')} }` : ''}`;
}
