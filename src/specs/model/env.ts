import type { Block, Binding } from './blocks.js';
import type { Value } from './values.js';

/** One declared name with what it holds now. */
export interface Slot {
  value: Value;
  /** The binding in the model, for names declared outside specs and hooks. */
  binding?: Binding;
  /** Computes the value on first use: declarations of modules are read when asked for. */
  lazy?: () => Value;
}

/** Names in scope, inner first. */
export class Env {
  readonly slots = new Map<string, Slot>();
  /** Names that differ with each call or turn: parameters, and what a loop declares. */
  turns: readonly string[] = [];

  constructor(
    readonly parent: Env | undefined,
    /** The block that is running where the names were made. */
    readonly block: Block,
    /** The binding whose first value made this scope: what its closures change belongs to it. */
    readonly madeFor?: Binding,
  ) {}

  find(name: string): Slot | undefined {
    return this.slots.get(name) ?? this.parent?.find(name);
  }

  /** The scope that declares a name. */
  owner(name: string): Env | undefined {
    return this.slots.has(name) ? this : this.parent?.owner(name);
  }
}
