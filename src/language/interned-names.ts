/**
 * One string for each name, however often it is in templates: names are compared again and again, and two references to
 * the same string are compared at once.
 */
import { lowerCase } from './characters.ts';

/** Names of elements and attributes as they are written → as they are known. */
const markupNames = new Map<string, string>();

/** Names in expressions. */
const scriptNames = new Map<string, string>();

/** Templates have some hundred names. What generated text has beyond this is not kept. */
const mostNames = 10_000;

/** The name of an element or attribute between two offsets, in lower case. */
export function markupName(source: string, start: number, end: number): string {
  const written = source.slice(start, end);
  return markupNames.get(written) ?? remember(markupNames, written, lowerCase(written));
}

/** The name in an expression between two offsets. */
export function scriptName(source: string, start: number, end: number): string {
  const written = source.slice(start, end);
  return scriptNames.get(written) ?? remember(scriptNames, written, written);
}

function remember(names: Map<string, string>, written: string, name: string): string {
  if (names.size < mostNames) names.set(copied(written), copied(name));
  return names.get(written) ?? name;
}

/** A slice would keep the whole file. */
function copied(text: string): string {
  return JSON.parse(JSON.stringify(text)) as string;
}
