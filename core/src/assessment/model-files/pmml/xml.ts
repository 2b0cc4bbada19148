import { SaxesParser } from 'saxes';
import { SieveError } from '../../../foundation/errors.js';
import { count } from '../../../foundation/numbers.js';

/** An element of an XML file without those of other vocabularies than PMML. */
export interface Element {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: Element[];
  text: string;
  /** From 1. */
  readonly line: number;
}

/** Limits of a file, beyond which it is refused before anything is made of it. */
const MOST_ELEMENTS = 2_000_000;
/** Elements within elements: a tree of models rarely reaches 60. */
const DEEPEST = 400;
/** Characters that the parser is given at a time. */
const PIECE = 65_536;

const NAMESPACE = /^http:\/\/www\.dmg\.org\/PMML-/;

/** An error with the line of the file in its sentence and its place. */
export const refused = (message: string, line: number) =>
  new SieveError('model-file', `Line ${line}: ${message}`, { line });

/**
 * The root element of an XML file. Document types, and with them entities of the file's own and external ones, are refused.
 *
 * @throws SieveError `model-file` with the line
 */
export function readXml(bytes: Uint8Array): Element {
  const parser = new SaxesParser({ xmlns: true, position: true });
  const root: Element = { name: '', attributes: {}, children: [], text: '', line: 1 };
  const open = [root];
  let elements = 0;
  /** Depth inside an element of another vocabulary, which is passed over. */
  let foreign = 0;
  parser.on('error', (error) => {
    throw refused(
      `The XML cannot be read: ${error.message.replace(/^[\d:]+\s*/, '').replace(/\.$/, '')}.`,
      parser.line,
    );
  });
  parser.on('doctype', () => {
    throw refused(
      'The file has a document type (DOCTYPE), which may define entities; remove it.',
      parser.line,
    );
  });
  parser.on('opentag', ({ local, uri, attributes }) => {
    if (++elements > MOST_ELEMENTS)
      throw refused(`The file has more than ${count(MOST_ELEMENTS)} elements.`, parser.line);
    if (open.length + foreign > DEEPEST)
      throw refused(`Elements are nested more than ${DEEPEST} deep.`, parser.line);
    if (foreign > 0 || local === 'Extension' || (uri !== '' && !NAMESPACE.test(uri))) {
      foreign++;
      return;
    }
    const own: Record<string, string> = {};
    for (const { local: name, prefix, value } of Object.values(attributes))
      if (prefix === '') own[name] = value;
    const element = { name: local, attributes: own, children: [], text: '', line: parser.line };
    open.at(-1)?.children.push(element);
    open.push(element);
  });
  parser.on('text', (text) => {
    const element = open.at(-1);
    if (foreign === 0 && element && text.trim() !== '') element.text += text;
  });
  parser.on('cdata', (text) => {
    const element = open.at(-1);
    if (foreign === 0 && element) element.text += text;
  });
  parser.on('closetag', () => {
    if (foreign > 0) foreign--;
    else open.pop();
  });
  const text = decoded(bytes);
  for (let i = 0; i < text.length; i += PIECE) parser.write(text.slice(i, i + PIECE));
  parser.close();
  const [first] = root.children;
  if (!first) throw refused('The file has no element of PMML.', 1);
  return first;
}

/** The text of a file in the encoding that it names, or UTF-8. */
function decoded(bytes: Uint8Array): string {
  const isWide = (bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff);
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 200));
  const named = /^[^<]*<\?xml[^>]*encoding\s*=\s*["']([\w.:-]+)["']/.exec(head)?.[1] ?? 'utf-8';
  try {
    return new TextDecoder(isWide ? (bytes[0] === 0xff ? 'utf-16le' : 'utf-16be') : named, {
      fatal: true,
    }).decode(bytes);
  } catch {
    throw refused(`The file is not text in the encoding ${named}.`, 1);
  }
}

export const childrenOf = (element: Element, name: string): Element[] =>
  element.children.filter((child) => child.name === name);

export const childOf = (element: Element, name: string): Element | null =>
  element.children.find((child) => child.name === name) ?? null;

/** @throws SieveError `model-file` where there is no such child */
export function neededChild(element: Element, name: string): Element {
  const child = childOf(element, name);
  if (!child) throw refused(`<${element.name}> has no <${name}>.`, element.line);
  return child;
}

/** @throws SieveError `model-file` where the attribute is missing */
export function needed(element: Element, name: string): string {
  const value = element.attributes[name];
  if (value === undefined) throw refused(`<${element.name}> has no attribute ${name}.`, element.line);
  return value;
}

/** A number of an attribute. @throws SieveError `model-file` where it is missing without a default, or no number */
export function numberOf(element: Element, name: string, otherwise?: number): number {
  const text = element.attributes[name];
  if (text === undefined && otherwise !== undefined) return otherwise;
  return numberIn(needed(element, name), element, name);
}

/** A finite number. @throws SieveError `model-file` */
export function numberIn(text: string, { name, line }: Element, of: string): number {
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value))
    throw refused(`<${name}> has “${text}” as ${of}, which is no finite number.`, line);
  return value;
}

/** One of the values that an attribute may have. @throws SieveError `model-file` naming what is not supported */
export function oneOf<T extends string>(
  element: Element,
  name: string,
  values: readonly T[],
  otherwise?: T,
): T {
  const text = element.attributes[name] ?? otherwise ?? needed(element, name);
  const found = values.find((value) => value === text);
  if (found === undefined) throw unsupported(element, `${name}="${text}"`);
  return found;
}

/** What PMML has and this program does not: named with its line, before anything is run. */
export const unsupported = (element: Element, what?: string) =>
  refused(`<${element.name}>${what === undefined ? '' : ` with ${what}`} is not supported.`, element.line);

/** The entries of an <Array>, or of text that is written like one: apart by blanks, texts perhaps in quotation marks. */
export function entriesOf(element: Element): string[] {
  const entries: string[] = [];
  for (const [whole, quoted] of element.text.matchAll(/"((?:[^"\\]|\\.)*)"|\S+/g))
    entries.push(quoted === undefined ? whole : quoted.replace(/\\(.)/g, '$1'));
  return entries;
}

/** Numbers of an <Array> or a sparse one (<REAL-SparseArray>, <INT-SparseArray>, whose places count from 1). */
export function numbersOf(element: Element): number[] {
  if (!element.name.endsWith('SparseArray'))
    return entriesOf(element).map((text) => numberIn(text, element, 'an entry'));
  const kind = element.name.startsWith('INT') ? 'INT' : 'REAL';
  const places = childOf(element, 'Indices');
  const entries = childOf(element, `${kind}-Entries`);
  const values = entries ? entriesOf(entries).map((text) => numberIn(text, entries, 'an entry')) : [];
  const at = places ? entriesOf(places).map((text) => numberIn(text, places, 'a place')) : [];
  const n = numberOf(element, 'n', at.length === 0 ? 0 : Math.max(...at));
  if (n > 1_000_000) throw refused(`<${element.name}> has more than 1,000,000 entries.`, element.line);
  const out = new Array<number>(n).fill(numberOf(element, 'defaultValue', 0));
  at.forEach((place, i) => (out[place - 1] = values[i] ?? 0));
  return out;
}
