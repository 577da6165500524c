/** A family’s frame as a layout, and its pages as what fills it. */
import { decodeHTMLAttribute } from 'entities';
import { argumentName, attributeName } from 'zip-loom/internal/compiler';
import { escapedText, fixedValue, printedText } from 'zip-loom/internal/language';
import { freeName } from '../free-name.ts';
import { tellingWords } from '../repeats/values.ts';
import { usualContent } from './holes.ts';
import type { Names } from './names.ts';
import { type NearMiss, nearMissOf } from './near-misses.ts';
import { isPartial, type Partials } from './partials.ts';
import { type ElementPart, type Hole, holesOf, type Part, type Sheet, type TagPiece } from './parts.ts';
import { withLead } from './sheets.ts';
import { spaceOf } from './tags.ts';

export interface LayoutFiles {
  /** By path below the folder of templates. */
  files: Record<string, string>;
  /** What nearly all pages have the same. */
  nearMisses: NearMiss[];
  accepted: Accepted[];
  slots: string[];
  parameters: string[];
}

/** A text of one page that gave way to what the others have. */
export interface Accepted {
  /** Of the near miss. */
  name: string;
  page: string;
  was: string;
  is: string;
}

interface Slot {
  name: string;
  hole: Hole;
  isTitle: boolean;
  /** What all pages have from now on: it is no slot. */
  settled?: string;
}

export interface LayoutSettings {
  /** A name for the layout, and the names that are used. */
  guess: string;
  names: Names;
  /** Those of the site so far. */
  partials: Partials;
  /** Whether a near miss of that name is to be as it is on most pages. */
  isAccepted(name: string): boolean;
}

export function layoutFiles(
  frame: readonly Part[],
  sheets: readonly Sheet[],
  { guess, names, partials, isAccepted }: LayoutSettings,
): LayoutFiles {
  const accepted: Accepted[] = [];
  const layout = names.template(guess);
  const slots = slotsOf(frame).map((slot): Slot => {
    if (slot.name === '') return slot;
    const name = names.slot(guess, slot.name);
    const [miss] = nearMissOf(name, slot.hole.contents, sheets);
    if (!miss || !isAccepted(name) || !isText(miss)) return { ...slot, name };
    accepted.push(...miss.others.map(({ page, text }) => ({ name, page, was: text, is: miss.usual })));
    return { ...slot, name, settled: miss.usual };
  });
  const open = slots.filter(({ settled }) => settled === undefined);
  const writer = new LayoutWriter(sheets, slots, partials, (parameter) => names.parameter(guess, parameter));
  const body = writer.write(frame);
  const { parameters, given } = writer;
  const takes = parameters.length === 0 ? '' : `<meta (takes ${parameters.join(', ')})>\n`;
  const files: Record<string, string> = { [`layouts/${layout}.html`]: takes + withLead(body) };
  sheets.forEach(({ path }, page) => {
    const args = given
      .map(({ name, values }) => (values[page] === undefined ? '' : ` ${attributeName(name)}=${quoted(values[page])}`))
      .join('');
    files[`pages/${path}.html`] = `<meta (layout ${layout}${args})>\n${fillsOn(open, page)}`;
  });
  return {
    files,
    accepted,
    nearMisses: [...writer.nearMisses, ...open.flatMap((slot) => nearMissOf(slot.name, slot.hole.contents, sheets))],
    slots: open.map(({ name }) => name || 'the main content'),
    parameters,
  };
}

/** Whether every page has something, which is written as it is. */
function isText({ usual, others }: NearMiss): boolean {
  return [usual, ...others.map(({ text }) => text)].every((text) => text !== '' && !text.includes('${'));
}

/** What fills the slots of a layout on one page. */
function fillsOn(slots: readonly Slot[], page: number): string {
  let named = '';
  let main = '';
  for (const { name, hole, isTitle } of slots) {
    const text = hole.contents[page]!;
    if (name === '') main = `${text}\n`;
    else if (text === '' || text === usualContent(hole)) continue;
    else if (isTitle) named += `<title slot="${name}">${text}</title>\n`;
    else named += `<template slot="${name}">${text}</template>\n`;
  }
  return named + main;
}

/** The largest in the body is the one without a name. */
function slotsOf(frame: readonly Part[]): Slot[] {
  const found = holesOf(frame);
  const sizeOf = ({ contents }: Hole) => contents.reduce((sum, text) => sum + text.length, 0);
  const isInHead = (around: readonly ElementPart[]) => around.some(({ element }) => element.name === 'head');
  const [main] = found
    .filter(({ around }) => !isInHead(around))
    .sort((one, other) => sizeOf(other.hole) - sizeOf(one.hole));
  const taken = new Set<string>();
  return found.map(({ hole, around }) => {
    const parent = around.at(-1)?.element;
    const isTitle = parent?.name === 'title';
    const name = hole === main?.hole ? '' : freeName(nameFor(hole, around), (one) => taken.has(one));
    if (name !== '') taken.add(name);
    return { name, hole, isTitle };
  });
}

function nameFor({ contents }: Hole, around: readonly ElementPart[]): string {
  const parent = around.at(-1)?.element;
  if (!parent || parent.name === 'html') return 'page';
  if (parent.name === 'title') return 'title';
  if (parent.name === 'head') return 'head';
  if (parent.name === 'body') return contents.some((text) => text.includes('<script')) ? 'scripts' : 'more';
  for (const { element } of around.toReversed()) {
    const [word] = tellingWords(element);
    if (word !== undefined) return word;
    if (/^(?:header|nav|main|aside|footer|h[1-6])$/.test(element.name)) return element.name;
  }
  return parent.name;
}

class LayoutWriter {
  readonly parameters: string[] = [];
  /** What each page gives for a parameter; `undefined` where it gives nothing. */
  readonly given: Array<{ name: string; values: Array<string | undefined> }> = [];
  readonly nearMisses: NearMiss[] = [];
  private readonly sheets: readonly Sheet[];
  private readonly slots: readonly Slot[];
  private readonly partials: Partials;
  private readonly parameterName: (guess: string) => string;
  private isInPartial = false;

  constructor(
    sheets: readonly Sheet[],
    slots: readonly Slot[],
    partials: Partials,
    parameterName: (guess: string) => string,
  ) {
    this.parameterName = parameterName;
    this.sheets = sheets;
    this.slots = slots;
    this.partials = partials;
  }

  write(parts: readonly Part[]): string {
    return parts.map((part) => this.part(part)).join('');
  }

  private part(part: Part): string {
    if (this.isInPartial || !isPartial(part)) return this.textOf(part);
    this.isInPartial = true;
    const text = this.textOf(part);
    this.isInPartial = false;
    return this.partials.call(part, text);
  }

  private textOf(part: Part): string {
    if (part.kind === 'fixed') return part.text;
    if (part.kind === 'hole') {
      const { name, settled } = this.slots.find(({ hole }) => hole === part)!;
      if (settled !== undefined) return settled;
      return name === '' ? '<slot></slot>' : `<slot name="${name}">${usualContent(part)}</slot>`;
    }
    const tag = part.tag.map((piece) => (typeof piece === 'string' ? piece : this.attribute(piece, part))).join('');
    return tag + this.write(part.children) + part.end;
  }

  /** ` class=${active === 'about' ? 'is-active' : null}`, or a parameter where there are more than two values. */
  private attribute(piece: Exclude<TagPiece, string>, part: ElementPart): string {
    const { attribute, texts } = piece;
    const values = texts.map(attributeValue);
    const distinct = [...new Set(texts)];
    if (distinct.length === 2) {
      const [usual, other] = this.moreOften(texts, distinct);
      const pages = this.sheets.flatMap(({ path }, page) => (texts[page] === other ? [path] : []));
      const isActive =
        pages.length === 1 ? `active === ${literal(pages[0]!)}` : `[${pages.map(literal).join(', ')}].includes(active)`;
      this.take(
        'active',
        this.sheets.map(({ path }) => path),
      );
      return `${spaceOf(piece)}${attribute}=\${${isActive} ? ${literal(attributeValue(other))} : ${literal(attributeValue(usual))}}`;
    }
    this.nearMisses.push(
      ...nearMissOf(
        attribute,
        texts.map((text) => text.trim()),
        this.sheets,
      ),
    );
    const isMeta = part.element.name === 'meta' && attribute === 'content';
    const guess = argumentName(this.freeName(isMeta ? metaName(part) : `${part.element.name}-${attribute}`));
    const name = this.parameterName(guess);
    this.take(
      name,
      values.map((value) => (value === null ? undefined : value)),
    );
    return `${spaceOf(piece)}${attribute}=\${${name}}`;
  }

  private moreOften(texts: readonly string[], [one = '', other = '']: readonly string[]): [string, string] {
    const count = texts.filter((text) => text === one).length;
    return count * 2 >= texts.length ? [one, other] : [other, one];
  }

  private take(name: string, values: Array<string | undefined>): void {
    if (this.given.some((one) => one.name === name)) return;
    this.given.push({ name, values });
    const isOptional = values.includes(undefined);
    this.parameters.push(`${name}${isOptional ? '?' : ''}: string`);
  }

  private freeName(name: string): string {
    return freeName(name.replace(/[^a-z0-9-]+/g, '-'), (guess) => this.given.some((one) => one.name === guess));
  }
}

/** `description` of `<meta name="description">`. */
function metaName({ element }: ElementPart): string {
  for (const item of element.items)
    if (item.kind === 'attribute' && (item.name === 'name' || item.name === 'property'))
      return (fixedValue(item) ?? 'meta').toLowerCase();
  return 'meta';
}

/** What an attribute says, its character references read; `null` where it is missing, '' for a bare name. */
function attributeValue(text: string): string | null {
  if (text === '') return null;
  const equals = text.indexOf('=');
  const written = equals === -1 ? '' : text.slice(equals + 1).trim();
  return decodeHTMLAttribute(printedText(/^["']/.test(written) ? written.slice(1, -1) : written));
}

/** A string of ECMAScript (ECMA-262 §12.9.4) in single quotes. */
function literal(value: string | null): string {
  if (value === null) return 'null';
  return `'${JSON.stringify(value).slice(1, -1).replaceAll('\\"', '"').replaceAll("'", "\\'")}'`;
}

/** The value of an argument: text alone, whatever it looks like once its character references are read. */
function quoted(value: string): string {
  return `"${escapedText(value.replaceAll('&', '&amp;').replaceAll('"', '&quot;'))}"`;
}
