/** What a bound form is made from, and what it shows. */
import type { RawGroup } from '../schema/raw.ts';
import type { PresentFile, SentFile } from './files.ts';
import type { ChoiceLists } from './labels.ts';

export interface BindOptions {
  /** Files that the model has, by field: they are shown with a box that removes them. */
  files?: Readonly<Record<string, PresentFile | readonly PresentFile[] | null | undefined>>;
  /** Choices that come from data. */
  choices?: ChoiceLists;
  /** Tells forms of one definition on one page apart; part of all ids. */
  key?: string;
}

/** Names of fields → messages; `''` for the form’s own. */
export type FieldErrors = Record<string, string[]>;

/** What a bound form shows. */
export interface FormContent {
  /** The model, or the values that a blank form begins with. */
  model: unknown;
  /** What was sent, if anything was. */
  raw?: RawGroup | undefined;
  errors: FieldErrors;
  locale?: string | undefined;
  /** Files that were sent, by field: whoever shows the form again keeps them for the next try. */
  files?: ReadonlyMap<string, readonly SentFile[]>;
  /** Fields whose file is to be removed. */
  removed?: ReadonlySet<string>;
  /** Where the focus goes, where a row was added or removed: `crew[2]`, or `add crew`. */
  focus?: string | undefined;
}
