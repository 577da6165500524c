/** Choices that a definition asks for: lists by field, and what was found for fields that are searched. */
import { LoomError, messageOf } from '../../diagnostics/index.ts';
import type { LoomContext } from '../../kernel/index.ts';
import { formDiagnostic } from '../diagnostics.ts';
import { asChoice, type ChoiceList, type ChoiceLists, isChoiceList } from './choice-lists.ts';

/** What functions of a definition are given: an exchange is one. */
export interface FormExchange {
  /** The request itself. */
  readonly request: Request;
  /** What belongs to the request. */
  readonly context: LoomContext;
  /** Answers with the page for an error. */
  errorPage?(status: number, options: { text: string }): Response;
}

/** What a form shows, for choices that depend on other fields. */
export interface ShownTexts {
  /** What a field shows: what was sent, the model’s value, the default. */
  text(name: string): string;
}

/** Gives the choices of a field. Asked when the form is shown, and when it is read. */
export type ChoicesOf = (exchange: FormExchange, form: ShownTexts) => ChoiceList | Promise<ChoiceList>;

/** Finds the choices of a field among too many to show. */
export interface Search {
  /** Those that a text may mean, a few of them. */
  find(exchange: FormExchange, text: string): ChoiceList | Promise<ChoiceList>;
  /** The one with that value; nothing where there is none. */
  byValue(
    exchange: FormExchange,
    value: string,
  ): SearchedChoice | undefined | null | Promise<SearchedChoice | undefined | null>;
}

/** A choice that was searched for. */
export interface SearchedChoice {
  /** What the field has. */
  value: string | number;
  /** What the visitor reads and types. */
  label: string;
}

/** What was found for a field that is searched. */
interface Found {
  /** The value that its text means; missing where it means none, or more than one. */
  value?: string;
  /** What the field shows for the model’s value. */
  label?: string;
}

/** What was asked for. */
export interface Asked {
  lists: ChoiceLists;
  /** By the name of the field. */
  found: ReadonlyMap<string, Found>;
}

/** The form whose choices are asked for. */
interface Asking extends ShownTexts {
  /** Names of the fields of a pattern that the form shows: `crew[0].boat` for `crew[].boat`. */
  namesOf(pattern: string): readonly string[];
  /** Whether what a field shows was sent. */
  wasSent(name: string): boolean;
}

interface Definition {
  choices?: Readonly<Record<string, ChoicesOf>>;
  searches?: Readonly<Record<string, Search>>;
}

/** Whether a definition asks for any choices. */
export function asksForChoices({ choices, searches }: Definition): boolean {
  return choices !== undefined || searches !== undefined;
}

/** Asks for all of them. */
export async function askForChoices(
  { choices = {}, searches = {} }: Definition,
  exchange: FormExchange,
  form: Asking,
): Promise<Asked> {
  const lists: Array<[string, ChoiceList]> = [];
  const found = new Map<string, Found>();
  const ofLists = Object.entries(choices).map(async ([name, give]) =>
    lists.push([name, listOf(name, await give(exchange, form))]),
  );
  const ofSearches = Object.entries(searches).flatMap(([pattern, search]) =>
    form.namesOf(pattern).map(async (name) => {
      const text = form.text(name);
      if (text.trim() === '') return;
      if (form.wasSent(name)) {
        const hits = listOf(name, await search.find(exchange, text.trim()));
        lists.push([name, hits]);
        const value = meant(hits, text.trim());
        if (value !== undefined) found.set(name, { value });
      } else {
        const choice = await search.byValue(exchange, text);
        if (choice) found.set(name, { label: choice.label });
      }
    }),
  );
  await Promise.all([...ofLists, ...ofSearches]);
  return { lists: Object.fromEntries(lists), found };
}

/** @throws {LoomError} for what is no list of choices: functions of a project may give anything */
function listOf(field: string, given: unknown): ChoiceList {
  if (isChoiceList(given)) return given;
  throw new LoomError(formDiagnostic('invalid-choices', { field, given: messageOf(given) }));
}

/** The value of the one choice with that label, or with that value. */
function meant(choices: ChoiceList, text: string): string | undefined {
  const folded = text.toLowerCase();
  const named = choices.map(asChoice);
  const same = named.filter(({ label }) => label.trim().toLowerCase() === folded);
  const [only] = same.length > 0 ? same : named.filter(({ value }) => value === text);
  return same.length < 2 && only ? only.value : undefined;
}
