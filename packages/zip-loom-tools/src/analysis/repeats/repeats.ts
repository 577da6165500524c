/** Markup that stands in several places, the same or the same but for texts and values: what a partial would save. */
import type { Span } from 'zip-loom/internal/diagnostics';
import { type Element, elementsOf, type TemplateTree } from 'zip-loom/internal/language';
import { freeName } from '../free-name.ts';
import { type Difference, differencesOf } from './differences.ts';
import { belongsElsewhere, Shapes } from './shapes.ts';
import { tellingWords, valuesOf } from './values.ts';

export interface RepeatPlace extends Span {
  file: string;
  /** Lines, counted from 1. */
  firstLine: number;
  lastLine: number;
}

export interface Repeat {
  /** A name for the partial. */
  name: string;
  /** The start tag of the first place. */
  start: string;
  /** How many bytes fewer the project would have. */
  saving: number;
  /** Bytes of all places. */
  bytes: number;
  places: readonly RepeatPlace[];
  differences: readonly Difference[];
}

interface Piece {
  tree: TemplateTree;
  element: Element;
}

/** @param least bytes that a repeat has to save */
export function findRepeats(trees: readonly TemplateTree[], least: number): Repeat[] {
  const shapes = new Shapes();
  const pieces = new Map<number, Piece[]>();
  for (const tree of trees) {
    const note = (element: Element, shape: number) => {
      if (belongsElsewhere(element) || tiedInside(element)) return;
      const known = pieces.get(shape);
      if (known) known.push({ tree, element });
      else pieces.set(shape, [{ tree, element }]);
    };
    for (const node of tree.children) if (node.kind === 'element') shapes.of(node, tree.source, note);
  }
  const candidates = [...pieces.values()]
    .filter((some) => some.length > 1)
    .map((some) => repeatOf(some))
    .sort((one, other) => other.saving - one.saving);
  return chosen(candidates, least);
}

/** The largest first; what is inside one that was chosen is part of it. */
function chosen(candidates: readonly Candidate[], least: number): Repeat[] {
  const found: Repeat[] = [];
  const taken = new Map<TemplateTree, Span[]>();
  const isTaken = ({ tree, element }: Piece) =>
    (taken.get(tree) ?? []).some(({ start, end }) => element.start < end && start < element.end);
  for (const candidate of candidates) {
    if (candidate.saving < least) break;
    const left = candidate.pieces.filter((piece) => !isTaken(piece));
    const repeat = left.length === candidate.pieces.length ? candidate : left.length > 1 ? repeatOf(left) : undefined;
    if (!repeat || repeat.saving < least) continue;
    for (const { tree, element } of left) taken.set(tree, [...(taken.get(tree) ?? []), element]);
    const { pieces: _, ...rest } = repeat;
    found.push(rest);
  }
  return named(found.sort((one, other) => other.saving - one.saving));
}

/** Each with a name of its own. */
function named(repeats: readonly Repeat[]): Repeat[] {
  const taken = new Set<string>();
  return repeats.map((repeat) => {
    const name = freeName(repeat.name, (one) => taken.has(one));
    taken.add(name);
    return { ...repeat, name };
  });
}

interface Candidate extends Repeat {
  pieces: readonly Piece[];
}

function repeatOf(pieces: readonly Piece[]): Candidate {
  const [first] = pieces;
  const { tree, element } = first!;
  const values = pieces.map((piece) => valuesOf(piece.element, piece.tree.source));
  const differences = differencesOf(values);
  const name = nameFor(element);
  const sizes = pieces.map((piece) => bytesOf(piece.tree.source.slice(piece.element.start, piece.element.end)));
  const bytes = sizes.reduce((sum, one) => sum + one, 0);
  const calls = pieces.reduce((sum, _piece, at) => sum + bytesOf(callOf(name, differences, at)), 0);
  const definition =
    differences.length === 0 ? 0 : bytesOf(`<meta (takes ${differences.map((one) => one.name).join(', ')})>\n`);
  return {
    name,
    start: tree.source.slice(element.startTag.start, element.startTag.end).replace(/\s+/g, ' '),
    saving: bytes - sizes[0]! - definition - calls,
    bytes,
    places: pieces.map((piece) => ({
      file: piece.tree.file,
      start: piece.element.start,
      end: piece.element.end,
      firstLine: piece.tree.lines.at(piece.element.start).line,
      lastLine: piece.tree.lines.at(piece.element.end).line,
    })),
    differences,
    pieces,
  };
}

function callOf(name: string, differences: readonly Difference[], at: number): string {
  const given = differences.map((one) => ` ${one.name}="${one.values[at]}"`);
  return `<${name}${given.join('')}></${name}>`;
}

function bytesOf(text: string): number {
  return new TextEncoder().encode(text).length;
}

/** Whether there is something inside that belongs to what is around it. */
function tiedInside(element: Element): boolean {
  return elementsOf(element.children).some(({ name }) => name === 'slot');
}

/** What people call an element. */
const words: Readonly<Record<string, string>> = {
  a: 'link',
  div: 'part',
  dd: 'value',
  li: 'item',
  p: 'text',
  span: 'text',
  td: 'cell',
  tr: 'row',
  ul: 'list',
  ol: 'list',
};

/** A name of two words, from the id or the class where there is one: `price-card`, `card-item`. */
function nameFor(element: Element): string {
  const word = (words[element.name] ?? element.name).replace(/[^a-z0-9]+/g, '-');
  const known = tellingWords(element);
  const name = known.find((one) => one.includes('-')) ?? known[0];
  if (name === undefined) return `page-${word}`;
  return name.includes('-') ? name : `${name}-${word}`;
}
