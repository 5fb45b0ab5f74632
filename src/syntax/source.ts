import { LineIndex } from '../util/line-index.js';

/** Why a file, or a part of it, could not be read. `line` counts from 1. */
export interface Problem {
  file: string;
  reason: string;
  line?: number;
}

/** The text of one file, without its byte order mark. Offsets into `text` are UTF-16 units from 0. */
export interface Source {
  path: string;
  text: string;
  encoding: 'utf-8' | 'utf-16le' | 'utf-16be';
  bom: boolean;
  lines: LineIndex;
}

const MIB = 1024 * 1024;
const LARGEST_FILE = 4 * MIB;
/** Coverage of a large project is one file. */
export const LARGEST_COVERAGE = 128 * MIB;

/** Decodes a file's bytes (UTF-8, or UTF-16 with a byte order mark); a Problem for binary, invalid or huge content. */
export function decodeSource(path: string, bytes: Uint8Array, largest = LARGEST_FILE): Source | Problem {
  if (bytes.length > largest) return { file: path, reason: `larger than ${largest / MIB} MiB, left out` };
  const { encoding, bom } = sniff(bytes);
  if (encoding === 'utf-8' && bytes.includes(0)) {
    return { file: path, reason: 'binary content (a NUL byte)', line: lineOf(bytes, bytes.indexOf(0)) };
  }
  try {
    const text = new TextDecoder(encoding, { fatal: true }).decode(bytes);
    return { path, text, encoding, bom, lines: new LineIndex(text) };
  } catch {
    return { file: path, reason: `not valid ${encoding.toUpperCase()}` };
  }
}

/** The bytes of a text in the encoding, and with the byte order mark, that the source was read with. */
export function encodeSource(source: Source, text: string): Uint8Array {
  const marked = source.bom ? '\ufeff' + text : text;
  if (source.encoding === 'utf-8') return Buffer.from(marked, 'utf8');
  const bytes = Buffer.from(marked, 'utf16le');
  return source.encoding === 'utf-16le' ? bytes : bytes.swap16();
}

export const isProblem = (value: Source | Problem): value is Problem => 'reason' in value;

function sniff(bytes: Uint8Array): Pick<Source, 'encoding' | 'bom'> {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return { encoding: 'utf-16le', bom: true };
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return { encoding: 'utf-16be', bom: true };
  return { encoding: 'utf-8', bom: bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf };
}

function lineOf(bytes: Uint8Array, offset: number): number {
  let line = 1;
  for (let i = 0; i < offset; i++) if (bytes[i] === 10) line++;
  return line;
}
