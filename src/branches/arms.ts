import type { Node, Program } from 'oxc-parser';
import type { Place } from '../parse/place.js';
import { childrenOf, unwrapped } from '../parse/tree.js';

/** One outcome of a branch. Places are UTF-16 offsets. */
export interface Arm {
  /** `then`, `else`, `left`, `right`, `default`, `case 'x'`, or a number from 1 for a part of a longer chain. */
  arm: string;
  /** Where the code of the arm stands; for a missing `else`, the branch itself. */
  place: Place;
  /** Its own condition as written; `not (…)` for an else. */
  condition: string;
}

/** A place where the run divides. */
export interface Branch {
  kind: 'if' | 'conditional' | 'logical' | 'switch' | 'default';
  place: Place;
  /** The condition, or the value that is switched on, as written. */
  condition: string;
  /** The conditions it stands under, outer first, as written. */
  under: readonly string[];
  arms: readonly Arm[];
}

/** Every branch of a script, in the order of the source. */
export function branchesOf(program: Program, file: string, text: string): Branch[] {
  const inventory = new Inventory(file, text);
  inventory.read(program as Node, []);
  return inventory.branches.sort((a, b) => a.place.start - b.place.start);
}

type IfNode = Extract<Node, { type: 'IfStatement' }>;
type LogicalNode = Extract<Node, { type: 'LogicalExpression' }>;

class Inventory {
  readonly branches: Branch[] = [];

  constructor(
    readonly file: string,
    readonly text: string,
  ) {}

  read(node: Node, under: readonly string[]): void {
    switch (node.type) {
      case 'IfStatement':
        return this.#if(node, under);
      case 'ConditionalExpression':
        return this.#conditional(node, under);
      case 'LogicalExpression':
        return this.#logical(node, under);
      case 'SwitchStatement':
        return this.#switch(node, under);
      case 'AssignmentPattern':
        this.#add('default', node, this.#source(node.left), under, [
          {
            arm: 'default',
            place: this.#place(node.right),
            condition: `${this.#source(node.left)} is not given`,
          },
        ]);
        return this.#all(node, under);
      case 'BlockStatement':
      case 'Program':
        return this.#statements(node.body as readonly Node[], under);
      default:
        return this.#all(node, under);
    }
  }

  #all(node: Node, under: readonly string[]): void {
    for (const child of childrenOf(node)) this.read(child, under);
  }

  // What follows an `if` that always leaves stands under its negation.
  #statements(statements: readonly Node[], under: readonly string[]): void {
    let conditions = under;
    for (const statement of statements) {
      this.read(statement, conditions);
      if (statement.type === 'IfStatement' && leaves(statement.consequent) && !statement.alternate) {
        conditions = [...conditions, not(this.#source(statement.test))];
      }
    }
  }

  #if(node: IfNode, under: readonly string[]): void {
    const test = this.#source(node.test);
    this.#add('if', node, test, under, [
      { arm: 'then', place: this.#place(node.consequent), condition: test },
      { arm: 'else', place: this.#place(node.alternate ?? node), condition: not(test) },
    ]);
    this.read(node.test, under);
    this.read(node.consequent, [...under, test]);
    if (node.alternate) this.read(node.alternate, [...under, not(test)]);
  }

  #conditional(node: Extract<Node, { type: 'ConditionalExpression' }>, under: readonly string[]): void {
    const test = this.#source(node.test);
    this.#add('conditional', node, test, under, [
      { arm: 'then', place: this.#place(node.consequent), condition: test },
      { arm: 'else', place: this.#place(node.alternate), condition: not(test) },
    ]);
    this.read(node.test, under);
    this.read(node.consequent, [...under, test]);
    this.read(node.alternate, [...under, not(test)]);
  }

  // A chain of `&&`, `||` and `??` is one branch with a part for each operand.
  #logical(node: LogicalNode, under: readonly string[]): void {
    const parts = this.#parts(node, []);
    const two = parts.length === 2;
    const arms = parts.map((part, i) => ({
      arm: two ? (i === 0 ? 'left' : 'right') : String(i + 1),
      place: this.#place(part.node),
      condition: part.under.length ? part.under.join(' and ') : 'always',
    }));
    this.#add('logical', node, this.#source(node), under, arms);
    for (const part of parts) this.read(part.node, [...under, ...part.under]);
  }

  #parts(node: Node, under: readonly string[]): { node: Node; under: readonly string[] }[] {
    const inner = unwrapped(node);
    if (inner.type !== 'LogicalExpression') return [{ node: inner, under }];
    const left = this.#source(inner.left);
    const passed =
      inner.operator === '&&' ? left : inner.operator === '||' ? not(left) : `${left} is null or undefined`;
    return [...this.#parts(inner.left, under), ...this.#parts(inner.right, [...under, passed])];
  }

  #switch(node: Extract<Node, { type: 'SwitchStatement' }>, under: readonly string[]): void {
    const subject = this.#source(node.discriminant);
    const arms = node.cases.map((each) => ({
      arm: each.test ? `case ${this.#source(each.test)}` : 'default',
      place: this.#place(each),
      condition: each.test ? `${subject} is ${this.#source(each.test)}` : `${subject} is none of the cases`,
    }));
    this.#add('switch', node, subject, under, arms);
    this.read(node.discriminant, under);
    node.cases.forEach((each, i) =>
      this.#statements(each.consequent as readonly Node[], [...under, arms[i]?.condition ?? subject]),
    );
  }

  #add(
    kind: Branch['kind'],
    node: Node,
    condition: string,
    under: readonly string[],
    arms: readonly Arm[],
  ): void {
    this.branches.push({ kind, place: this.#place(node), condition, under, arms });
  }

  #place(node: Node): Place {
    return { file: this.file, start: node.start, end: node.end };
  }

  #source(node: Node): string {
    return this.text.slice(node.start, node.end).replace(/\s+/g, ' ');
  }
}

const not = (condition: string): string => `not (${condition})`;

function leaves(node: Node): boolean {
  if (node.type === 'ReturnStatement' || node.type === 'ThrowStatement') return true;
  return node.type === 'BlockStatement' && node.body.some(leaves);
}
