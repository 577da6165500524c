/** Rows of lists while a form is shown, and the buttons that change them. */
import { RenderError } from '../../diagnostics/index.ts';
import { formDiagnostic } from '../diagnostics.ts';
import { readEdit } from '../reading/edits.ts';
import { deepestName, formatPath, type Path, shapeAt } from '../schema/paths.ts';
import { modelValueAt, type RawGroup, rawAt } from '../schema/raw.ts';
import { rowCount, writeRows } from '../schema/rows.ts';
import type { Group, List } from '../schema/shape.ts';
import type { Step } from '../steps.ts';

/** What rows are called. */
interface RowWords {
  /** `Crew 1` for `crew[0]`. */
  label(path: string): string;
  remove(label: string): string;
}

let newRow: (index: number, path: string, words: RowWords) => Row;

/** A row of a list. */
export class Row {
  static {
    newRow = (...given) => new Row(...given);
  }

  readonly index: number;
  /** `crew[0]` */
  readonly path: string;
  private readonly words: RowWords;

  private constructor(index: number, path: string, words: RowWords) {
    this.index = index;
    this.path = path;
    this.words = words;
  }

  /** `Crew 1` */
  get label(): string {
    return this.words.label(this.path);
  }

  /** What the button says that removes it, to those who do not see which one. */
  get removeText(): string {
    return this.words.remove(this.label);
  }
}

/** What a form shows, as far as rows are concerned. */
interface Content {
  model: unknown;
  raw?: RawGroup | undefined;
  /** Where the focus goes: `crew[2]`, or `add crew`. */
  focus?: string | undefined;
  /** The step that is shown. */
  step?: Pick<Step, 'isFirst'> | undefined;
}

export class ShownRows {
  private readonly form: string;
  private readonly shape: Group;
  private readonly content: Content;
  /** Lists whose rows the page went through. */
  private lists: Set<string> | undefined;
  private hasFocused = false;

  constructor(form: string, shape: Group, content: Content) {
    this.form = form;
    this.shape = shape;
    this.content = content;
  }

  items(name: string, path: Path, words: RowWords): Row[] {
    const { length } = this.list(name, path);
    this.lists ??= new Set();
    this.lists.add(name);
    return Array.from({ length }, (_, index) => newRow(index, `${name}[${index}]`, words));
  }

  shown(pathOf: (name: string) => Path): Array<{ name: string; rows: string }> {
    const { raw } = this.content;
    // A row that is one text has nothing else to keep.
    const rowsOf = (name: string) => {
      const path = pathOf(name);
      return raw && this.list(name, path).shape.item.shape !== 'value' ? writeRows(rawAt(raw, path)) : '';
    };
    return [...(this.lists ?? [])].map((name) => ({ name, rows: rowsOf(name) }));
  }

  /** A button is off where its list has all the rows that it may have, or no more than it must. */
  button(edit: string, pathOf: (name: string) => Path): { isOff: boolean; hasFocus: boolean } {
    return { isOff: this.isOff(edit, pathOf), hasFocus: this.takeFocus(edit) };
  }

  private isOff(edit: string, pathOf: (name: string) => Path): boolean {
    const asked = readEdit(edit, deepestName);
    if (asked && !('path' in asked)) return asked.kind === 'back' && this.content.step?.isFirst === true;
    // What is no name at all has no list either.
    const path = asked ? pathOf(formatPath(asked.path)) : pathOf(edit.slice(edit.indexOf(' ') + 1));
    const isAdd = asked?.kind === 'add';
    const listPath = isAdd ? path : path.slice(0, -1);
    const { length, shape } = this.list(formatPath(path), listPath);
    return isAdd ? length >= (shape.maximum ?? Infinity) : length <= (shape.required ? (shape.minimum ?? 0) : 0);
  }

  /** Whether the focus goes to what is asked about: the first control of the row, or the button. */
  takeFocus(name: string): boolean {
    const { focus } = this.content;
    if (focus === undefined || this.hasFocused) return false;
    if (name !== focus && !['.', '['].some((next) => name.startsWith(focus + next))) return false;
    this.hasFocused = true;
    return true;
  }

  /** Names of the fields that a path with `''` for indices means. */
  namesOf(pattern: Path): string[] {
    const at = pattern.indexOf('');
    if (at === -1) return [formatPath(pattern)];
    const before = pattern.slice(0, at);
    const { length } = this.list(formatPath(before), before);
    return Array.from({ length }, (_, index) => this.namesOf([...before, index, ...pattern.slice(at + 1)])).flat();
  }

  private list(name: string, path: Path): { length: number; shape: List } {
    const shape = shapeAt(this.shape, path);
    if (shape?.shape !== 'list')
      throw new RenderError(formDiagnostic('unknown-list', { form: this.form, field: name }));
    const { raw, model } = this.content;
    return { shape, length: rowCount(shape, raw && rawAt(raw, path), modelValueAt(model, raw, path)) };
  }
}
