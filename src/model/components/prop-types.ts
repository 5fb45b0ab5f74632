import type { Node, Program } from 'oxc-parser';
import { isFunction, propertyName } from '../../parse/tree.js';

type TypeNode = Node;

/** The types that a script declares by name: members of interfaces and of object types, and what aliases stand for. */
export type DeclaredTypes = ReadonlyMap<string, TypeNode>;

/** Collects the interfaces and type aliases at the top level of a script. */
export function declaredTypes(program: Program): DeclaredTypes {
  const types = new Map<string, TypeNode>();
  for (const statement of program.body) {
    const node = 'declaration' in statement && statement.declaration ? statement.declaration : statement;
    if (node.type === 'TSInterfaceDeclaration') types.set(node.id.name, node.body);
    else if (node.type === 'TSTypeAliasDeclaration') types.set(node.id.name, node.typeAnnotation);
  }
  return types;
}

/**
 * The props of a component that are text, number or truth by their declared type. `declarator`: where the component is
 * declared, whose annotation (`FC<Props>`) or call (`forwardRef<Ref, Props>`) may name the type of the props.
 */
export function plainProps(fn: Node, declarator: Node, types: DeclaredTypes): ReadonlySet<string> {
  const plain = new Set<string>();
  const type = propsType(fn, declarator);
  if (type) collect(type, types, plain, 0);
  return plain;
}

function propsType(fn: Node, declarator: Node): TypeNode | undefined {
  const [param] = isFunction(fn) ? fn.params : [];
  const own = param && 'typeAnnotation' in param ? param.typeAnnotation?.typeAnnotation : undefined;
  if (own || declarator.type !== 'VariableDeclarator') return own;
  const annotation =
    'typeAnnotation' in declarator.id ? declarator.id.typeAnnotation?.typeAnnotation : undefined;
  if (annotation?.type === 'TSTypeReference') return annotation.typeArguments?.params.at(-1);
  return declarator.init?.type === 'CallExpression'
    ? declarator.init.typeArguments?.params.at(-1)
    : undefined;
}

const DEEPEST = 4;

function collect(type: TypeNode, types: DeclaredTypes, plain: Set<string>, depth: number): void {
  if (depth > DEEPEST) return;
  if (type.type === 'TSIntersectionType')
    for (const each of type.types) collect(each, types, plain, depth + 1);
  if (type.type === 'TSTypeReference' && type.typeName.type === 'Identifier') {
    const named = types.get(type.typeName.name);
    if (named) collect(named, types, plain, depth + 1);
  }
  const members =
    type.type === 'TSTypeLiteral' ? type.members : type.type === 'TSInterfaceBody' ? type.body : [];
  for (const member of members) {
    if (member.type !== 'TSPropertySignature' || !member.typeAnnotation) continue;
    const name = propertyName(member.key, member.computed);
    if (name !== undefined && isPlain(member.typeAnnotation.typeAnnotation, types, depth)) plain.add(name);
  }
}

function isPlain(type: TypeNode, types: DeclaredTypes, depth: number): boolean {
  switch (type.type) {
    case 'TSStringKeyword':
    case 'TSNumberKeyword':
    case 'TSBooleanKeyword':
    case 'TSBigIntKeyword':
    case 'TSUndefinedKeyword':
    case 'TSNullKeyword':
    case 'TSLiteralType':
    case 'TSTemplateLiteralType':
      return true;
    case 'TSUnionType':
      return type.types.every((each) => isPlain(each, types, depth));
    case 'TSTypeReference': {
      const named = type.typeName.type === 'Identifier' ? types.get(type.typeName.name) : undefined;
      return named !== undefined && depth < DEEPEST && isPlain(named, types, depth + 1);
    }
    default:
      return false;
  }
}
