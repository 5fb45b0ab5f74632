import type { Node, Program } from 'oxc-parser';
import { isFunction, propertyName } from '../syntax/tree.js';
import { ANYTHING, BOOLEAN, kindOnly, orUndefined, unionOf, type Domain, type ValueKind } from './domain.js';
import { enumValues } from '../language/enums.js';
import type { Constant } from '../language/operations.js';

type TypeNode = Node;

/** The types that a script declares by name: members of interfaces and of object types, what aliases stand for, enums. */
export type DeclaredTypes = ReadonlyMap<string, TypeNode>;

/** Collects the interfaces, type aliases and enums at the top level of a script. */
export function declaredTypes(...statements: Program['body']): DeclaredTypes {
  const types = new Map<string, TypeNode>();
  for (const statement of statements) {
    const node = 'declaration' in statement && statement.declaration ? statement.declaration : statement;
    if (node.type === 'TSInterfaceDeclaration') types.set(node.id.name, node);
    else if (node.type === 'TSTypeAliasDeclaration') types.set(node.id.name, node.typeAnnotation);
    else if (node.type === 'TSEnumDeclaration') types.set(node.id.name, node);
  }
  return types;
}

/**
 * The declared types of a component's props. `declarator`: where the component is declared, whose annotation
 * (`FC<Props>`) or call (`forwardRef<Ref, Props>`) may name the type of the props.
 */
export function propDomains(fn: Node, declarator: Node, types: DeclaredTypes): ReadonlyMap<string, Domain> {
  const type = propsType(fn, declarator);
  return type ? membersOf(type, types) : new Map();
}

/** Whether all that a component may be given is in sight: its props have no declared type, or one whose members can all be read. */
export function isWholePropsType(fn: Node, declarator: Node, types: DeclaredTypes): boolean {
  const type = propsType(fn, declarator);
  return !type || isWholeType(type, types);
}

/** Whether all members of an object type can be read. */
export function isWholeType(type: TypeNode, types: DeclaredTypes, depth = 0): boolean {
  const named = (name: Node): boolean => {
    const found = name.type === 'Identifier' ? types.get(name.name) : undefined;
    return found !== undefined && isWholeType(found, types, depth + 1);
  };
  if (depth > DEEPEST) return false;
  switch (type.type) {
    case 'TSTypeLiteral':
      return type.members.every((each) => each.type !== 'TSIndexSignature');
    case 'TSInterfaceDeclaration':
      return type.extends.every(({ expression }) => named(expression));
    case 'TSIntersectionType':
      return type.types.every((each) => isWholeType(each, types, depth + 1));
    case 'TSTypeReference':
      return !type.typeArguments && named(type.typeName);
    default:
      return false;
  }
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

/** The members that an object type declares, each with what it may be. */
export function membersOf(type: TypeNode, types: DeclaredTypes, depth = 0): Map<string, Domain> {
  if (depth > DEEPEST) return new Map();
  const inner = (each: TypeNode): Map<string, Domain> => membersOf(each, types, depth + 1);
  switch (type.type) {
    case 'TSIntersectionType':
      return new Map(type.types.flatMap((each) => [...inner(each)]));
    case 'TSInterfaceDeclaration': {
      const outer = type.extends.flatMap(({ expression }) => {
        const base = expression.type === 'Identifier' ? types.get(expression.name) : undefined;
        return base ? [...inner(base)] : [];
      });
      return new Map([...outer, ...signatures(type.body.body, types, depth)]);
    }
    case 'TSTypeLiteral':
      return signatures(type.members, types, depth);
    case 'TSTypeReference': {
      const named = type.typeName.type === 'Identifier' ? types.get(type.typeName.name) : undefined;
      return named ? inner(named) : new Map();
    }
    default:
      return new Map();
  }
}

function signatures(members: readonly Node[], types: DeclaredTypes, depth: number): Map<string, Domain> {
  const found = new Map<string, Domain>();
  for (const member of members) {
    const isMethod = member.type === 'TSMethodSignature';
    if (!isMethod && member.type !== 'TSPropertySignature') continue;
    const name = propertyName(member.key, member.computed);
    if (name === undefined) continue;
    const type = isMethod ? undefined : member.typeAnnotation?.typeAnnotation;
    const domain = isMethod ? kindOnly('function') : type ? domainOf(type, types, depth + 1) : ANYTHING;
    found.set(name, member.optional ? orUndefined(domain) : domain);
  }
  return found;
}

const KEYWORDS: Partial<Record<TypeNode['type'], Domain>> = {
  TSStringKeyword: kindOnly('string'),
  TSNumberKeyword: kindOnly('number'),
  TSBooleanKeyword: BOOLEAN,
  TSBigIntKeyword: kindOnly('bigint'),
  TSUndefinedKeyword: kindOnly('undefined'),
  TSNullKeyword: kindOnly('null'),
  TSTemplateLiteralType: kindOnly('string'),
  TSFunctionType: kindOnly('function'),
  TSObjectKeyword: kindOnly('object'),
};

/** What a value of a type may be; of types that are declared elsewhere, anything. */
export function domainOf(type: TypeNode, types: DeclaredTypes, depth = 0): Domain {
  if (depth > DEEPEST) return ANYTHING;
  const inner = (each: TypeNode): Domain => domainOf(each, types, depth + 1);
  const keyword = KEYWORDS[type.type];
  if (keyword) return keyword;
  switch (type.type) {
    case 'TSLiteralType':
      return literalDomain(type.literal);
    case 'TSUnionType':
      return unionOf(type.types.map(inner));
    case 'TSParenthesizedType':
      return inner(type.typeAnnotation);
    case 'TSTypeOperator':
      return type.operator === 'readonly' ? inner(type.typeAnnotation) : ANYTHING;
    case 'TSArrayType':
      return { ...kindOnly('list'), items: inner(type.elementType) };
    case 'TSTypeLiteral':
    case 'TSInterfaceDeclaration':
      return { ...kindOnly('object'), members: membersOf(type, types, depth) };
    case 'TSEnumDeclaration':
      return enumDomain(type);
    case 'TSTypeReference':
      return referred(type, types, depth);
    default:
      return ANYTHING;
  }
}

function literalDomain(literal: Node): Domain {
  if (literal.type === 'UnaryExpression' && literal.argument.type === 'Literal')
    return { values: [-Number(literal.argument.value)], kinds: [] };
  const isPlain = literal.type === 'Literal' && !('regex' in literal) && typeof literal.value !== 'bigint';
  if (isPlain) return { values: [literal.value as Constant], kinds: [] };
  return kindOnly(literal.type === 'TemplateLiteral' ? 'string' : 'bigint');
}

function enumDomain(type: Extract<Node, { type: 'TSEnumDeclaration' }>): Domain {
  const values = [...enumValues(type).values()];
  return values.every((one) => one !== undefined) ? { values, kinds: [] } : kindOnly('number', 'string');
}

// What React shows: a text, before anything else.
const MARKUP = new Set(['ReactNode', 'ReactElement', 'ReactChild', 'Element']);
const ANY_MARKUP = kindOnly('string', 'number', 'object', 'list', 'null', 'undefined');
const LISTS = new Set(['Array', 'ReadonlyArray']);

function referred(
  type: Extract<Node, { type: 'TSTypeReference' }>,
  types: DeclaredTypes,
  depth: number,
): Domain {
  const { typeName } = type;
  const name =
    typeName.type === 'Identifier'
      ? typeName.name
      : typeName.type === 'TSQualifiedName'
        ? typeName.right.name
        : '';
  if (MARKUP.has(name)) return ANY_MARKUP;
  const [first] = type.typeArguments?.params ?? [];
  if (LISTS.has(name)) return { ...kindOnly('list'), items: first && domainOf(first, types, depth + 1) };
  const named = types.get(name);
  return named && !type.typeArguments ? domainOf(named, types, depth + 1) : ANYTHING;
}

const CONSTRUCTORS: Readonly<Record<string, Domain>> = {
  String: kindOnly('string'),
  Number: kindOnly('number'),
  Boolean: BOOLEAN,
  Array: kindOnly('list'),
  Object: kindOnly('object'),
  Function: kindOnly('function'),
};

/** What a value made by one of the language's constructors may be: `Number` in the options of a prop. */
export const constructedDomain = (name: string): Domain => CONSTRUCTORS[name] ?? ANYTHING;

/** What values like this one may be, for fields that only have a first value. */
export const domainLike = (value: Constant): Domain => {
  if (typeof value === 'boolean') return BOOLEAN;
  return value === null || value === undefined ? ANYTHING : kindOnly(typeof value as ValueKind);
};
