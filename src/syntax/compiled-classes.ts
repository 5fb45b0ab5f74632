import type { Node } from 'oxc-parser';
import {
  calledName,
  isFunction,
  literalText,
  memberName,
  pathOf,
  propertyName,
  unwrapped,
  type ClassNode,
} from './tree.js';

type CallNode = Extract<Node, { type: 'CallExpression' }>;
type Member = ClassNode['body']['body'][number];

/**
 * The class that a compiler has made a function of, as it was: `function (_Base) { _inheritsLoose(Lid, _Base); … return Lid; }(Base)`
 * (Babel 6 to 8, loose or not; TypeScript for ES5). Its methods and static members alone, at their places; undefined of all else.
 */
export function compiledClass(node: Node): ClassNode | undefined {
  if (node.type !== 'CallExpression') return undefined;
  const maker = unwrapped(node.callee);
  const body = isFunction(maker) && maker.body?.type === 'BlockStatement' ? maker.body.body : [];
  const calls = body.flatMap((each) =>
    each.type === 'ExpressionStatement' ? [unwrapped(each.expression)] : [],
  );
  const name = calls.flatMap((each) => inheriting(each) ?? []).at(0);
  const [base] = node.arguments;
  if (name === undefined || !base || base.type === 'SpreadElement') return undefined;
  const made = [
    ...calls,
    ...body.flatMap((each) =>
      each.type === 'ReturnStatement' && each.argument ? [unwrapped(each.argument)] : [],
    ),
  ];
  const prototype = new Set([
    `${name}.prototype`,
    ...body.flatMap((each) => aliasesOf(each, `${name}.prototype`)),
  ]);
  const members = made.flatMap((each) => membersOf(each, name, prototype));
  const { start, end } = node;
  const span = { start, end };
  const id = { type: 'Identifier', name, ...span };
  const whole = {
    type: 'ClassExpression',
    id,
    superClass: base,
    body: { type: 'ClassBody', body: members, ...span },
    decorators: [],
    ...span,
  };
  return whole as unknown as ClassNode;
}

// `_inheritsLoose(Lid, _Base)`, `__extends(Lid, _super)`
function inheriting(node: Node): string | undefined {
  if (node.type !== 'CallExpression' || !/^_*(?:inherits(?:Loose)?|extends)\d*$/.test(calledName(node) ?? ''))
    return undefined;
  const [first] = node.arguments;
  return first?.type === 'Identifier' ? first.name : undefined;
}

// `var _proto = Lid.prototype`
const aliasesOf = (statement: Node, path: string): string[] =>
  statement.type === 'VariableDeclaration'
    ? statement.declarations.flatMap(({ id, init }) =>
        id.type === 'Identifier' && init && pathOf(unwrapped(init)) === path ? [id.name] : [],
      )
    : [];

function membersOf(node: Node, name: string, prototype: ReadonlySet<string>): Member[] {
  if (node.type === 'AssignmentExpression' && node.left.type === 'MemberExpression') {
    const of = pathOf(node.left.object);
    const key = memberName(node.left);
    if (key === undefined || of === undefined) return [];
    if (of === name) return [member(key, node.right, true)];
    return prototype.has(of) ? [member(key, node.right, false)] : [];
  }
  return node.type === 'CallExpression' ? ofHelper(node, name) : [];
}

// `_createClass(Lid, [{ key: 'render', value: function () {…} }])`, `_defineProperty(Lid, 'defaultProps', {…})`
function ofHelper({ callee, arguments: given }: CallNode, name: string): Member[] {
  const helper = callee.type === 'Identifier' ? callee.name : '';
  const [target, second, third] = given;
  if (!target || pathOf(target) !== name) return [];
  if (/^_*defineProperty\d*$/.test(helper)) {
    const key = second && literalText(second);
    return key !== undefined && third ? [member(key, third, true)] : [];
  }
  if (!/^_*createClass\d*$/.test(helper)) return [];
  return [second, third].flatMap((list, i) =>
    list?.type === 'ArrayExpression'
      ? list.elements.flatMap((each) => (each ? described(each, i === 1) : []))
      : [],
  );
}

function described(each: Node, isStatic: boolean): Member[] {
  if (each.type !== 'ObjectExpression') return [];
  const part = (wanted: string): Node | undefined =>
    each.properties
      .flatMap((property) =>
        property.type === 'Property' && propertyName(property.key, property.computed) === wanted
          ? [property.value]
          : [],
      )
      .at(0);
  const [key, value] = [part('key'), part('value')];
  const text = key && literalText(key);
  return text !== undefined && value ? [member(text, value, isStatic)] : [];
}

function member(name: string, value: Node, isStatic: boolean): Member {
  const { start, end } = value;
  const key = { type: 'Identifier', name, start, end };
  const type = isFunction(value) ? 'MethodDefinition' : 'PropertyDefinition';
  return {
    type,
    key,
    value,
    kind: 'method',
    computed: false,
    static: isStatic,
    decorators: [],
    start,
    end,
  } as unknown as Member;
}
