import { parseVue } from '../../../syntax/vue.js';
import { LineIndex } from '../../../util/line-index.js';
import { moduleFacts } from '../../../syntax/module-facts.js';
import type { ComponentRef, ViewNode } from '../../view.js';
import type { Span } from '../../../finding.js';
import { vueComponent } from './vue.js';

const NO_PROGRAM = { type: 'Program', body: [], start: 0, end: 0 } as unknown as Parameters<
  typeof moduleFacts
>[0];

/** What a text of Vue markup shows, as a spec hands it to a slot: `registered` are known in it. All of it stands at one place. */
export function vueMarkup(
  text: string,
  place: Span,
  registered: ReadonlyMap<string, ComponentRef> = new Map(),
): ViewNode[] {
  const whole = `<template>${text}</template>`;
  const parsed = parseVue({
    path: 'slot.vue',
    text: whole,
    encoding: 'utf-8',
    bom: false,
    lines: new LineIndex(whole),
  });
  if ('reason' in parsed) return [{ kind: 'hole', why: 'the content of a slot', place }];
  return vueComponent(parsed, moduleFacts(NO_PROGRAM), undefined, registered).view.map((node) =>
    at(node, place),
  );
}

function at(node: ViewNode, place: Span): ViewNode {
  switch (node.kind) {
    case 'slot':
      return { ...node, place, fallback: node.fallback.map((each) => at(each, place)) };
    case 'component': {
      const slots = [...node.slots].map(
        ([name, view]) => [name, view.map((each) => at(each, place))] as const,
      );
      return { ...node, place, slots: new Map(slots) };
    }
    case 'text':
    case 'hole':
      return { ...node, place };
    default:
      return { ...node, place, children: node.children.map((child) => at(child, place)) };
  }
}
