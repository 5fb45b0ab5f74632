import type { Node as YamlNode } from 'yaml';
import type { Problem, Source } from '../../syntax/source.js';
import { lazily } from '../../util/lazily.js';
import type { Setting } from './setting.js';

// Few projects have settings in YAML: the others need not wait for its parser.
const load = lazily<typeof import('yaml')>('yaml');

/** Reads YAML; a Problem with its line where it is broken. */
export function yamlSettings(source: Source): Setting | Problem {
  const document = load().parseDocument(source.text);
  const [error] = document.errors;
  if (error) {
    const line = source.lines.at(error.pos[0]).line;
    return { file: source.path, reason: `not valid YAML: ${error.message.split('\n')[0]}`, line };
  }
  return fromYaml(document.contents, source.path);
}

function fromYaml(node: YamlNode | null, file: string): Setting {
  const [start = 0, end = 0] = node?.range ?? [];
  const at = { file, start, end };
  const { isMap, isScalar, isSeq } = load();
  if (isMap(node)) {
    const entries = new Map(
      node.items.map((item) => [
        String(isScalar(item.key) ? item.key.value : item.key),
        fromYaml(item.value as YamlNode, file),
      ]),
    );
    return { is: 'object', entries, open: false, at };
  }
  if (isSeq(node))
    return { is: 'list', items: node.items.map((item) => fromYaml(item as YamlNode, file)), open: false, at };
  return isScalar(node) ? { is: 'value', value: node.value as string, at } : { is: 'unknown', at };
}
