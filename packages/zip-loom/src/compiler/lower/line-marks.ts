/** Marks before what a line of a template prints, for those who trace it. */
import type { TemplateNode } from '../../language/index.ts';
import { lineMark } from '../../protocol/index.ts';
import { addText, type Part } from '../parts.ts';
import type { Place } from './place.ts';

/** A mark for the line that an offset of the source is in. */
export function addMark(parts: Part[], offset: number, { whole }: Place): void {
  if (!whole.marksLines) return;
  const { file, lines } = whole.template.tree;
  addText(parts, lineMark(file, lines.at(offset).line));
}

/** The printed text of a node, with a mark at the beginning of each line. */
export function markedText(text: string, { start }: TemplateNode, { whole }: Place): string {
  if (!whole.marksLines) return text;
  const { file, lines } = whole.template.tree;
  const { line } = lines.at(start);
  return text
    .split('\n')
    .map((one, index) => (one === '' ? one : lineMark(file, line + index) + one))
    .join('\n');
}
