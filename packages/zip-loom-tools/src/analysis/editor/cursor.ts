/** What somebody is about to write at a place of a template, however little of it is there yet. */

export type Cursor = {
  /** Where the word at the cursor begins, and what of it is before the cursor. */
  start: number;
  written: string;
} & (
  | { kind: 'tag' }
  /** The name of an attribute. */
  | { kind: 'attribute'; tag: string }
  /** The word of a clause. */
  | { kind: 'clause'; tag: string }
  /** What a clause says behind its word, where that is a name: `(layout si|`. */
  | { kind: 'clause-name'; clause: string }
  /** The value of an attribute, without a substitution before the cursor. */
  | { kind: 'value'; tag: string; attribute: string }
  /** A name in an expression. */
  | { kind: 'name' }
  /** A field of a value: `berth.|` */
  | { kind: 'field' }
);

/** What is open around the cursor. */
interface Open {
  kind: 'tag' | 'clause' | 'expression' | 'value';
  start: number;
  /** How a value ends. */
  quote?: string;
}

/** @returns `undefined` where there is nothing to propose: in text, in comments, in strings of expressions */
export function cursorAt(source: string, offset: number): Cursor | undefined {
  const open = openAt(source, offset);
  const last = open.at(-1);
  if (!last) return undefined;
  const tagStart = open.find(({ kind }) => kind === 'tag')?.start;
  const tag = tagStart === undefined ? '' : (/^<\/?([a-z][\w.-]*)/i.exec(source.slice(tagStart))?.[1] ?? '');
  const before = source.slice(last.start, offset);
  switch (last.kind) {
    case 'tag': {
      const [, name] = /^<\/?([a-z][\w.-]*)?$/i.exec(before) ?? [];
      if (/^<\/?[\w.-]*$/.test(before)) return { kind: 'tag', ...word(name ?? '', offset) };
      const [, attribute = ''] = /\s([\w.:-]*)$/.exec(before) ?? [];
      return /\s[\w.:-]*$/.test(before) ? { kind: 'attribute', tag, ...word(attribute, offset) } : undefined;
    }
    case 'clause': {
      const [, written] = /^\(\s*([\w-]*)$/.exec(before) ?? [];
      if (written !== undefined) return { kind: 'clause', tag, ...word(written, offset) };
      const [, clause = '', name] = /^\(\s*([\w-]+)\s+([\w.[\]-]*)$/.exec(before) ?? [];
      if (name !== undefined && namingClauses.has(clause))
        return { kind: 'clause-name', clause, ...word(name, offset) };
      return nameAt(before, offset);
    }
    case 'expression':
      return nameAt(before, offset);
    case 'value': {
      const [, attribute = ''] = /([\w.:-]+)\s*=\s*["']?$/.exec(source.slice(tagStart, last.start + 1)) ?? [];
      const written = before.slice(last.quote === '' ? 0 : 1);
      return written.includes('${') ? undefined : { kind: 'value', tag, attribute, ...word(written, offset) };
    }
  }
}

/** Clauses that name fields of the form around them. */
const fieldClauses = new Set(['errors', 'add', 'remove', 'select-all']);

/** Clauses that name something of the project. */
const namingClauses = new Set(['layout', 'into', 'region', ...fieldClauses]);

/** Whether TypeScript knows what may be written there: a field of a value, or the name of a field of a form. */
export function isTyped(cursor: Cursor): boolean {
  if (cursor.kind === 'value') return cursor.attribute === 'name';
  return cursor.kind === 'field' || (cursor.kind === 'clause-name' && fieldClauses.has(cursor.clause));
}

/**
 * The text with a word at the cursor, where there is none yet, so that what is before it can be read; and once more with all closed that
 * is open there.
 */
export function finishedTexts(source: string, offset: number, { written }: Cursor): string[] {
  const [before, after] = [source.slice(0, offset) + (written === '' ? 'x' : ''), source.slice(offset)];
  const closing = openAt(source, offset)
    .toReversed()
    .map(({ kind, quote }) => ({ tag: '>', clause: ')', expression: '}', value: quote ?? '' })[kind]);
  return [before + after, before + closing.join('') + after];
}

function word(written: string, offset: number): { start: number; written: string } {
  return { start: offset - written.length, written };
}

function nameAt(before: string, offset: number): Cursor | undefined {
  const field = /(?:^|[^.])\.\s*([\p{ID_Start}$_][\p{ID_Continue}$]*)?$/u.exec(before);
  if (field) return { kind: 'field', ...word(field[1] ?? '', offset) };
  const [, lead = '', written = ''] =
    /(^|[^\p{ID_Continue}$.]|\.\.\.)([\p{ID_Start}$_][\p{ID_Continue}$]*)?$/u.exec(before) ?? [];
  if (lead === '' && written === '' && before !== '') return undefined;
  return { kind: 'name', ...word(written, offset) };
}

/** What is open at an offset, the outermost first. */
function openAt(source: string, offset: number): Open[] {
  const open: Open[] = [];
  let at = 0;
  while (at < offset) {
    const last = open.at(-1);
    const rest = source.slice(at, at + 4);
    if (!last) {
      if (rest === '<!--') at = after(source, '-->', at + 4);
      else if (
        /^<\/?[a-z]/i.test(rest) ||
        (rest[0] === '<' && at + 1 === offset) ||
        (rest.startsWith('</') && at + 2 === offset)
      ) {
        open.push({ kind: 'tag', start: at });
        at += 1;
      } else if (rest.startsWith('\\${')) at += 3;
      else if (rest.startsWith('${')) {
        at += 2;
        open.push({ kind: 'expression', start: at });
      } else at += 1;
      continue;
    }
    const letter = source[at]!;
    at += 1;
    if (last.kind === 'tag') {
      if (letter === '>') open.pop();
      else if (letter === '(') open.push({ kind: 'clause', start: at - 1 });
      else if (rest.startsWith('${')) open.push({ kind: 'expression', start: ++at });
      else if (letter === '=') {
        while (at < offset && /\s/.test(source[at]!)) at += 1;
        const quote = /["']/.test(source[at] ?? '') ? source[at]! : '';
        if (source.startsWith('${', at)) continue;
        open.push({ kind: 'value', start: at, quote });
        if (quote !== '') at += 1;
      }
    } else if (last.kind === 'value') {
      const ends = last.quote === '' ? /[\s>]/.test(letter) : letter === last.quote;
      if (rest.startsWith('${')) open.push({ kind: 'expression', start: ++at });
      else if (ends) {
        open.pop();
        if (letter === '>') open.pop();
      }
    } else {
      at = inCode(source, at, open, last);
    }
  }
  return at > offset ? [] : open;
}

/** In an expression or a clause: strings and brackets. @returns where it goes on */
function inCode(source: string, at: number, open: Open[], last: Open): number {
  const letter = source[at - 1]!;
  if (/["'`]/.test(letter)) {
    const end = source.indexOf(letter, at);
    return end === -1 ? source.length + 1 : end + 1;
  }
  const [opening, closing] = last.kind === 'clause' ? ['(', ')'] : ['{', '}'];
  if (letter === opening) open.push({ kind: last.kind, start: at - 1 });
  else if (letter === closing) open.pop();
  return at;
}

function after(source: string, text: string, from: number): number {
  const found = source.indexOf(text, from);
  return found === -1 ? source.length + 1 : found + text.length;
}
