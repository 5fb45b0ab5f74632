import { commentedCalls } from '../../syntax/commented-code.js';
import { namesOnTheWay, unwrapped } from '../../syntax/tree.js';
import type { ModuleTree } from '../../project/project.js';
import type { Libraries } from '../../libraries/index.js';
import type { CommentedOut } from '../model/blocks.js';

/** The assertions, groups and specs that stand in the comments of a spec file. */
export const commentedOut = ({ script, facts }: ModuleTree, libraries: Libraries): CommentedOut[] =>
  commentedCalls(script).flatMap(({ statement, start, end }): CommentedOut[] => {
    if (statement.type !== 'ExpressionStatement') return [];
    const call = unwrapped(statement.expression);
    const [name, ...way] = namesOnTheWay(call);
    if (name === undefined) return [];
    const meaning = libraries.meaningIn(facts.imports, name);
    switch (meaning?.kind) {
      case 'asserts':
        return [{ what: 'assertion', start, end }];
      case 'expect':
        return way.length > 0 ? [{ what: 'assertion', start, end }] : [];
      case 'group':
      case 'spec':
        return call.type === 'CallExpression' && call.arguments.length > 1
          ? [{ what: meaning.kind, start, end }]
          : [];
      default:
        return [];
    }
  });
